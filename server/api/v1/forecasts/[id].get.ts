import { sayLimit } from '../../../../core/rehearsal/forecast'

export default defineRoute('GET /forecasts/:id', async ({ workspace, params: { id } }) => {
  const begun = rehearsalOf(id)
  if (!begun) throw notFound(`forecast ${id}`)
  const { state, progress, text } = begun
  const found = state === 'running' ? null : await useRehearsals().ask('forecast', id)
  const catalogue = workspace.catalogue()
  return {
    state,
    progress,
    text,
    forecast: found && {
      ...found,
      limits: found.limits.map((limit) => ({ code: limit.code, text: sayLimit(limit, found.object, catalogue) })),
    },
  }
})
