import { OBJECTS } from '../../../records/kinds'
import { z } from 'zod'
import type { Catalogue } from '../../../fields/catalogue'
import type { Field } from '../../../fields/field'
import { FIELD_TYPES } from '../../../fields/types'
import { PLAIN_STYLE } from '../../../fields/kind'
import { isEmpty, type Value } from '../../../language/value'
import type { AnyBranch } from '../../parts'
import { defineStep } from '../../step'
import { say, word } from '../../../language/sentence'
import type { Names } from '../../../fields/names'
import { fieldWord, sayValue } from '../../../fields/say-value'

const fieldOf = (key: string | null, { catalogue, object }: Names): Field | null =>
  key === null ? null : catalogue.field(object, key)

/** The values of a field that a path can be made for; `null` for a field with too many of them. */
export function valuesOf(field: Field, catalogue: Catalogue): readonly Value[] | null {
  switch (field.type) {
    case 'choice':
      return field.choices.map((choice) => choice.id)
    case 'yesNo':
      return [true, false]
    case 'stage':
      return catalogue.allStages().map((stage) => stage.id)
    case 'pipeline':
      return catalogue.pipelines.map((pipeline) => pipeline.id)
    case 'person':
      return catalogue.people.filter((person) => person.active).map((person) => person.id)
    default:
      return null
  }
}

/** The values that have no path of their own: the field may have gained a choice since the paths were made. */
export function valuesWithoutPath(branches: readonly AnyBranch[], key: string | null, names: Names): readonly Value[] {
  const field = fieldOf(key, names)
  const taken = new Set(branches.map((branch) => branch.value))
  return field ? (valuesOf(field, names.catalogue) ?? []).filter((value) => !taken.has(value)) : []
}

/** Goes the way that belongs to the value of a field, and the last one for every other value and for none. */
export const pathPerValue = defineStep<'pathPerValue', { field: string | null }>({
  kind: 'pathPerValue',
  category: 'data',
  does: 'one path for each value of a field',
  alsoCalled: ['switch', 'case', 'split by', 'branch by choice', 'for each choice', 'depending on'],
  objects: OBJECTS,
  params: z.strictObject({ field: z.string().max(100).nullable() }),
  form: { field: { widget: 'field', writable: false, types: ['choice', 'yesNo', 'stage', 'pipeline', 'person'] } },
  start: { field: null },
  sentence: ({ field }, names) => [
    say('take the path for its '),
    word('field', fieldWord(fieldOf(field, names)), 'field'),
  ],
  check({ field: key }, names) {
    const field = fieldOf(key, names)
    if (!field)
      return [
        {
          param: 'field',
          problem: key === null ? { code: 'missing', what: 'field' } : { code: 'unknownField', field: key },
        },
      ]
    return valuesOf(field, names.catalogue)
      ? []
      : [{ param: 'field', problem: { code: 'wrongType', type: FIELD_TYPES[field.type].word } }]
  },
  ways: {
    otherwise: true,
    single: false,
    object: (_params, object) => object,
    begin({ field: key }, names, fresh) {
      const field = fieldOf(key, names)
      const values = field ? (valuesOf(field, names.catalogue) ?? []) : []
      return [
        ...values.slice(0, 90).map((value) => ({ id: fresh('b'), value, steps: [] })),
        { id: fresh('b'), steps: [] },
      ]
    },
    misfit(branches, branch) {
      if (branch.when !== undefined) return 'A path of a value can’t have conditions.'
      const last = branch === branches.at(-1)
      if (last !== (branch.value === undefined))
        return last ? 'The last path can’t have a value.' : 'This path needs a value.'
      return branch.value !== undefined && branches.some((one) => one !== branch && one.value === branch.value)
        ? 'Another path already has this value.'
        : null
    },
    label(branch, _index, _branches, { field: key }, names) {
      const field = fieldOf(key, names)
      return branch.value === undefined
        ? 'any other value, or empty'
        : field
          ? sayValue(branch.value, field, names.catalogue)
          : String(branch.value)
    },
    check(branch, _index, _branches, { field: key }, names) {
      const field = fieldOf(key, names)
      if (!field || branch.value === undefined) return []
      const read = FIELD_TYPES[field.type].accept(branch.value, {
        catalogue: names.catalogue,
        field,
        style: PLAIN_STYLE,
        pipelineId: null,
      })
      return read.ok ? [] : [read.problem]
    },
    choose({ field: key }, branches, { record, catalogue }) {
      const field = key === null ? null : catalogue.field(record.object, key)
      if (!field) return { none: { code: 'noPath' } }
      const value = record.values[field.key] ?? null
      const branch =
        branches.find((one) => one.value !== undefined && !isEmpty(value) && one.value === value) ?? branches.at(-1)
      return branch
        ? {
            branch,
            records: [record],
            say: `${fieldWord(field)} was ${sayValue(value, field, catalogue, record.values)}`,
            seen: [],
          }
        : { none: { code: 'noPath' } }
    },
    examples: [
      {
        say: 'goes the path of its value',
        params: { field: 'kind' },
        record: { kind: 'hire' },
        branches: [
          { id: 'b1', value: 'purchase', steps: [] },
          { id: 'b2', value: 'hire', steps: [] },
          { id: 'b3', steps: [] },
        ],
        expect: { way: 'b2', records: 1 },
      },
      {
        say: 'goes the last for any other value, and for none',
        params: { field: 'kind' },
        record: { kind: null },
        branches: [
          { id: 'b1', value: 'purchase', steps: [] },
          { id: 'b2', steps: [] },
        ],
        expect: { way: 'b2', records: 1 },
      },
      {
        say: 'goes none by a field that has gone',
        params: { field: 'gone' },
        branches: [{ id: 'b1', steps: [] }],
        expect: { none: 'noPath' },
      },
    ],
  },
  examples: [],
})
