import { linksOf } from '../../../../../../../views/record'

export default defineRoute(
  'DELETE /records/:object/:id/links/:other/:otherId',
  ({ workspace, scope, person, params: { object, id, other, otherId } }) => {
    const [ref, to] = [
      { object, id },
      { object: other, id: otherId },
    ]
    visibleRecord({ workspace, scope }, ref)
    visibleRecord({ workspace, scope }, to)
    if (!workspace.unlink(ref, to, person.id)) throw notFound(`link from ${object} ${id} to ${other} ${otherId}`)
    return { links: linksOf(workspace, ref, scope) }
  },
)
