import { seesRecord, type Scope } from '../../core/access/scope'
import type { RecordRef } from '../../core/records/kinds'
import { plainOf } from '../channels/mail/formatted'
import { addressesOf } from '../engine/messages'
import { seesRef } from '../engine/seen'
import type { Workspace } from '../engine/workspace'
import type { MessageRow } from '../store/messages'

/** What was written to contacts, and what they answered. */

const PAGE = 50
const CONTACTS_MOST = 20

const WORDS = { optedOut: 'opted out', never: 'never to write to', bounced: 'came back' } as const

/** The rule that sent a message; `null` for what was written by hand. */
export function ruleOf(workspace: Workspace, { ruleId, runId }: Pick<MessageRow, 'ruleId' | 'runId'>) {
  const rule = ruleId === null ? null : workspace.store.rules.get(ruleId)
  return rule && runId !== null ? { id: rule.id, name: rule.version?.document.name ?? rule.draft.name, runId } : null
}

/** The messages of a contact, or of those a record is linked to, the newest first. */
export function conversationOf(workspace: Workspace, ref: RecordRef, before: number, scope: Scope) {
  const record = workspace.store.records.read(ref)
  if (!record || !seesRecord(scope, record.values)) return null
  const ids =
    ref.object === 'contact'
      ? [ref.id]
      : workspace.store.links
          .linked(ref, 'contact')
          .map(({ id }) => id)
          .filter((id) => seesRef(workspace, scope, { object: 'contact', id }))
          .slice(0, CONTACTS_MOST)
  const rows = ids
    .flatMap((id) => workspace.store.messages.ofContactPage(id, before, PAGE + 1))
    .sort((a, b) => b.id - a.id)
  const shown = rows.slice(0, PAGE)
  return {
    messages: shown.map((row) => ({
      id: row.id,
      channel: row.channel,
      way: row.way,
      contactId: row.contactId,
      contact: workspace.nameOf({ object: 'contact', id: row.contactId }),
      from: row.fromName,
      address: row.address,
      subject: row.subject,
      // What was formatted is read without its marks here.
      text: row.way === 'out' && row.channel === 'mail' ? plainOf(row.text) : row.text,
      label: row.label,
      state: row.state,
      atMs: row.atMs,
      openedAt: row.openedAt,
      answeredAt: row.answeredAt,
      kind: row.kind,
      phrase: row.phrase,
      corrected: row.correctedBy !== null,
      reason: row.reason,
      rule: ruleOf(workspace, row),
    })),
    next: rows.length > PAGE ? (shown.at(-1)?.id ?? null) : null,
    contacts: ids.map((id) => ({
      id,
      name: workspace.nameOf({ object: 'contact', id }),
      addresses: addressesOf(workspace, id).map(({ channel, address }) => {
        const stopped = workspace.store.addresses.stopped(channel, address)
        return {
          channel,
          address,
          stopped: stopped && `${WORDS[stopped.because]}${stopped.how === '' ? '' : `: ${stopped.how}`}`,
        }
      }),
    })),
  }
}
