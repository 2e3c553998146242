import type { OutboxStore } from '../store/outbox'
import type { Deliver } from '../stand-ins/mail'

const PAUSES_MS = [10_000, 60_000, 600_000, 3_600_000, 6 * 3_600_000] as const

/**
 * Delivers what is due. A message that is not taken is tried again after growing pauses, and given up after five.
 * A crash between delivery and the note of it repeats the delivery under the same key, which the receiver drops.
 */
export function deliverDue(outbox: OutboxStore, deliver: Deliver, nowMs: number): number {
  const due = outbox.due(nowMs, 200)
  for (const message of due) {
    try {
      deliver(message, nowMs)
      outbox.delivered(message.id, nowMs)
    } catch (error) {
      const pause = PAUSES_MS[message.attempts]
      outbox.failed(
        message.id,
        error instanceof Error ? error.message : String(error),
        pause === undefined ? null : nowMs + pause,
      )
    }
  }
  return due.length
}
