import { overview } from '../../views/overview'

export default defineRoute('GET /overview', ({ workspace, person }) => {
  const whole = workspace.catalogue().person(person.id)
  if (!whole) throw notFound(`person ${person.id}`)
  return overview(workspace, whole)
})
