import { sayProblem } from '../language/problems'
import { planWrite } from '../records/plan-write'
import { sameRef, type RecordRef } from '../records/kinds'
import { sameValue, type Value } from '../language/value'
import { Undoing, type UndoFacts, type UndoPlan } from '../effects/undoing'
import { labelsWith } from '../effects/label'
import { undoWrote } from '../effects/wrote'
import type { StepRecord } from './world'
import { fieldWord, sayValue } from '../fields/say-value'

/** Taking back what a run did, where nothing newer stands on it. */

/** What undoing a run would do now. `ref` is the run's record; steps are those that were recorded, in order. */
export function planUndo(ref: RecordRef, steps: readonly StepRecord[], facts: UndoFacts): UndoPlan {
  const catalogue = facts.catalogue()
  const undoing = new Undoing(facts, ref)
  for (const step of steps) {
    if (step.state !== 'done') continue
    undoing.record = step.on ?? ref
    for (const wrote of step.wrote) undoWrote(wrote, undoing)
  }
  const { left, own, remove, written, tasks, unlink, link } = undoing
  const byRecord = new Map<string, { ref: RecordRef; values: Record<string, Value>; said: string[] }>()
  for (const { ref: on, field: key, old, value } of written) {
    const record = facts.read(on)
    const field = catalogue.field(on.object, key)
    if (!field || field.keptBy || sameValue(old, value)) continue
    const word = `${sameRef(on, ref) ? '' : `${facts.nameOf(on)}: `}${fieldWord(field)}`
    const last = record && facts.lastWrite(on, key)
    if (!record) left.push(`${word}: the record was deleted`)
    else if (last === null || !own.has(last) || !sameValue(record.values[key] ?? null, value))
      left.push(`${word} has a newer value, ${sayValue(record.values[key] ?? null, field, catalogue, record.values)}`)
    else {
      const wrong = planWrite(on.object, record.values, { [key]: old }, facts.nowMs(), catalogue).problems[0]
      if (wrong) {
        left.push(`${word}: ${sayProblem(wrong.problem)}`)
        continue
      }
      const name = `${on.object}:${on.id}`
      const found = byRecord.get(name) ?? { ref: on, values: {}, said: [] }
      found.values[key] = old
      found.said.push(`${word} back to ${sayValue(old, field, catalogue, record.values)}`)
      byRecord.set(name, found)
    }
  }
  for (const { ref: on, field: key, added, removed } of undoing.labels) {
    const record = facts.read(on)
    const field = catalogue.field(on.object, key)
    if (!record || !field) continue
    const held = record.values[key] ?? null
    const back = labelsWith(held, removed, added)
    if (sameValue(back, held)) continue
    const name = `${on.object}:${on.id}`
    const found = byRecord.get(name) ?? { ref: on, values: {}, said: [] }
    found.values[key] = back
    const word = `${sameRef(on, ref) ? '' : `${facts.nameOf(on)}: `}${fieldWord(field)}`
    found.said.push(`${word} back to ${sayValue(back, field, catalogue, record.values)}`)
    byRecord.set(name, found)
  }
  const gone = (one: RecordRef) => remove.some((other) => sameRef(other.ref, one))
  return {
    writes: [...byRecord.values()]
      .filter((one) => !gone(one.ref))
      .map(({ ref: on, values, said }) => ({ ref: on, values, say: said.join(', ') })),
    tasks,
    unlink: unlink.filter(({ from, to }) => !gone(from) && !gone(to)),
    link,
    remove,
    left,
  }
}

export const undoesNothing = (plan: UndoPlan): boolean =>
  plan.writes.length + plan.tasks.length + plan.unlink.length + plan.link.length + plan.remove.length === 0
