import type { Cause } from '../../core/records/record'
import { onReply, replyChanges, type Reply } from '../../core/signals/reply'
import type { RequestOutcome } from '../../core/web/request'
import type { WebAnswer } from '../channels/channel'
import { newChain } from './live-records'
import type { Db } from '../db/connect'
import type { Store } from '../store'
import type { WebRequestRow } from '../store/connections'
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
  db.afterwards(() => live.tell({ about: 'sent' }))
  // Its answer may have been quicker than its being taken.
  if (row.later && outcome === 'taken') {
    if (row.answeredAt === null) store.connections.accepted(key, answer?.status ?? null)
    return false
  }
  if (row.answeredAt !== null) return false
  const text = outcome === 'taken' ? (answer?.text ?? '') : [because, answer?.text].filter(Boolean).join(': ')
  const reply: Reply = { outcome, status: answer?.status ?? null, text }
  return tellReply({ store, world, clock, live, db }, row, reply)
}

/** Keeps an answer, and tells it to the run that waits for it; answers whether one does. */
function tellReply({ store, world, clock }: Place, row: WebRequestRow, reply: Reply): boolean {
  const { key } = row
  const nowMs = clock.nowMs()
  store.connections.answered(key, reply, nowMs)
  const ref = { object: row.object, id: row.recordId }
  const { signal, key: wanted } = onReply(key)
  const waited = store.waits
    .of(ref)
    .some(({ signals }) => signals.some((one) => one.signal === signal && one.key === wanted))
  if (waited) world.log(ref, 'replied', replyChanges(key, reply), OUTSIDE, newChain(), false, nowMs)
  return waited
}

/**
 * The later answer to a request, at the address that went with it. The first one counts.
 *
 * @param text what came, as it came
 */
export function repliedLater(workspace: Place & { drain(): unknown }, id: number, text: string) {
  const { db, store, live } = workspace
  const row = store.connections.requestOf(id)
  if (!row?.later) return 'unknown'
  const taken = db.inTurn(() => {
    if (store.connections.requestOf(id)?.answeredAt !== null) return false
    tellReply(workspace, row, { outcome: 'taken', status: row.status ?? 200, text })
    return true
  })
  if (!taken) return 'known'
  workspace.drain()
  live.tell({ about: 'sent' })
  live.tell({ about: 'records', refs: [{ object: row.object, id: row.recordId }] })
  return 'taken'
}
