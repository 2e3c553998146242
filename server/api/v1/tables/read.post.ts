import { sayProblem } from '../../../../core/language/problems'

/** A decision table from a file, for a step of a rule. */
export default defineRoute('POST /tables/read', async ({ body }) => {
  const read = await useReader().ask('table', body)
  if (!read) throw notFound(`step ${body.step}`)
  if (!read.ok) throw new ProblemError({ code: 'fileNotImported', said: sayProblem(read.problem) })
  return read.value
})
