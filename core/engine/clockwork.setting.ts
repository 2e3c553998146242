import type { Values } from '../language/value'
import type { RecordRef } from '../records/kinds'
import { instantOf } from '../time/dates'
import { task, type StepLine } from '../testing/rules'
import { TestWorld } from '../testing/world'
import type { ActiveRule } from './matcher'

/** The world begins on Tue 24 Nov 2026, 9:12 in Lisbon; Thu 3 Dec and Thu 24 Dec are holidays. */
export const at = (date: string, hour = 0, minute = 0, zone = 'Europe/Lisbon'): number =>
  instantOf(date, hour, minute, zone)

export const note = (text: string): StepLine => task(text, { again: true })

export function worldWith(
  rules: readonly ActiveRule[],
  ...deals: readonly Values[]
): { readonly world: TestWorld; readonly refs: readonly RecordRef[] } {
  const world = new TestWorld()
  const refs = deals.map((values, i) => world.add('deal', i + 1, { owner: 'rosa', ...values }))
  world.drain([])
  world.switchOn(...rules)
  return { world, refs }
}

export const tasks = (world: TestWorld): readonly string[] => world.state.tasks.map(({ title }) => title)

export const states = (world: TestWorld): readonly (string | undefined)[] =>
  world.state.runs.map(({ end }) => end?.stop?.code ?? end?.state)
