import type { Catalogue } from '../fields/catalogue'
import type { Value, Values } from '../language/value'
import { sameRef, type RecordRef } from '../records/kinds'
import type { RecordSnapshot } from '../records/record'

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

export interface Written {
  readonly ref: RecordRef
  readonly field: string
  /** What stood there before the run wrote it first. */
  readonly old: Value
  /** What it wrote last. */
  value: Value
}

export interface Labelled {
  readonly ref: RecordRef
  readonly field: string
  added: readonly string[]
  removed: readonly string[]
}

/** A plan of taking back while it is drawn up, effect by effect in the order in which they were carried out. */
export class Undoing {
  readonly tasks: UndoPlan['tasks'][number][] = []
  readonly unlink: UndoPlan['unlink'][number][] = []
  readonly link: UndoPlan['link'][number][] = []
  readonly remove: UndoPlan['remove'][number][] = []
  readonly left: string[] = []
  readonly written: Written[] = []
  /** Labels that came or went, as far as the run has brought it by now. */
  readonly labels: Labelled[] = []
  /** The changes that the run made itself. */
  readonly own = new Set<number>()
  /** The record that the step worked on whose effect is looked at. */
  record: RecordRef

  constructor(
    readonly facts: UndoFacts,
    run: RecordRef,
  ) {
    this.record = run
  }

  /** A field was written: what stood there before the first time is what it goes back to. */
  wrote(ref: RecordRef, field: string, old: Value, value: Value): void {
    const before = this.written.find((one) => sameRef(one.ref, ref) && one.field === field)
    if (before) before.value = value
    else this.written.push({ ref, field, old, value })
  }

  /** Labels were added and removed: what one step brought another may have taken again. */
  labelled(ref: RecordRef, field: string, added: readonly string[], removed: readonly string[]): void {
    let known = this.labels.find((one) => sameRef(one.ref, ref) && one.field === field)
    if (!known) this.labels.push((known = { ref, field, added: [], removed: [] }))
    const without = (list: readonly string[], less: readonly string[]) => list.filter((one) => !less.includes(one))
    const [come, gone] = [without(added, known.removed), without(removed, known.added)]
    known.added = [...without(known.added, removed), ...come]
    known.removed = [...without(known.removed, added), ...gone]
  }
}
