import { Asked, derivationsOf } from '../derived/derivations'
import { momentAt } from '../engine/moment'
import type { Catalogue } from '../fields/catalogue'
import { PLAIN_STYLE } from '../fields/kind'
import { FIELD_TYPES } from '../fields/types'
import { isEmpty, sameValue, type Value, type Values } from '../language/value'
import type { PlacedProblem } from '../language/problems'
import type { ObjectKind } from './kinds'
import type { FieldChange } from './record'

export interface WritePlan {
  /** Only real differences; empty when nothing would change. */
  readonly changes: readonly FieldChange[]
  readonly problems: readonly PlacedProblem[]
}

/** Fields that follow from another one and are kept by the system itself. */
function follow(
  object: ObjectKind,
  field: string,
  value: Value,
  nowMs: number,
  catalogue: Catalogue,
): readonly (readonly [string, Value])[] {
  if (object !== 'deal' || field !== 'stage' || typeof value !== 'string') return []
  return [
    ['pipeline', catalogue.stage(value)?.pipelineId ?? null],
    ['stageSince', nowMs],
  ]
}

/** Adds what is worked out from the record itself, in the same change. */
function workOut(
  object: ObjectKind,
  old: Values | null,
  changes: FieldChange[],
  nowMs: number,
  catalogue: Catalogue,
): void {
  if (old !== null && changes.length === 0) return
  const touched = new Set(changes.map((change) => change.field))
  const near = derivationsOf(catalogue).near(object)
  if (!near.some((one) => old === null || meet(one.depends.own, touched))) return
  const moment = momentAt(nowMs, catalogue.workspace)
  let values: Values = { ...old, ...Object.fromEntries(changes.map((change) => [change.field, change.new])) }
  for (const one of near) {
    const { key } = one.field
    if (old !== null && !meet(one.depends.own, touched)) continue
    const value = one.value(new Asked(null, { object, id: 0, values }, moment))
    if (sameValue(values[key] ?? null, value)) continue
    changes.push({ field: key, old: old?.[key] ?? null, new: value })
    values = { ...values, [key]: value }
    touched.add(key)
  }
}

function meet(some: ReadonlySet<string>, others: ReadonlySet<string>): boolean {
  for (const one of some) if (others.has(one)) return true
  return false
}

/** What writing values that are worked out comes to: they fit their fields already, and nobody else may write them. */
export function planKept(
  object: ObjectKind,
  old: Values,
  values: { readonly [field: string]: Value },
  nowMs: number,
  catalogue: Catalogue,
): readonly FieldChange[] {
  const changes: FieldChange[] = []
  for (const field in values) {
    const [before, value] = [old[field] ?? null, values[field] ?? null]
    if (!sameValue(before, value)) changes.push({ field, old: before, new: value })
  }
  workOut(object, old, changes, nowMs, catalogue)
  return changes
}

/**
 * What writing `values` on a record that holds `old` comes to: checked values in their stored form, the fields that
 * follow from them, and no change for what stands there already. Pure; the caller refuses when there are problems.
 * `old` is `null` for a record that is to be created: then its required fields must be there.
 */
export function planWrite(
  object: ObjectKind,
  old: Values | null,
  values: { readonly [field: string]: Value },
  nowMs: number,
  catalogue: Catalogue,
): WritePlan {
  const changes: FieldChange[] = []
  const problems: PlacedProblem[] = []
  const before = (key: string): Value => old?.[key] ?? null
  for (const [key, given] of Object.entries(values)) {
    const field = catalogue.field(object, key)
    if (!field) {
      problems.push({ path: key, problem: { code: 'unknownField', field: key } })
      continue
    }
    if (field.keptBy) {
      problems.push({ path: key, problem: { code: 'readOnly', field: field.label, keptBy: field.keptBy } })
      continue
    }
    const read = FIELD_TYPES[field.type].accept(given, { catalogue, field, style: PLAIN_STYLE, pipelineId: null })
    if (!read.ok) problems.push({ path: key, problem: read.problem })
    else if (field.required && isEmpty(read.value))
      problems.push({ path: key, problem: { code: 'required', field: field.label } })
    else if (!sameValue(before(key), read.value)) {
      changes.push({ field: key, old: before(key), new: read.value })
      for (const [other, value] of follow(object, key, read.value, nowMs, catalogue)) {
        if (catalogue.field(object, other) && !sameValue(before(other), value))
          changes.push({ field: other, old: before(other), new: value })
      }
    }
  }
  if (old === null) {
    if (catalogue.field(object, 'createdAt')) changes.push({ field: 'createdAt', old: null, new: nowMs })
    for (const field of catalogue.fields(object)) {
      if (field.required && !(field.key in values))
        problems.push({ path: field.key, problem: { code: 'required', field: field.label } })
    }
  }
  if (problems.length === 0) workOut(object, old, changes, nowMs, catalogue)
  return { changes, problems }
}
