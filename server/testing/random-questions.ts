import fc from 'fast-check'
import { ACTIVITIES, type BuiltInActivity } from '../../core/activities'
import { activityFields } from '../../core/activities/fields'
import {
  DID_HOWS,
  DID_SPANS,
  type Ask,
  type Condition,
  type Did,
  type Group,
  type Linked,
} from '../../core/conditions/document'
import { howsFor, linkedKinds } from '../../core/conditions/linked'
import type { Catalogue } from '../../core/fields/catalogue'
import { othersFor } from '../../core/conditions/operators/another-field'
import { operatorsFor } from '../../core/conditions/operators'
import { SPAN_NAMES, SPAN_UNITS } from '../../core/time/spans'
import type { Field } from '../../core/fields/field'
import { FIELD_TYPES } from '../../core/fields/types'
import type { Value } from '../../core/language/value'
import { OBJECTS, type ObjectKind, type RecordRef } from '../../core/records/kinds'
import type { RecordSnapshot } from '../../core/records/record'
import { larkmoor } from './workspace'
import type { Workspace } from '../engine/workspace'
import type { OperatorName } from '../../core/conditions/operator-names'
import { FIELD_TYPE_NAMES, type FieldTypeName } from '../../core/language/field-types'

/** Questions as somebody could ask them, at random, and a workspace of records to ask them of. */

const CHOICES = [
  { id: 'a', label: 'Ähnlich' },
  { id: 'b', label: 'B' },
  { id: 'c', label: 'C' },
]
const TEXTS = ['', 'Éclair', 'eclair', 'ECLAIR  two', 'a', 'b', '10', '9', '%', "it's", 'ß', 'İ', 'ﬁ', '100 %']
/** Around the ends of summer time in Lisbon and the turn of days, where a day is easily mistaken. */
const INSTANTS = [
  '2026-10-25T00:30:00Z',
  '2026-10-25T23:59:59.999Z',
  '2026-10-26T00:00:00Z',
  '2026-11-23T23:59:59.999Z',
  '2026-11-24T00:00:00Z',
  '2026-11-24T23:59:59.999Z',
  '2026-11-25T00:00:00Z',
  '2027-03-28T00:59:59Z',
  '2027-03-28T23:30:00Z',
].map((text) => Date.parse(text))
const DATES = [
  '2026-10-25',
  '2026-11-16',
  '2026-11-22',
  '2026-11-23',
  '2026-11-24',
  '2026-11-25',
  '2026-11-30',
  '2026-12-01',
  '2027-02-28',
]

/** A workspace whose deals have a field of every type, some with an index and some without. */
export function everyType(): { readonly workspace: Workspace; readonly fields: readonly Field[] } {
  const { workspace } = larkmoor()
  // The newest is for what is open; deals that are closed today go by the one before. For NZD there is none.
  workspace.store.rates.put([
    { code: 'CAD', day: '2026-11-20', perOwn: 1.5 },
    { code: 'CAD', day: '2026-11-26', perOwn: 1.37 },
  ])
  const types = FIELD_TYPE_NAMES.filter((type) => type !== 'stage' && type !== 'pipeline')
  workspace.addFields(
    types.flatMap((type, i) =>
      [false, true].map((indexed) => ({
        object: 'deal' as const,
        key: `t${i}${indexed ? 'i' : ''}`,
        label: `${type} ${indexed ? 'indexed' : ''}`,
        type,
        description: '',
        keptBy: null,
        required: false,
        currencyKey: type === 'currency' && indexed ? 'currency' : null,
        synonyms: null,
        indexed,
        position: 100 + i,
        choices: type === 'choice' || type === 'choices' ? CHOICES : [],
      })),
    ),
  )
  return {
    workspace,
    fields: workspace
      .catalogue()
      .fields('deal')
      .filter((field) => /^t\d+i?$/.test(field.key)),
  }
}

