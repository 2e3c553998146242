import type { H3Event } from 'h3'
import type { z } from 'zod'
import { addressOf } from '../auth/guarded'
import { realNow } from '../auth/session'
import { readForm, readJson } from './body'
import { Pace } from './pace'
import { ProblemError } from './problem'
import { answerProblem } from './route'

/** What the firm's own pages tell of, and what visitors ask there: nobody is signed in. */

const BODY_MOST = 20_000
/** Behind one address there may be a whole firm of visitors; a program that sends for ever is held up. */
const pace = new Pace(600)

/** Whether a request comes from a page of ours, or of a website that may tell of visits. */
function fromOurPages(event: H3Event): boolean {
  const origin = getHeader(event, 'origin')
  if (origin === undefined) return true
  if (!URL.canParse(origin)) return false
  const { host } = new URL(origin)
  return host === getRequestHost(event) || useWorkspace().store.websites.has(host)
}

/**
 * A route for visitors: it is no part of the API, asks for no cookie, and answers pages of the firm alone. A body is
 * JSON whatever it is called, since a browser that leaves a page can only send text; or a form.
 */
export const defineFrontDoor = <Body, Answer>(
  schema: z.ZodType<Body> | null,
  handler: (body: Body, event: H3Event) => Answer | Promise<Answer>,
) =>
  defineEventHandler(async (event) => {
    try {
      if (!pace.letsIn(addressOf(event), realNow())) {
        setResponseHeader(event, 'retry-after', 60)
        throw new ProblemError({ code: 'tooManyRequests' })
      }
      if (!fromOurPages(event)) throw new ProblemError({ code: 'websiteNotAllowed' })
      const workspace = useWorkspace()
      workspace.keepUp()
      if (!workspace.catalogueOrNull()) throw new ProblemError({ code: 'notSetUp' })
      if (!schema) return await handler(undefined as Body, event)
      const isForm = /^application\/x-www-form-urlencoded\b/i.test(getHeader(event, 'content-type') ?? '')
      const read = schema.safeParse(await (isForm ? readForm : readJson)(event, BODY_MOST))
      if (!read.success) {
        const issue = read.error.issues[0]
        throw new ProblemError({
          code: 'formInvalid',
          path: issue?.path.join('.') || 'body',
          said: issue?.message ?? 'It is not valid.',
        })
      }
      return await handler(read.data, event)
    } catch (error) {
      return answerProblem(event, error)
    }
  })
