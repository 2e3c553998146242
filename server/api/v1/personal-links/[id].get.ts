import { personOf } from '../../../engine/personal-link'

export default defineRoute('GET /personal-links/:id', ({ workspace, scope, params: { id } }) => {
  visibleRecord({ workspace, scope }, { object: 'contact', id })
  return { person: personOf(workspace, id) }
})
