import { seesRecord, type Scope } from '../../core/access/scope'
import { htmlOf } from '../channels/mail/formatted'
import type { Workspace } from '../engine/workspace'
import { mailboxRows } from '../stand-ins/mailbox'
import { ruleOf } from './messages'

const SHOWN = 60

/** What reached the simulated mailboxes and phones of customers, the newest first, with what they answered. */
export function simulatedMessages(workspace: Workspace, scope: Scope) {
  const { store } = workspace
  return {
    share: store.catalogue.simulatedShare(),
    messages: mailboxRows(workspace.db, SHOWN * 3)
      .filter(({ contactId }) => {
        if (contactId === null) return false
        const contact = store.records.read({ object: 'contact', id: contactId })
        return contact !== null && seesRecord(scope, contact.values)
      })
      .slice(0, SHOWN)
      .map((row) => {
        const sent = store.messages.byKey(row.key)
        return {
          key: row.key,
          channel: row.channel,
          recipient: row.recipient,
          name: row.name,
          contactId: row.contactId,
          sender: row.sender,
          senderName: row.senderName,
          subject: row.subject,
          body: row.body,
          html: row.channel === 'mail' ? htmlOf(row.body) : null,
          atMs: row.receivedAt,
          answers: sent
            ? store.messages.answersTo(sent.messageId).map(({ text, atMs, kind }) => ({ text, atMs, kind }))
            : [],
          rule: sent ? ruleOf(workspace, sent) : null,
        }
      }),
  }
}
