import { readHolidays } from '../../../../core/formats/ics'
import { sayProblem } from '../../../../core/language/problems'

export default defineRoute('POST /hours/holidays', ({ body: { text } }) => {
  const read = readHolidays(text)
  if (!read.ok)
    throw new ProblemError(422, 'Cannot be read', 'The file was not taken.', [
      { path: 'text', text: sayProblem(read.problem) },
    ])
  return read.value
})
