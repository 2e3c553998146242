import { addressOf } from '../../auth/guarded'
import { realNow } from '../../auth/session'
import { takeIn } from '../../engine/intake'
import { readJsonText } from '../../utils/body'
import { Pace } from '../../utils/pace'
import { ProblemError } from '../../utils/problem'
import { answerProblem } from '../../utils/route'
import { useWorkspace } from '../../utils/workspace'

const BODY_MOST = 256_000
/** Of one address: a service that runs wild does not hold up the others. */
const pace = new Pace(1200)

/** A request from a service outside, at an address that was made for it. */
export default defineEventHandler(async (event) => {
  try {
    if (!pace.letsIn(addressOf(event), realNow())) {
      setResponseHeader(event, 'retry-after', 60)
      throw new ProblemError(429, 'Too many requests', 'Wait a minute, then try again.')
    }
    const workspace = useWorkspace()
    workspace.keepUp()
    const intake = workspace.catalogueOrNull()
      ? workspace.store.intakes.bySlug(getRouterParam(event, 'slug') ?? '')
      : null
    if (!intake) throw new ProblemError(404, 'Not found', 'There is no such address.')
    const body = await readJsonText(event, BODY_MOST)
    const got = takeIn(workspace, intake, { headers: getHeaders(event), body })
    if (got.is === 'refused') throw new ProblemError(got.status, 'Not taken', got.because)
    setResponseStatus(event, got.is === 'known' ? 200 : 202)
    return { taken: got.is === 'taken', says: got.says }
  } catch (error) {
    return answerProblem(event, error)
  }
})
