/** What is no route of ours is refused like everything else. */
export default defineEventHandler((event) => answerProblem(event, new ProblemError({ code: 'noRoute' })))
