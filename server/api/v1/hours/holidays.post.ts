import { sayProblem } from '../../../../core/language/problems'

export default defineRouteAwaiting('POST /hours/holidays', async ({ body: { text } }) => {
  const read = await useReader().ask('holidays', text)
  if (!read.ok) throw new ProblemError({ code: 'fileNotImported', said: sayProblem(read.problem) })
  return read.value
})