function valueOf(type: FieldTypeName): fc.Arbitrary<Value> {
  switch (FIELD_TYPES[type].widget) {
    case 'number':
      return fc.constantFrom<Value>(null, 0, -1, 1, 1.5, 99.99, 100, 1e6)
    case 'date':
      return fc.constantFrom<Value>(null, ...DATES)
    case 'dateTime':
      return fc.constantFrom<Value>(null, ...INSTANTS)
    case 'yesNo':
      return fc.constantFrom<Value>(null, true, false)
    case 'choice':
      return fc.constantFrom<Value>(null, 'a', 'b', 'c')
    case 'choices':
      return fc.constantFrom<Value>(null, ['a'], ['a', 'b'], ['c'])
    case 'person':
      return fc.constantFrom<Value>(null, 'rosa', 'jude')
    case 'stage':
      return fc.constantFrom<Value>('hp-sized', 'hp-quoted')
    default:
      return type === 'email'
        ? fc.constantFrom<Value>(null, 'ida@lund.example', 'ole@lund.example')
        : type === 'phone'
          ? fc.constantFrom<Value>(null, '+351210000123', '+4412345678')
          : type === 'link'
            ? fc.constantFrom<Value>(null, 'https://lund.example/Path', 'https://lund.example/path')
            : fc.constantFrom<Value>(...TEXTS, null)
  }
}

/** Params for an operator as somebody could choose them, unfinished ones among them. */
export function paramsOf(op: OperatorName, field: Field, catalogue: Catalogue): fc.Arbitrary<object> {
  const value = valueOf(field.type)
  const number = fc.constantFrom(null, 0, 1, 1.5, 99.99, 100, -5)
  switch (op) {
    case 'is':
      return fc.record({ value })
    case 'contains':
      return fc.record({ value: fc.constantFrom<Value>(null, '', 'CLAIR', 'e', '%', 'lund', '35121', ' ') })
    case 'isAnyOf':
      return fc.record({
        values: fc.array(
          valueOf(field.type).filter((one): one is string => typeof one === 'string'),
          { maxLength: 3 },
        ),
      })
    case 'includes':
      return fc.record({ values: fc.subarray(['a', 'b', 'c', 'gone']) })
    case 'moreThan':
    case 'lessThan':
      return fc.record({ value: number })
    case 'between':
      return fc.record({ low: number, high: number })
    case 'within':
      return fc.record({ span: fc.constantFrom(...SPAN_NAMES) })
    case 'inNext':
    case 'inLast':
    case 'longAgo':
    case 'farAhead':
      return fc.record({
        amount: fc.record({ count: fc.constantFrom(0, 1, 2, 5, 30), unit: fc.constantFrom(...SPAN_UNITS) }),
      })
    case 'before':
    case 'after':
      return fc.record({ date: fc.constantFrom(null, ...DATES, 'no date') })
    case 'standing':
      return fc.record({ outcome: fc.constantFrom('open', 'won', 'lost') })
    case 'sameAs':
    case 'aboveField':
    case 'belowField':
    case 'earlierThan':
    case 'laterThan':
      return fc.record({
        other: fc.constantFrom(
          null,
          { via: null, field: 'gone' },
          ...othersFor(field, catalogue).map(({ other }) => other),
        ),
      })
    case 'isEmpty':
      return fc.constant({})
  }
}

let ids = 0
/**
 * What can be asked of each kind of record: of deals the fields of every type, of the others those that Larkmoor has.
 */
export interface Asked {
  /** Segments that may be asked about, by kind of record. */
  readonly segments?: { readonly [K in ObjectKind]?: readonly number[] }
  readonly catalogue: Catalogue
  readonly fields: { readonly [K in ObjectKind]?: readonly Field[] }
}

const conditionOn = ({ catalogue, fields }: Asked, object: ObjectKind): fc.Arbitrary<Condition> =>
  fc.constantFrom(...(fields[object] ?? [])).chain((field) =>
    fc.constantFrom(...operatorsFor(field.type)).chain((op) =>
      fc.record({ params: paramsOf(op, field, catalogue), not: fc.boolean() }).map(({ params, not }): Condition => ({
        kind: 'condition',
        id: `c${++ids}`,
        field: field.key,
        op,
        not,
        params,
      })),
    ),
  )

