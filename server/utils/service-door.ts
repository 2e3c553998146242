import type { H3Event } from 'h3'
import { addressOf } from '../auth/guarded'
import { realNow } from '../auth/session'
import type { Workspace } from '../engine/workspace'
import { Pace } from './pace'
import { ProblemError } from './problem'
import { answerProblem } from './route'
import { useWorkspace } from './workspace'

/** Of one address: a service that runs wild does not hold up the others. */
const PACE = 1200

/** A route for services outside, at an address that was made for them: nobody is signed in, each has a pace. */
export const defineServiceDoor = <Answer>(
  handler: (workspace: Workspace, event: H3Event) => Answer | Promise<Answer>,
) => {
  const pace = new Pace(PACE)
  return defineEventHandler(async (event) => {
    try {
      if (!pace.letsIn(addressOf(event), realNow())) {
        setResponseHeader(event, 'retry-after', 60)
        throw new ProblemError({ code: 'tooManyRequests' })
      }
      const workspace = useWorkspace()
      workspace.keepUp()
      return await handler(workspace, event)
    } catch (error) {
      return answerProblem(event, error)
    }
  })
}
