import { momentAt } from '../../core/engine/moment'
import { ACTS } from '../../core/access/acts'
import { nextTelling, sayTold, type Telling, type Told } from '../../core/telling/telling'
import type { TellingRow } from '../store/tellings'
import type { Workspace } from './workspace'

/** People are told outside of the app what came for them, by mail or at a chat address, as they chose. */

/** When somebody is told next, by their own clock. */
export function nextTold(workspace: Workspace, personId: string, telling: Telling, nowMs: number): number | null {
  const facts = workspace.catalogue().workspace
  const zone = workspace.catalogue().person(personId)?.zone ?? facts.zone
  return nextTelling(telling, nowMs, zone, momentAt(nowMs, facts).calendar)
}

/** Tells whoever is due by now; nothing is told twice, whatever crashes. */
export function tellOutside(workspace: Workspace): void {
  const { db, store, clock } = workspace
  const nowMs = clock.nowMs()
  if (!store.tellings.anyDue(nowMs)) return
  const told = db.inTurn(() =>
    db.atomically(() => store.tellings.dueBy(nowMs).filter((row) => tellOne(workspace, row, nowMs)).length),
  )
  if (told > 0) workspace.courier.wake()
}

function tellOne(workspace: Workspace, row: TellingRow, nowMs: number): boolean {
  const { store } = workspace
  const { personId, telling, sent } = row
  const person = workspace.catalogue().person(personId)
  const here = person?.active === true
  const untold = here ? store.tellings.untold(row) : []
  // What needs somebody is told to those who can do something about it.
  const problems =
    here && ACTS[person.role].includes('build') ? store.problems.since(row.toldMs, nowMs, telling.muted) : []
  // Who hears at once is looked at whenever the clock looks: what comes just behind is told then.
  const nextAt = here ? nextTold(workspace, personId, telling, nowMs + (telling.often === 'now' ? 0 : 1)) : null
  const told: readonly Told[] = [
    ...problems.map(({ says, count }) => ({ subject: says, body: '', recordName: 'Problem', more: count - 1 })),
    ...untold.map(({ id, subject, body, object, recordId }) => ({
      subject,
      body,
      recordName: workspace.nameOf({ object, id: recordId }),
      more: store.notices.bundledWith(id, 0).count,
    })),
  ]
  const tells = told.length > 0
  if (person && tells) {
    const chat = telling.by === 'chat'
    store.outbox.add(
      {
        key: `told-${personId}-${sent + 1}`,
        channel: chat ? 'web' : 'mail',
        recipient: chat ? personId : person.email,
        ...sayTold(told, workspace.catalogue().workspace.name),
        runId: null,
        more: null,
      },
      nowMs,
    )
  }
  store.tellings.told(personId, {
    toldTo: untold.at(-1)?.id ?? row.toldTo,
    toldMs: nowMs,
    // The number of a message is its key: it grows with messages, and not with looks.
    sent: tells ? sent + 1 : sent,
    nextAt,
  })
  return tells
}
