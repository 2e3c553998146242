import { createHash } from 'node:crypto'
import type { H3Event } from 'h3'
import type { Section } from '../contract/contract'
import type { Workspace } from '../engine/workspace'
import { ProblemError } from './problem'

/** Where requests and answers hold passwords and keys, which are kept nowhere. */
const SECRET: readonly Section[] = ['Account', 'People']
const KEY_MOST = 200
/** Keys whose requests are being worked on. */
const under = new Set<string>()

/**
 * Does what a request asks for, and only once when it comes with an `Idempotency-Key` (as the IETF draft of that name
 * has it): the same request under the same key gets the same answer again. The answer is kept in the commit that made
 * it, so that a crash in between loses neither. A refusal wrote nothing and is not kept: the request may be tried
 * again.
 */
export function once<A>(
  event: H3Event,
  workspace: Workspace,
  personId: string,
  section: Section,
  given: unknown,
  run: () => A,
): A {
  const key = getHeader(event, 'idempotency-key')
  if (key === undefined || SECRET.includes(section)) return run()
  if (key.length === 0 || key.length > KEY_MOST) throw new ProblemError({ code: 'keyLength', most: KEY_MOST })
  const { answers } = workspace.store
  const fingerprint = createHash('sha256')
    .update(JSON.stringify([event.method, event.path, given]))
    .digest('hex')
  const known = answers.get(personId, key)
  if (known) {
    if (known.fingerprint !== fingerprint) throw new ProblemError({ code: 'keyUsed' })
    if (known.tag !== null) setResponseHeader(event, 'etag', known.tag)
    setResponseHeader(event, 'idempotent-replay', 'true')
    return known.answer as A
  }
  const own = `${personId} ${key}`
  if (under.has(own)) throw new ProblemError({ code: 'sameUnderWay' })
  const keep = (answer: unknown) => {
    const tag = getResponseHeader(event, 'etag')
    answers.keep(
      personId,
      key,
      { fingerprint, answer, tag: typeof tag === 'string' ? tag : null },
      workspace.clock.nowMs(),
    )
  }
  under.add(own)
  let waiting = false
  try {
    const result = workspace.db.atomically(() => {
      const answer = run()
      waiting = answer instanceof Promise
      if (!waiting) keep(answer)
      return answer
    })
    return waiting
      ? ((result as Promise<unknown>)
          .then((answer) => {
            keep(answer)
            return answer
          })
          .finally(() => under.delete(own)) as A)
      : result
  } finally {
    if (!waiting) under.delete(own)
  }
}
