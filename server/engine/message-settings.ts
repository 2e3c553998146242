import { sayRefusal } from '../../core/language/refusals'
import { zMessaging, type Messaging } from '../../core/messages/settings'
import { isZone } from '../../core/rules/clock'
import { MAILS, PHONES } from './addresses-read'
import type { MailAccount } from '../channels/mail/account'
import type { Dialler } from '../channels/call'
import type { TextGateway } from '../channels/text'
import type { Workspace } from './workspace'
import { refuse } from './refuse'

/** How messages are sent: hours, limits, accounts, and addresses never to write to. */

/** Changes hours, limits, senders and phrases; what is planned by them is asked again when it comes. */
export function setMessaging(workspace: Workspace, given: Messaging): void {
  const messaging = zMessaging.parse(given)
  messaging.countries.forEach(({ zone, name }, i) => {
    if (zone !== null && !isZone(zone)) throw refuse(`countries.${i}.zone`, { code: 'notATimeZone', zone })
    if (messaging.countries.slice(0, i).some((one) => one.name.toLowerCase() === name.toLowerCase()))
      throw refuse(`countries.${i}.name`, { code: 'standsTwice', what: name })
  })
  messaging.senders.forEach(({ team }, i) => {
    if (messaging.senders.slice(0, i).some((one) => one.team === team))
      throw refuse(`senders.${i}.team`, { code: 'teamHasAddress', team })
  })
  workspace.db.atomically(() => workspace.store.catalogue.setMessaging(messaging))
  workspace.tellCatalogue()
}

export function setMailAccount(workspace: Workspace, account: MailAccount | null): void {
  // A password that is left empty is the one that is kept: it is never shown.
  const before = workspace.store.accounts.mail()
  const password = account && account.password === '' && before?.user === account.user ? before.password : undefined
  workspace.db.inTurn(() =>
    workspace.store.accounts.setMail(account && { ...account, ...(password === undefined ? {} : { password }) }),
  )
}

export function setTextGateway(workspace: Workspace, gateway: TextGateway | null): void {
  const before = workspace.store.accounts.text()
  const token = gateway && gateway.token === '' && before?.address === gateway.address ? before.token : undefined
  workspace.db.inTurn(() =>
    workspace.store.accounts.setText(gateway && { ...gateway, ...(token === undefined ? {} : { token }) }),
  )
}

export function setDialler(workspace: Workspace, dialler: Dialler | null): void {
  const before = workspace.store.accounts.dialler()
  const token = dialler && dialler.token === '' && before?.address === dialler.address ? before.token : undefined
  workspace.db.inTurn(() =>
    workspace.store.accounts.setDialler(dialler && { ...dialler, ...(token === undefined ? {} : { token }) }),
  )
}

/** Adds addresses that nobody is to write to; what is none is told by its row. */
export function neverWriteTo(
  workspace: Workspace,
  given: readonly string[],
  personId: string,
): { readonly added: number; readonly refused: readonly { readonly row: number; readonly text: string }[] } {
  const { addresses } = workspace.store
  const atMs = workspace.clock.nowMs()
  const refused: { row: number; text: string }[] = []
  let added = 0
  workspace.db.inTurn(() =>
    workspace.db.atomically(() =>
      given.forEach((line, i) => {
        const address = line.trim().toLowerCase()
        if (address === '') return
        if (!MAILS.test(address) && !PHONES.test(address)) {
          refused.push({ row: i + 1, text: sayRefusal({ code: 'notReachable', raw: line.trim().slice(0, 60) }) })
          return
        }
        addresses.stop({ channel: 'any', address, because: 'never', how: 'on the list', atMs, personId })
        added++
      }),
    ),
  )
  return { added, refused }
}
