import { isLinkable } from '../../../../../../../core/records/record'
import { linksOf } from '../../../../../../views/record'

/** Links two records. Linking what is linked already changes the link. */
export default defineRoute(
  'POST /records/:object/:id/links',
  ({ workspace, scope, person, params: ref, body: { to, role, main } }) => {
    visibleRecord({ workspace, scope }, ref)
    visibleRecord({ workspace, scope }, to)
    if (!isLinkable(ref, to)) throw new ProblemError({ code: 'linkOtherWay', from: ref.object, to: to.object })
    workspace.link(ref, to, role, main, person.id)
    return { links: linksOf(workspace, ref, scope) }
  },
)
