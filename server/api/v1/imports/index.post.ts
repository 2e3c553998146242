/** Takes a file in and guesses its columns; those of a file with the same headings go where they went then. */
export default defineRouteBehind(
  'POST /imports',
  ({ body: { content, object } }) =>
    useReader().ask('guess', { content, before: true, ...(object === undefined ? {} : { object }) }),
  ({ workspace, person, body: { fileName, content } }, { problem, mapping }) => {
    if (problem !== null) throw new ProblemError(422, 'File can’t be read', problem)
    return {
      id: workspace.store.imports.create({ fileName, content, mapping, personId: person.id }, workspace.clock.nowMs()),
    }
  },
)
