import { Asked, derivationsOf, circleIn, type Derived } from '../../core/derived/derivations'
import type { Making } from '../../core/derived/making'
import { rollUpProblem, rollUpType, sayRollUp } from '../../core/derived/roll-up'
import { Catalogue } from '../../core/fields/catalogue'
import type { Field } from '../../core/fields/field'
import { FIELD_TYPES } from '../../core/fields/types'
import { sameValue, type Value } from '../../core/language/value'
import { compileFormula } from '../../core/formulas/formula'
import { keptAs, sayType } from '../../core/formulas/types'
import type { ObjectKind } from '../../core/records/kinds'
import { KEPT } from '../../core/fields/define'
import { refuseUnknown } from './refuse-unknown'
import { FIELDS_MOST, keepName, keyOf, refuseSameLabel } from './fields'
import type { ImportControl } from './import'
import type { Workspace } from './workspace'
import type { FieldTypeName } from '../../core/language/field-types'
import { refuse } from './refuse'

/** Fields whose values are worked out: how people say what they come to, and working them out for all records. */

export interface GivenMaking {
  readonly object: ObjectKind
  readonly type: FieldTypeName
  readonly made: Extract<Making, { by: 'formula' | 'rollUp' }>
}

/** What keeps the field, in words that stand wherever it cannot be written. */
function keptBy(made: GivenMaking['made'], catalogue: Catalogue): string {
  return made.by === 'formula' ? `calculated: ${made.text}` : `calculated: ${sayRollUp(made, catalogue)}`
}

/** Refuses what does not read, does not fit the type, or would go round in a circle. */
export function checkMaking({ object, type, made }: GivenMaking, catalogue: Catalogue, id: number | null): void {
  if (made.by === 'formula') {
    const read = compileFormula(made.text, object, catalogue)
    if (!read.ok) {
      const { from, to, text } = read.problem
      throw refuse('text', { code: 'formula', from, to, said: text })
    }
    if (read.formula.uses.now) throw refuse('text', { code: 'nowInField' })
    const types = keptAs(read.formula.type)
    if (!types.includes(type))
      throw refuse(
        'type',
        types.length === 0
          ? { code: 'noFieldOf', gives: sayType(read.formula.type) }
          : {
              code: 'fieldTypes',
              gives: sayType(read.formula.type),
              types: types.map((one) => FIELD_TYPES[one].word),
            },
      )
  } else {
    const problem = rollUpProblem(made, object, catalogue)
    if (problem) throw refuse(problem.path, problem.problem)
    refuseUnknown(made.where, made.over, catalogue)
    if (rollUpType(made, catalogue) !== type)
      throw refuse('type', {
        code: 'typeMustBe',
        type: FIELD_TYPES[rollUpType(made, catalogue) ?? 'number'].word,
      })
  }
  const own: Field = {
    id: id ?? 0,
    object,
    key: id === null ? 'itself' : (catalogue.data.fields.find((field) => field.id === id)?.key ?? ''),
    label: '',
    type,
    description: '',
    keptBy: '',
    required: false,
    choices: [],
    currencyKey: null,
    synonyms: null,
    made,
  }
  const circle = circleIn(
    new Catalogue({ ...catalogue.data, fields: [...catalogue.data.fields.filter((field) => field.id !== id), own] }),
  )
  if (circle)
    throw refuse(made.by === 'formula' ? 'text' : 'field', {
      code: 'circularReference',
      fields: [...circle, ...circle.slice(0, 1)].map((field) => (field.id === own.id ? 'this field' : field.label)),
    })
}

/** Makes a field whose value is worked out, and begins to work it out for all records. */
export function makeDerived(
  workspace: Workspace,
  given: GivenMaking & { readonly label: string; readonly description: string },
  personId: string,
): { readonly id: number; readonly key: string } {
  const catalogue = workspace.catalogue()
  const { object, label, type, description, made } = given
  const own = [...catalogue.data.fields, ...(catalogue.data.archived ?? [])].filter((field) => field.object === object)
  if (own.length >= FIELDS_MOST) throw refuse('label', { code: 'noMoreThan', of: 'field', most: FIELDS_MOST })
  refuseSameLabel(workspace, object, label, null)
  checkMaking(given, catalogue, null)
  const key = keyOf(label, new Set([...own.map((field) => field.key), ...Object.keys(KEPT)]))
  const id = workspace.db.atomically(() => {
    const made0 = workspace.store.catalogue.addField({
      object,
      key,
      label,
      type,
      description,
      keptBy: keptBy(made, catalogue),
      made,
      required: false,
      currencyKey: currencyOf(made, object, catalogue),
      synonyms: null,
      choices: [],
      indexed: type === 'date' || type === 'dateTime',
      position: own.length,
    })
    workspace.catalogueChanged()
    workAnew(workspace, [made0], personId)
    return made0
  })
  workspace.tellCatalogue()
  return { id, key }
}

/**
 * A sum of money is in the money of what is summed, where the record has a field of that name; otherwise in the
 * workspace's.
 */
