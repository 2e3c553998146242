/** By so much of a file its columns are guessed: more than the rows that are looked at ever take. */
const LOOKED_AT = 2_000_000

/** The beginning of a file, up to the end of a line, and so mostly of a row. */
function beginningOf(content: string): string {
  if (content.length <= LOOKED_AT) return content
  const end = content.lastIndexOf('\n', LOOKED_AT)
  return content.slice(0, end > 0 ? end : LOOKED_AT)
}

/** Takes a file in and guesses its columns; those of a file with the same headings go where they went then. */
export default defineRouteBehind(
  'POST /imports',
  ({ body: { content, object } }) =>
    useReader().ask('guess', {
      content: content.includes('\0') ? '\0' : beginningOf(content),
      before: true,
      ...(object === undefined ? {} : { object }),
    }),
  ({ workspace, person, body: { fileName, content } }, { problem, mapping }) => {
    if (problem !== null) throw new ProblemError({ code: 'fileUnreadable', said: problem })
    return {
      id: workspace.store.imports.create({ fileName, content, mapping, personId: person.id }, workspace.clock.nowMs()),
    }
  },
)
