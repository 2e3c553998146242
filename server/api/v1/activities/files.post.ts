import { readHappenings, tellHappenings } from '../../../engine/happenings'

/** The same from a CSV file. */
export default defineRoute('POST /activities/files', ({ workspace, body: { text } }) => {
  const { given, refused } = readHappenings(workspace, text)
  const told = tellHappenings(workspace, given)
  return { ...told, refused: [...refused, ...told.refused].sort((a, b) => a.row - b.row) }
})