const currencyOf = (made: GivenMaking['made'], object: ObjectKind, catalogue: Catalogue): string | null => {
  if (made.by !== 'formula') return null
  const read = compileFormula(made.text, object, catalogue)
  const keys = read.ok
    ? [...read.formula.uses.own].flatMap((key) => catalogue.field(object, key)?.currencyKey ?? [])
    : []
  return keys[0] ?? null
}

/** Says anew how a field's value comes about; its name and what it is for may change with it. */
export function changeDerived(
  workspace: Workspace,
  field: Field,
  change: {
    readonly label?: string | undefined
    readonly description?: string | undefined
    readonly made: GivenMaking['made']
  },
  personId: string,
): void {
  if (field.made?.by !== change.made.by) throw refuse('made', { code: 'keepsMaking', field: field.label })
  const catalogue = workspace.catalogue()
  if (change.label !== undefined) refuseSameLabel(workspace, field.object, change.label, field.id)
  checkMaking({ object: field.object, type: field.type, made: change.made }, catalogue, field.id)
  const { label, description } = change
  workspace.db.atomically(() => {
    if (label !== undefined) keepName(workspace, 'field', String(field.id), field.label, label)
    workspace.store.catalogue.updateField(field.id, {
      ...(label === undefined ? {} : { label }),
      ...(description === undefined ? {} : { description }),
    })
    if (JSON.stringify(field.made) === JSON.stringify(change.made)) return
    workspace.store.catalogue.setMaking(field.id, change.made, keptBy(change.made, catalogue))
    workspace.catalogueChanged()
    workAnew(workspace, [field.id], personId)
  })
  workspace.tellCatalogue()
}

/**
 * Has fields worked out for all records, and those that hang on them. Belongs into the transaction that changed what
 * they come to.
 */
export function workAnew(workspace: Workspace, ids: readonly number[], personId: string): void {
  const { store } = workspace
  const derivations = derivationsOf(workspace.catalogue())
  const own = derivations.all.filter((one) => ids.includes(one.field.id))
  const all = [...own, ...derivations.behind(own.map((one) => one.field)).filter((one) => !own.includes(one))]
  const inOrder = derivations.all.filter((one) => all.includes(one))
  store.derive.addJob(
    inOrder.map((one) => one.field.id),
    inOrder.reduce((sum, { field }) => sum + store.records.count(field.object), 0),
    personId,
    workspace.clock.nowMs(),
  )
  // What hangs on the day is worked out for the day it is.
  if (store.derive.turn() === null)
    store.derive.setTurn({ through: workspace.today(), turning: null, object: null, afterId: 0 })
}

const BATCH = 250
const BATCH_MS = 25

/**
 * Works out fields that somebody said anew, for all records: as what stands there, not as changes; no rule hears of it.
 */
export async function workDerived(workspace: Workspace, control: ImportControl): Promise<void> {
  for (;;) {
    const until = control.nowMs() + BATCH_MS
    if (!workSomeDerived(workspace, () => control.nowMs() >= until || control.awaited())) return
    await control.pause()
  }
}

/** Goes on with the oldest such work in one commit, as far as there is time; answers whether there was any. */
export function workSomeDerived(workspace: Workspace, enough: () => boolean): boolean {
  const { store } = workspace
  const job = store.derive.open()
  if (!job) return false
  const ended = workspace.db.atomically(() => {
    workspace.keepUp()
    for (let now = store.derive.open(); now && now.id === job.id; now = store.derive.open()) {
      const derived = derivationsOf(workspace.catalogue()).all.find((one) => one.field.id === now?.fieldIds[now.at])
      const some = derived ? fillSome(workspace, derived, now.afterId) : { count: 0, last: null }
      if (some.last !== null) store.derive.move(now.id, { afterId: some.last, done: now.done + some.count })
      else if (now.at + 1 < now.fieldIds.length)
        store.derive.move(now.id, { at: now.at + 1, afterId: 0, done: now.done + some.count })
      else {
        store.derive.move(now.id, { done: now.total, endedAt: workspace.clock.nowMs() })
        return true
      }
      if (enough()) return false
    }
    return true
  })
  if (!ended) return true
  // Dates that are worked out may move what goes by them.
  store.revisions.bump('rules')
  workspace.live.tell({ about: 'catalogue' })
  workspace.live.tell({ about: 'rules' })
  return true
}

/** Works out one field for the next records. */
function fillSome(
  workspace: Workspace,
  derived: Derived,
  afterId: number,
): { readonly count: number; readonly last: number | null } {
  const { world, store } = workspace
  const { object } = derived.field
  const moment = workspace.moment()
  const records = store.records.behind(object, afterId, BATCH)
  const values = records.flatMap((record): (readonly [number, Value])[] => {
    const value = derived.value(new Asked(world, record, moment))
    return sameValue(record.values[derived.field.key] ?? null, value) ? [] : [[record.id, value]]
  })
  store.records.fill(derived.field, values)
  for (const [id] of values) world.forget({ object, id })
  return { count: records.length, last: records.length < BATCH ? null : (records.at(-1)?.id ?? null) }
}
