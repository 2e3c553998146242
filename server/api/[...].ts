/** What is no route of ours is refused like everything else. */
export default defineEventHandler((event) =>
  answerProblem(event, new ProblemError(404, 'Not found', 'There is no such route. See /api/v1/openapi.json.')),
)
