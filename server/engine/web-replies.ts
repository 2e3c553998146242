import type { Cause } from '../../core/records/record'
import { onReply, replyChanges, type Reply } from '../../core/signals/reply'
import type { RequestOutcome } from '../../core/web/request'
import type { WebAnswer } from '../channels/channel'
import { newChain } from './live-records'
import type { Db } from '../db/connect'
import type { Store } from '../store'
import type { Clock } from './clock'
import type { LiveHub } from './live'
import type { LiveWorld } from './live-world'

interface Place {
  readonly db: Db
  readonly store: Store
  readonly world: LiveWorld
  readonly clock: Clock
  readonly live: LiveHub
}

/** Nobody in person: a service outside. */
const OUTSIDE: Cause = { by: 'person', personId: '' }

/**
 * A service has answered, or was given up: belongs into the commit that says so. The run that waits for it hears of it.
 *
 * @returns whether one does
 */
export function replied(
  { store, world, clock, live, db }: Place,
  key: string,
  outcome: RequestOutcome,
  answer: WebAnswer | undefined,
  because = '',
): boolean {
  const row = store.connections.request(key)
  if (!row) return false
  const nowMs = clock.nowMs()
  const text = outcome === 'taken' ? (answer?.text ?? '') : [because, answer?.text].filter(Boolean).join(': ')
  const reply: Reply = { outcome, status: answer?.status ?? null, text }
  store.connections.answered(key, reply, nowMs)
  db.afterwards(() => live.tell({ about: 'sent' }))
  const ref = { object: row.object, id: row.recordId }
  const { signal, key: wanted } = onReply(key)
  const waited = store.waits
    .of(ref)
    .some(({ signals }) => signals.some((one) => one.signal === signal && one.key === wanted))
  if (waited) world.log(ref, 'replied', replyChanges(key, reply), OUTSIDE, newChain(), false, nowMs)
  return waited
}
