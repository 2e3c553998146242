import type { ActivityName } from '../activities'
import { isEmpty, type Value, type Values } from '../language/value'
import type { RecordRef } from '../records/kinds'
import type { ChangeEvent, RecordSnapshot } from '../records/record'
import type { ClockWorld } from './clockwork'

/** What a change of an appointment is, as something that its people did. */

/** What each status says that happened; nothing where it only says that it is booked. */
const OF_STATUS: Readonly<Record<string, ActivityName>> = {
  attended: 'appointmentAttended',
  missed: 'appointmentMissed',
  cancelled: 'appointmentCancelled',
}

function doneBy(
  { kind, changes }: ChangeEvent,
  values: Values,
): { readonly kind: ActivityName; readonly was?: Value } | null {
  const status = OF_STATUS[String(values.status)]
  if (kind === 'created') return { kind: status ?? 'appointment' }
  if (kind !== 'changed') return null
  const changed = (field: string) => changes.find((change) => change.field === field)
  if (changed('status')) {
    // Booked once more behind having been cancelled or missed.
    if (!status) return changed('status')?.old === null ? null : { kind: 'appointment' }
    return { kind: status }
  }
  const start = changed('start')
  return start && start.old !== null && !status ? { kind: 'appointmentMoved', was: start.old } : null
}

/** Whether another of somebody's appointments was missed before this one began. */
const missedBefore = (world: ClockWorld, who: RecordRef, { id, values }: RecordSnapshot): number =>
  world
    .linked(who, 'appointment')
    .filter(
      ({ record }) =>
        record.id !== id && record.values.status === 'missed' && Number(record.values.start) < Number(values.start),
    ).length

/** Lets the contacts of an appointment have done what a change of it says. */
export function noticeAppointments(world: ClockWorld, event: ChangeEvent): void {
  if (event.ref.object !== 'appointment') return
  const record = world.read(event.ref)
  const done = record && doneBy(event, record.values)
  if (!done) return
  const { name, start, end, place, notes } = record.values
  const told = { appointment: record.id, startMs: start, endMs: end, place, wasStartMs: done.was }
  for (const { record: who } of world.linked(event.ref, 'contact')) {
    const moved = world
      .activities(who)
      .some(({ kind, data }) => kind === 'appointmentMoved' && data.appointment === record.id)
    const data: Readonly<Record<string, Value | undefined>> = {
      ...told,
      ...(done.kind === 'appointmentMissed' ? { moved, missedBefore: missedBefore(world, who, record) } : {}),
      ...(done.kind === 'appointmentAttended' ? { moved, notes } : {}),
    }
    world.act(
      { object: 'contact', id: who.id },
      {
        kind: done.kind,
        about: String(name ?? ''),
        data: Object.fromEntries(
          Object.entries(data).flatMap(([key, value]): [string, Value][] => (isEmpty(value) ? [] : [[key, value]])),
        ),
      },
      // A rule that books by what is booked would go round: this is a link of the same chain.
      { chainId: event.chainId, depth: event.depth + 1 },
      event.rulesOff,
    )
  }
}
