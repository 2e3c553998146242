import { signed } from '../../../engine/signed-link'

export default defineRoute('GET /personal-links/:id', ({ workspace, scope, params: { id } }) => {
  visibleRecord({ workspace, scope }, { object: 'contact', id })
  return { person: signed(workspace, 'contact', id) }
})
