import { Asked, derivationsOf, differing } from '../../core/derived/derivations'
import { addDays, instantOf } from '../../core/time/dates'
import type { RecordRef } from '../../core/records/kinds'
import { planClock, workClock } from './clockwork'
import type { Workspace } from './workspace'
import type { GivenCard } from '../../core/scoring/card'

export const control = { awaited: () => false, nowMs: () => 0, pause: () => Promise.resolve() }

export const at = (date: string, hour = 9, minute = 0) => instantOf(date, hour, minute, 'Europe/Lisbon')

export const deal = (workspace: Workspace, values: object = {}, linkTo: readonly RecordRef[] = []) =>
  workspace.create('deal', { name: 'Room', stage: 'hp-sized', owner: 'rosa', ...values }, linkTo, 'ines').ref

export const value = (workspace: Workspace, ref: RecordRef, key: string) =>
  workspace.store.records.read(ref)?.values[key] ?? null

export const titles = (workspace: Workspace) =>
  workspace.store.tasks
    .list({ people: null, before: null, limit: 200 })
    .map((one) => one.title)
    .reverse()

export const visit = (points: number, more: object = {}) =>
  ({
    id: 'l1',
    points,
    most: null,
    for: { what: 'doing', kind: 'visit', about: '', from: null, fading: { how: 'never' }, ...more },
  }) as GivenCard['lines'][number]

export const card = (...lines: GivenCard['lines']): GivenCard => ({
  name: 'Keenness',
  lines,
  least: 0,
  most: 100,
  bands: [
    { id: 'cold', name: 'Cold', from: 0 },
    { id: 'warm', name: 'Warm', from: 20 },
    { id: 'hot', name: 'Hot', from: 40 },
  ],
})

export const told = (ref: RecordRef, atMs: number, about = '/prices', key: string | null = null) => ({
  record: ref,
  kind: 'visit' as const,
  about,
  atMs,
  key,
})

/** Lets the clock come to an instant, moment by moment. */
export async function until(workspace: Workspace, clock: { set(atMs: number): void }, atMs: number): Promise<void> {
  planClock(workspace)
  for (let day = workspace.today(); at(day, 0) < atMs; day = addDays(day, 1)) {
    if (at(day, 0) <= workspace.clock.nowMs()) continue
    clock.set(at(day, 0))
    await workClock(workspace, control)
  }
  clock.set(atMs)
  await workClock(workspace, control)
}

/** Everything that is worked out and is not what it should be. */
export function stale(workspace: Workspace): readonly string[] {
  const { all: every } = derivationsOf(workspace.catalogue())
  return (['deal', 'contact', 'company'] as const).flatMap((object) =>
    [...workspace.store.records.from(object, 0, null)].flatMap((record) => {
      const found = differing(
        every.filter((one) => one.field.object === object),
        new Asked(workspace.world, record, workspace.moment()),
      )
      return Object.entries(found).map(
        ([key, should]) =>
          `${object} ${record.id} ${key}: ${JSON.stringify(record.values[key] ?? null)} instead of ${JSON.stringify(should)}`,
      )
    }),
  )
}
