import { createHash } from 'node:crypto'
import { known } from './post'
import { mailboxRow, nextAct, takeActs } from '../stand-ins/mailbox'
import { optOut, takeIncoming, type TakenAs } from './messages'
import type { Workspace } from './workspace'
import { refuse } from './refuse'

/** The other side of the simulated mailboxes and phones: what customers do with what they got. */

export interface SimulatedAnswer {
  readonly key: string
  readonly as: 'answer' | 'automatic' | 'bounce' | 'stop' | 'open' | 'optOut'
  readonly text: string
}

/** Does what simulated customers do by themselves by now; a crash in between leaves out what was about to be done. */
export function actByThemselves(workspace: Workspace): void {
  const { db, clock } = workspace
  if ((nextAct(db) ?? Infinity) > clock.nowMs()) return
  const due = db.inTurn(() => takeActs(db, clock.nowMs()))
  for (const { key, act } of due) if (act) answerSimulated(workspace, { key, ...act })
}

/** Does what a customer would; answers what was made of it. */
export function answerSimulated(workspace: Workspace, { key, as, text }: SimulatedAnswer): TakenAs | 'opened' {
  const row = mailboxRow(workspace.db, key)
  if (!row) throw refuse('key', { code: 'messageGone' })
  const { channel, recipient, subject, contactId } = row
  if (as === 'open' || as === 'optOut') {
    workspace.db.inTurn(() =>
      workspace.db.atomically(() => {
        if (as === 'optOut') return optOut(workspace, channel, recipient, 'by link')
        const sent = workspace.store.messages.byKey(key)
        const nowMs = workspace.clock.nowMs()
        if (!sent || contactId === null || !workspace.store.messages.opened(sent.id, nowMs)) return
        workspace.world.keepActivity(
          { object: 'contact', id: contactId },
          {
            kind: 'messageOpened',
            about: subject,
            data: known({ channel, label: sent.label }),
            atMs: nowMs,
            key: `opened ${key}`,
          },
        )
      }),
    )
    workspace.drain()
    workspace.live.tell({ about: 'sent' })
    return as === 'open' ? 'opened' : 'stop'
  }
  const said = as === 'stop' ? 'STOP' : text.trim()
  const count = row.messageId === null ? 0 : workspace.store.messages.answersTo(row.messageId).length
  return takeIncoming(workspace, {
    channel,
    from: recipient,
    subject: channel === 'mail' ? `Re: ${subject}` : '',
    text: said,
    messageId: `${createHash('sha256').update(`${key} ${as} ${count} ${said}`).digest('hex').slice(0, 32)}@simulated.invalid`,
    answers: row.messageId === null ? [] : [row.messageId],
    automatic: as === 'automatic',
    bounce: as === 'bounce' ? { recipient, final: true, reason: said === '' ? '550 no such mailbox' : said } : null,
  })
}