const linkedOn = (asked: Asked, object: ObjectKind, steps: number): fc.Arbitrary<Linked> =>
  fc.constantFrom(...linkedKinds(object)).chain((other) =>
    fc
      .record({
        how: fc.constantFrom(...howsFor(object, other)),
        count: fc.constantFrom(1, 2, 3),
        group: groupOn(asked, other, steps - 1),
      })
      .map(({ how, count, group }): Linked => ({
        kind: 'linked',
        id: `l${++ids}`,
        object: other,
        how,
        count,
        group,
      })),
  )

/** Kinds with choices, numbers, texts, yes or no, and times. */
const DONE = ['visit', 'call', 'appointmentMissed'] as const

const didOn = ({ catalogue }: Asked, object: ObjectKind): fc.Arbitrary<Did> =>
  fc
    .record({
      activity: fc.constantFrom(null, ...DONE),
      by: fc.constantFrom(...OBJECTS.filter((one) => one === object || linkedKinds(object).includes(one))),
    })
    .chain(({ activity, by }) => {
      const fields = activity ? activityFields(ACTIVITIES[activity as BuiltInActivity], by) : []
      return fc
        .record({
          how: fc.constantFrom(...DID_HOWS),
          count: fc.constantFrom(1, 2, 3),
          span: fc.constantFrom(...DID_SPANS),
          days: fc.constantFrom(0, 1, 20),
          mode: fc.constantFrom('all' as const, 'any' as const, 'none' as const),
          items:
            fields.length === 0
              ? fc.constant([])
              : fc.array(conditionOn({ catalogue, fields: { [by]: fields } }, by), { maxLength: 2 }),
        })
        .map(({ mode, items, ...rest }): Did => ({
          kind: 'did',
          id: `d${++ids}`,
          activity,
          by,
          ...rest,
          group: { kind: 'group', id: `g${++ids}`, mode, items },
        }))
    })

/** Formulas about each kind of record, some of them about linked ones, and some that are no question. */
const FORMULAS: { readonly [K in ObjectKind]?: readonly string[] } = {
  deal: ['amount > 50', 'name = "Deal 3"', 'count(companies) > 1', 'amount', 'nonsense(', ''],
  contact: ['count(deals) > 0', 'some deal in deals satisfies deal.amount > 10'],
  company: ['sum(deals.amount) > 100', 'count(contacts[owner = "rosa"]) > 0'],
  appointment: ['count(contacts) > 0', 'status = "missed"'],
}

const askOn = ({ segments }: Asked, object: ObjectKind): fc.Arbitrary<Ask> =>
  fc.oneof(
    fc
      .record({ not: fc.boolean(), text: fc.constantFrom(...(FORMULAS[object] ?? [])) })
      .map(({ not, text }): Ask => ({ kind: 'formula', id: `f${++ids}`, not, text })),
    fc
      .record({ not: fc.boolean(), segment: fc.constantFrom(null, 999, ...(segments?.[object] ?? [])) })
      .map(({ not, segment }): Ask => ({ kind: 'inSegment', id: `s${++ids}`, not, segment })),
  )

export const groupOn = (asked: Asked, object: ObjectKind, steps: number): fc.Arbitrary<Group> =>
  fc.letrec<{ group: Group }>((tie) => ({
    group: fc
      .record({
        mode: fc.constantFrom('all' as const, 'any' as const, 'none' as const),
        items: fc.array(
          fc.oneof(
            { maxDepth: 2, withCrossShrink: true },
            { weight: 3, arbitrary: conditionOn(asked, object) },
            ...(steps > 0 ? [{ weight: 1, arbitrary: linkedOn(asked, object, steps) }] : []),
            { weight: 1, arbitrary: tie('group') },
            { weight: 1, arbitrary: askOn(asked, object) },
            { weight: 1, arbitrary: didOn(asked, object) },
          ),
          { maxLength: 3 },
        ),
      })
      .map(({ mode, items }): Group => ({ kind: 'group', id: `g${++ids}`, mode, items })),
  })).group

