import { setTerritories } from '../../engine/hours'

export default defineRoute('PUT /territories', ({ workspace, body }) => {
  for (const { filter } of body.territories) fitting(filter, 'company')
  setTerritories(workspace, body.territories)
  return { ok: true }
})
