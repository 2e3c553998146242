import { Asked, derivationsOf } from '../../core/derived/derivations'
import type { Making } from '../../core/derived/making'
import { rollUpType, sayRollUp } from '../../core/derived/roll-up'
import { Catalogue } from '../../core/fields/catalogue'
import type { Field } from '../../core/fields/field'
import { FIELD_TYPES } from '../../core/fields/types'
import { isEmpty, type Value } from '../../core/language/value'
import { compileFormula, type FormulaProblem } from '../../core/formulas/formula'
import { readingOf } from '../../core/formulas/reading'
import { keptAs, sayType } from '../../core/formulas/types'
import type { ObjectKind } from '../../core/records/kinds'
import type { RecordSnapshot } from '../../core/records/record'
import type { Scope } from '../../core/access/scope'
import { seesRecord } from '../../core/access/scope'
import type { Workspace } from '../engine/workspace'
import { sayValue } from '../../core/fields/say-value'
import type { FieldTypeName } from '../../core/language/field-types'

/** What a field that is worked out would come to on the records that are there. */

export interface MakingAsked {
  readonly object: ObjectKind
  readonly made: Extract<Making, { by: 'formula' | 'rollUp' }>
  /** The type it shall be kept as; the first that fits, where it is left open. */
  readonly type: FieldTypeName | null
  readonly scope: Scope
}

export interface MakingShown {
  readonly problem: FormulaProblem | null
  /** What it comes to, in words; empty while it does not read. */
  readonly comesTo: string
  readonly types: readonly FieldTypeName[]
  readonly reading: string | null
  readonly looked: number
  readonly counts: {
    readonly above: number
    readonly zero: number
    readonly below: number
    readonly empty: number
    readonly other: number
  }
  readonly samples: readonly {
    readonly id: number
    readonly name: string
    readonly inputs: readonly { readonly label: string; readonly text: string }[]
    readonly result: string
    readonly why: 'least' | 'most' | 'empty' | ''
  }[]
}

const LOOKED_MOST = 5000
const SHOWN = 10
const NOTHING = { looked: 0, counts: { above: 0, zero: 0, below: 0, empty: 0, other: 0 }, samples: [] } as const

export function showMaking(workspace: Workspace, { object, made, type: wanted, scope }: MakingAsked): MakingShown {
  const catalogue = workspace.catalogue()
  const read = made.by === 'formula' ? compileFormula(made.text, object, catalogue) : null
  if (read && !read.ok) return { problem: read.problem, comesTo: '', types: [], reading: null, ...NOTHING }
  const rolled = made.by === 'rollUp' ? rollUpType(made, catalogue) : null
  const types = read?.ok ? keptAs(read.formula.type) : rolled ? [rolled] : []
  const type = wanted !== null && types.includes(wanted) ? wanted : types[0]
  const comesTo = read?.ok
    ? sayType(read.formula.type)
    : made.by === 'rollUp' && rolled
      ? sayRollUp(made, catalogue)
      : ''
  const reading = made.by === 'formula' ? readingOf(made.text, object, catalogue) : null
  if (!type) return { problem: null, comesTo, types: [], reading, ...NOTHING }
  const inputs = read?.ok
    ? [...read.formula.uses.own].flatMap((key) => catalogue.field(object, key) ?? []).slice(0, 4)
    : []
  const money = inputs.find((one) => one.currencyKey)?.currencyKey ?? null
  const field: Field = {
    id: 0,
    object,
    key: '',
    label: '',
    type,
    description: '',
    keptBy: '',
    required: false,
    choices: [],
    currencyKey: type === 'currency' ? money : null,
    synonyms: null,
    made,
  }
  const trial = new Catalogue({ ...catalogue.data, fields: [...catalogue.data.fields, { ...field, key: 'trial' }] })
  const derived = derivationsOf(trial).all.find((one) => one.field.key === 'trial')
  const moment = workspace.moment()
  const found: { record: RecordSnapshot; value: Value }[] = []
  for (let after = 0; found.length < LOOKED_MOST;) {
    const some = workspace.store.records.behind(object, after, 500)
    for (const record of some)
      if (seesRecord(scope, record.values))
        found.push({ record, value: derived?.value(new Asked(workspace.world, record, moment)) ?? null })
    const last = some.at(-1)
    if (!last || some.length < 500) break
    after = last.id
  }
  const counts = { above: 0, zero: 0, below: 0, empty: 0, other: 0 }
  for (const { value } of found)
    counts[
      isEmpty(value)
        ? 'empty'
        : typeof value !== 'number' || type === 'dateTime'
          ? 'other'
          : value > 0
            ? 'above'
            : value < 0
              ? 'below'
              : 'zero'
    ]++
  const say = (value: Value, of: Field, record: RecordSnapshot): string =>
    isEmpty(value) ? 'empty' : sayValue(value, of, catalogue, record.values)
  return {
    problem: null,
    comesTo,
    types,
    reading,
    looked: found.length,
    counts,
    samples: pick(found, type).map(({ record, value, why }) => ({
      id: record.id,
      name: String(record.values.name ?? ''),
      why,
      result: say(value, field, record),
      inputs: inputs.map((one) => ({ label: one.label, text: say(record.values[one.key] ?? null, one, record) })),
    })),
  }
}

/** Ten that tell most: the least and the greatest, empty ones, and some from between. */
function pick(
  found: readonly { readonly record: RecordSnapshot; readonly value: Value }[],
  type: FieldTypeName,
): readonly {
  readonly record: RecordSnapshot
  readonly value: Value
  readonly why: 'least' | 'most' | 'empty' | ''
}[] {
  const key = (value: Value): string | number => (isEmpty(value) ? '' : FIELD_TYPES[type].key(value))
  const empties = found.filter((one) => isEmpty(one.value))
  const full = found
    .filter((one) => !isEmpty(one.value))
    .toSorted((a, b) =>
      key(a.value) < key(b.value) ? -1 : key(a.value) > key(b.value) ? 1 : a.record.id - b.record.id,
    )
  const wanted = SHOWN - Math.min(2, empties.length)
  const chosen =
    full.length <= wanted
      ? full
      : Array.from({ length: wanted }, (_, i) => full[Math.round((i * (full.length - 1)) / (wanted - 1))]).flatMap(
          (one) => one ?? [],
        )
  return [
    ...chosen.map((one, i) => ({
      ...one,
      why:
        FIELD_TYPES[type].ordered && chosen.length > 2
          ? i === 0
            ? ('least' as const)
            : i === chosen.length - 1
              ? ('most' as const)
              : ('' as const)
          : ('' as const),
    })),
    ...empties.slice(0, SHOWN - chosen.length).map((one) => ({ ...one, why: 'empty' as const })),
  ]
}