/** Companies, contacts and deals linked any which way, many to many, some with nothing. */
export function linkUp(workspace: Workspace, deals: readonly RecordSnapshot[]): void {
  const catalogue = workspace.catalogue()
  const { links } = workspace.store
  workspace.db.atomically(() => {
    const make = (object: ObjectKind, count: number, seed: number) => {
      const fields = catalogue.fields(object).filter((field) => field.keptBy === null && field.key !== 'name')
      return fc
        .sample(
          fc.record(
            Object.fromEntries(
              fields.map((field) => [
                field.key,
                FIELD_TYPES[field.type].widget === 'choice'
                  ? fc.constantFrom<Value>(null, ...field.choices.map((choice) => choice.id))
                  : valueOf(field.type),
              ]),
            ),
          ),
          { numRuns: count, seed },
        )
        .map((values, i) =>
          workspace.createBy(
            object,
            {
              ...values,
              name: `${object} ${i}`,
              ...(object === 'appointment' ? { start: INSTANTS[i % INSTANTS.length] ?? 0 } : {}),
            },
            [],
            { by: 'person', personId: 'ines' },
            true,
          ),
        )
    }
    const companies = make('company', 14, 7)
    const contacts = make('contact', 20, 8)
    const appointments = make('appointment', 12, 9)
    const pick = <T>(from: readonly T[], n: number): T | undefined => from[n % (from.length + 4)]
    contacts.forEach((contact, i) => {
      for (const n of [i * 5, i * 11 + 3]) {
        const company = pick(companies, n)
        if (company && i % 3) links.add(contact, company, '', 1)
      }
    })
    deals.forEach((deal, i) => {
      for (const other of [
        pick(companies, i * 7),
        pick(companies, i * 3 + 1),
        pick(contacts, i * 5),
        pick(contacts, i + 9),
      ])
        if (other && i % 4) links.add({ object: 'deal', id: deal.id }, other, '', 1)
    })
    const first = companies[0]
    appointments.forEach((one, i) => {
      for (const other of [pick(contacts, i * 3), pick(companies, i)]) if (other && i % 4) links.add(one, other, '', 1)
    })
    let told = 0
    for (const [place, ref] of [...companies, ...contacts, ...deals].entries())
      for (let i = 0; i < place % 5; i++) doSomething(workspace, ref, told++)
    if (first) for (const deal of deals.slice(0, 6)) links.change({ object: 'deal', id: deal.id }, first, 'pays', true)
  })
}

/** Something that was done around a record, with whatever its kind tells, at times that are easily mistaken. */
function doSomething(workspace: Workspace, { object, id }: RecordRef, n: number): void {
  const kind = DONE[n % DONE.length] ?? 'visit'
  const pick = <T>(from: readonly T[], by: number): T | undefined => from[(n * by) % from.length]
  const data = Object.fromEntries(
    ACTIVITIES[kind].data.flatMap(({ key, type, choices = [] }, i): [string, Value][] => {
      if ((n + i) % 4 === 0) return []
      switch (type) {
        case 'number':
          return [[key, (n % 7) - 2]]
        case 'yesNo':
          return [[key, n % 2 === 0]]
        case 'choice':
          return [[key, pick(choices, i + 1)?.id ?? '']]
        case 'dateTime':
          return [[key, pick(INSTANTS, i + 3) ?? 0]]
        case 'text':
        case 'longText':
          return [[key, pick(TEXTS, i + 5) ?? '']]
      }
    }),
  )
  const atMs = pick(INSTANTS, 5) ?? 0
  workspace.store.activities.add(
    { ref: { object, id }, kind, about: pick(TEXTS, 3) ?? '', data, atMs, key: null },
    atMs,
  )
}

export function fillWith(workspace: Workspace, fields: readonly Field[], count: number): readonly RecordSnapshot[] {
  const record = fc.record(Object.fromEntries(fields.map((field) => [field.key, valueOf(field.type)])))
  workspace.db.atomically(() => {
    fc.sample(record, { numRuns: count, seed: 5 }).forEach((values, i) => {
      workspace.createBy(
        'deal',
        {
          ...values,
          name: `Deal ${i}`,
          stage: i % 3 === 0 ? 'hp-signed' : i % 2 ? 'hp-sized' : 'hp-quoted',
          currency: [null, 'cad', 'nzd', 'eur', 'cad'][i % 5] ?? null,
        },
        [],
        { by: 'person', personId: 'ines' },
        true,
      )
    })
  })
  return [
    ...workspace.store.records.scan(
      'deal',
      workspace
        .catalogue()
        .fields('deal')
        .map((field) => field.key),
    ),
  ]
}
