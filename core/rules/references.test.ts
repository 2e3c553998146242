import { ASK_KEYS, askForm, askParams, newAsk } from '../conditions/asks'
import { describe, expect, it } from 'vitest'
import { OPERATORS } from '../conditions/operators'
import type { Form, Widget } from '../language/widgets'
import { document } from '../testing/rules'
import { referencesIn, referencesOf, type Reference } from './references'
import { STEPS } from './steps'
import { TRIGGERS } from './triggers'

/** For each widget that can name something: a value chosen with it, and what it then names on a deal. */
const CHOSEN: {
  readonly [W in Widget['widget']]: { readonly value: unknown; readonly names: Reference } | null
} = {
  field: { value: 'someField', names: { to: 'field', object: 'deal', key: 'someField' } },
  fields: { value: ['notes', 'someField'], names: { to: 'field', object: 'deal', key: 'someField' } },
  otherField: {
    value: { via: 'company', field: 'someField' },
    names: { to: 'field', object: 'company', key: 'someField' },
  },
  value: { value: 'some', names: { to: 'value', object: 'deal', key: 'asked', value: 'some' } },
  values: { value: ['other', 'some'], names: { to: 'value', object: 'deal', key: 'asked', value: 'some' } },
  source: {
    value: { from: 'linked', via: 'contact', field: 'someField' },
    names: { to: 'field', object: 'contact', key: 'someField' },
  },
  stage: { value: 'hp-terms', names: { to: 'stage', id: 'hp-terms' } },
  activity: { value: 'visit', names: { to: 'activity', name: 'visit' } },
  segment: { value: 7, names: { to: 'segment', id: 7 } },
  band: { value: 'hot', names: { to: 'band', object: 'deal', key: 'asked', band: 'hot' } },
  formula: { value: 'someField > 3', names: { to: 'field', object: 'deal', key: 'someField' } },
  sender: { value: 'person:rosa', names: { to: 'person', id: 'rosa' } },
  phoneField: { value: 'phone', names: { to: 'field', object: 'contact', key: 'phone' } },
  template: { value: 3, names: { to: 'template', id: 3 } },
  connection: { value: 3, names: { to: 'connection', id: 3 } },
  person: { value: 'rosa', names: { to: 'person', id: 'rosa' } },
  people: { value: ['jude', 'rosa'], names: { to: 'person', id: 'rosa' } },
  who: { value: { by: 'turn', people: ['jude', 'rosa'] }, names: { to: 'person', id: 'rosa' } },
  when: {
    value: { at: 'field', field: 'someField', side: 'on', amount: { count: 0, unit: 'days' }, minute: null },
    names: { to: 'field', object: 'deal', key: 'someField' },
  },
  table: {
    value: {
      hit: 'first',
      collect: 'list',
      inputs: [{ via: 'company', field: 'someField' }],
      outputs: [{ key: 'out', label: 'Out', type: 'text' }],
      rows: [{ id: 'r1', when: [{ is: 'values', values: ['some'], not: false }], then: ['x'] }],
    },
    names: { to: 'value', object: 'company', key: 'someField', value: 'some' },
  },
  mergeText: {
    value: 'Ring {{ contact.someField }} now',
    names: { to: 'field', object: 'contact', key: 'someField' },
  },
  json: {
    value: '{"to":"{{contact.someField}}"}',
    names: { to: 'field', object: 'contact', key: 'someField' },
  },
  linkable: null,
  readings: null,
  stepBefore: null,
  lines: null,
  pick: null,
  toggle: null,
  amount: null,
  minute: null,
  several: null,
  recurrence: null,
  count: null,
  words: null,
  questions: null,
}

/** Every form there is, with the params that are its start. */
const FORMS: readonly (readonly [string, Form<Record<string, unknown>>, object])[] = [
  ...Object.values(TRIGGERS).map(({ kind, form, start }) => [`trigger ${kind}`, form, start] as const),
  ...Object.values(STEPS).map(({ kind, form, start }) => [`step ${kind}`, form, start] as const),
  ...Object.values(OPERATORS).map(({ op, form, start }) => [`operator ${op}`, form, start] as const),
  ...ASK_KEYS.map((key) => {
    const ask = newAsk('a1', key)
    return [`question ${key}`, askForm(ask), askParams(ask)] as const
  }),
]
const NAMING = FORMS.flatMap(([name, form, start]) =>
  Object.entries(form).flatMap(([param, widget]) => {
    const chosen = CHOSEN[widget.widget]
    return chosen ? [{ what: `${name}, ${param}`, form, start, param, widget, ...chosen }] : []
  }),
)

describe('what a form names', () => {
  it.each(NAMING)('$what', ({ form, start, param, widget, value, names }) => {
    const beside = {
      ...('of' in widget ? { [widget.of]: 'asked' } : {}),
      ...(widget.widget === 'field' && widget.object !== undefined ? { [widget.object]: 'deal' } : {}),
    }
    const found = referencesIn(form, { ...start, ...beside, [param]: value }, 'deal')
    expect(found).toContainEqual({ reference: names, param })
  })

  it('is read off every widget by which something is chosen, in one kind at least', () => {
    const used = new Set(NAMING.map(({ widget }) => widget.widget))
    const none = Object.entries(CHOSEN).flatMap(([widget, chosen]) =>
      chosen && !used.has(widget as Widget['widget']) ? [widget] : [],
    )
    expect(none).toEqual([])
  })
})

describe('what a rule names', () => {
  const namesOf = (rule: ReturnType<typeof document>) => referencesOf(rule).map(({ reference }) => reference)

  it('in a formula: fields of its own, those of linked records, and texts that they are compared with', () => {
    const source = { from: 'formula', text: 'if kind = "hire" then sum(company.deals[amount > 3].margin) else units' }
    const names = namesOf(
      document({ when: [['created', {}]], then: [['setField', { field: 'units', source, keepByHand: false }]] }),
    )
    for (const one of [
      { to: 'field', object: 'deal', key: 'kind' },
      { to: 'field', object: 'deal', key: 'units' },
      { to: 'field', object: null, key: 'margin' },
      { to: 'field', object: null, key: 'amount' },
      { to: 'value', object: 'deal', key: 'kind', value: 'hire' },
    ])
      expect(names).toContainEqual(one)
    expect(names).not.toContainEqual({ to: 'field', object: 'deal', key: 'hire' })
  })

  it('on a path that has steps, its value; of an owner that is assigned, the owner', () => {
    const stop = ['stop', { because: 'x' }] as const
    const rule = document({
      when: [['created', {}]],
      then: [
        ['pathPerValue', { field: 'kind' }, ['hire', stop], ['service'], [null]],
        ['assignOwner', { person: null, replace: true, who: { by: 'queue', team: 'Hire' } }],
      ],
    })
    expect(referencesOf(rule)).toContainEqual({
      reference: { to: 'value', object: 'deal', key: 'kind', value: 'hire' },
      part: 'branch',
      id: 'b1',
      param: 'value',
    })
    expect(namesOf(rule)).not.toContainEqual({ to: 'value', object: 'deal', key: 'kind', value: 'service' })
    expect(namesOf(rule)).toContainEqual({ to: 'field', object: 'deal', key: 'owner' })
    expect(namesOf(rule)).toContainEqual({ to: 'team', name: 'Hire' })
  })
})
