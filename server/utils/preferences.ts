import type { H3Event } from 'h3'
import { MESSAGE_CHANNELS, type MessageChannel } from '../../core/messages/guards'
import { addressesOf, optOut } from '../engine/messages'
import { readSigned } from '../engine/signed-link'
import { preferencesPage, strangerPage, type Preference } from '../pages/preferences'
import { aroundOf, showPage } from './booking'
import { useWorkspace } from './workspace'

/** What a contact gets, as they see and change it themselves. */

/** The contact that a link was made for; `null` for a link that was not made here. */
export const contactOf = (event: H3Event): number | null =>
  readSigned(useWorkspace(), 'contact', getRouterParam(event, 'person') ?? '')

function preferencesOf(contactId: number): readonly Preference[] {
  const workspace = useWorkspace()
  return addressesOf(workspace, contactId).map(({ channel, address }) => ({
    channel,
    address,
    wanted: workspace.store.addresses.stopped(channel, address)?.because !== 'optedOut',
  }))
}

export function showPreferences(event: H3Event, saved: boolean): string {
  const contactId = contactOf(event)
  if (contactId === null) return showPage(event, strangerPage(aroundOf(event)), 404)
  return showPage(
    event,
    preferencesPage(aroundOf(event), getRouterParam(event, 'person') ?? '', preferencesOf(contactId), saved),
  )
}

/** Opts a contact out of channels, and in again where they say so; `null` leaves a channel as it is. */
export function choose(contactId: number, wanted: (channel: MessageChannel) => boolean | null, how: string): void {
  const workspace = useWorkspace()
  workspace.db.inTurn(() =>
    workspace.db.atomically(() => {
      for (const { channel, address } of addressesOf(workspace, contactId)) {
        const wants = wanted(channel)
        if (wants === false) optOut(workspace, channel, address, how)
        else if (wants === true && workspace.store.addresses.stopped(channel, address)?.because === 'optedOut')
          workspace.store.addresses.free(channel, address)
      }
    }),
  )
  workspace.live.tell({ about: 'sent' })
}

export const isChannel = (text: unknown): text is MessageChannel => MESSAGE_CHANNELS.some((one) => one === text)
