import type { H3Event } from 'h3'
import { Attempts, forAddress, forName } from './attempts'
import { realNow } from './session'

const attempts = new Attempts()

/**
 * Where a request comes from. Behind a proxy every request comes from the proxy; which addresses it names is believed
 * only when `SKY_LEVER_PROXY` says that there is one, for anybody can send that header.
 */
export function addressOf(event: H3Event): string {
  const named = process.env.SKY_LEVER_PROXY ? getHeader(event, 'x-forwarded-for')?.split(',').at(-1)?.trim() : undefined
  return named ?? event.node.req.socket.remoteAddress ?? ''
}

/**
 * Lets somebody try a secret, seldom enough that guessing is no use: `tries` answers whether it was right. Refuses
 * (429) with the time to wait, before anything is worked out.
 */
export async function guarded(event: H3Event, name: string | null, tries: () => Promise<boolean>): Promise<boolean> {
  const targets = [...(name === null ? [] : [forName(name)]), forAddress(addressOf(event))]
  const nowMs = realNow()
  const waitMs = attempts.waitMs(targets, nowMs)
  if (waitMs > 0) {
    const seconds = Math.ceil(waitMs / 1000)
    setResponseHeader(event, 'retry-after', seconds)
    throw new ProblemError({ code: 'tooManyAttempts', seconds })
  }
  const one = attempts.begin(targets, nowMs)
  try {
    const right = await tries()
    if (right) one.right()
    return right
  } finally {
    one.over()
  }
}
