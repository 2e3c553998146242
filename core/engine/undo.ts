import { sayProblem } from '../language/problems'
import { planWrite } from '../records/plan-write'
import { sameRef, type RecordRef } from '../records/kinds'
import type { Catalogue } from '../fields/catalogue'
import type { RecordSnapshot } from '../records/record'
import { sameValue, type Value, type Values } from '../language/value'
import type { StepRecord } from './world'
import { fieldWord, sayValue } from '../fields/say-value'

/** Taking back what a run did, where nothing newer stands on it. */

/** What undoing may look at. */
export interface UndoFacts {
  catalogue(): Catalogue
  nowMs(): number
  read(ref: RecordRef): RecordSnapshot | null
  /** The event that wrote a field of a record last, apart from what was taken back since; `null` when none did. */
  lastWrite(ref: RecordRef, field: string): number | null
  /** A task: `touched` once a person did anything with it. */
  task(id: number): { readonly open: boolean; readonly touched: boolean } | null
  linked(from: RecordRef, to: RecordRef): boolean
  /** Whether anything happened with a record since the event that created it. */
  changedSince(ref: RecordRef, seq: number): boolean
  nameOf(ref: RecordRef): string
}

export interface UndoPlan {
  readonly writes: readonly { readonly ref: RecordRef; readonly values: Values; readonly say: string }[]
  /** Tasks that are withdrawn. */
  readonly tasks: readonly { readonly id: number; readonly title: string }[]
  readonly unlink: readonly { readonly from: RecordRef; readonly to: RecordRef; readonly say: string }[]
  readonly link: readonly {
    readonly from: RecordRef
    readonly to: RecordRef
    readonly role: string
    readonly say: string
  }[]
  /** Records it made, which go again. */
  readonly remove: readonly { readonly ref: RecordRef; readonly name: string }[]
  /** What stays as it is, and why. */
  readonly left: readonly string[]
}

interface Written {
  readonly ref: RecordRef
  readonly field: string
  /** What stood there before the run wrote it first. */
  readonly old: Value
  /** What it wrote last. */
  value: Value
}

/** What undoing a run would do now. `ref` is the run's record; steps are those that were recorded, in order. */
export function planUndo(ref: RecordRef, steps: readonly StepRecord[], facts: UndoFacts): UndoPlan {
  const catalogue = facts.catalogue()
  const left: string[] = []
  const [tasks, unlink, link, remove]: [
    UndoPlan['tasks'][number][],
    UndoPlan['unlink'][number][],
    UndoPlan['link'][number][],
    UndoPlan['remove'][number][],
  ] = [[], [], [], []]
  const own = new Set<number>()
  const written: Written[] = []
  for (const step of steps) {
    if (step.state !== 'done') continue
    for (const wrote of step.wrote) {
      switch (wrote.what) {
        case 'fields': {
          own.add(wrote.eventSeq)
          const on = wrote.ref ?? step.on ?? ref
          for (const change of wrote.changes) {
            const before = written.find((one) => sameRef(one.ref, on) && one.field === change.field)
            if (before) before.value = change.new
            else written.push({ ref: on, field: change.field, old: change.old, value: change.new })
          }
          break
        }
        case 'task': {
          const task = facts.task(wrote.taskId)
          if (task?.open && !task.touched) tasks.push({ id: wrote.taskId, title: wrote.title })
          else left.push(`task “${wrote.title}” ${task?.open ? 'has been worked on' : 'is no longer open'}`)
          break
        }
        case 'link':
          if (facts.linked(wrote.from, wrote.to))
            unlink.push({ from: wrote.from, to: wrote.to, say: `link to ${wrote.name}` })
          break
        case 'unlink':
          if (!facts.linked(wrote.from, wrote.to) && facts.read(wrote.from) && facts.read(wrote.to))
            link.push({ from: wrote.from, to: wrote.to, role: wrote.role, say: `link to ${wrote.name}` })
          break
        case 'created':
          if (!facts.read(wrote.ref)) break
          if (facts.changedSince(wrote.ref, wrote.eventSeq)) left.push(`“${wrote.name}” has changed since`)
          else remove.push({ ref: wrote.ref, name: wrote.name })
          break
        case 'message':
          left.push(`the email to ${wrote.recipient} was sent`)
          break
        case 'notice':
          left.push(`${catalogue.person(wrote.personId)?.name ?? wrote.personId} was notified`)
          break
        case 'gave':
        case 'way':
        case 'stop':
        case 'waited':
        case 'planned':
          break
        case 'ended':
          left.push(`waiting runs were ended: ${wrote.because}`)
          break
      }
    }
  }
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
