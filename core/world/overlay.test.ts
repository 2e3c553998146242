import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import type { Group } from '../conditions/document'
import type { Value } from '../language/value'
import { sameRef, type RecordRef } from '../records/kinds'
import { isLinkable, type Link, type RecordSnapshot } from '../records/record'
import { all, condition } from '../testing/rules'
import { catalogue, moment, NOW_MS, TODAY } from '../testing/setting'
import { addDays } from '../time/dates'
import { Memory } from './memory'
import { Overlay } from './overlay'
import { MADE_FROM } from './overlay-days'

const deal = (id: number): RecordRef => ({ object: 'deal', id })
const company = (id: number): RecordRef => ({ object: 'company', id })
const BY = { by: 'person', personId: 'ines' } as const
const CHAIN = { chainId: 'test', depth: 0 }

const dealOf = (id: number, amount: number | null, closeDate: string | null): RecordSnapshot => ({
  ...deal(id),
  version: 1,
  values: {
    name: `Deal ${id}`,
    stage: 'hp-sized',
    pipeline: 'hp',
    owner: 'rosa',
    amount,
    closeDate,
    stageSince: NOW_MS - id,
    createdAt: NOW_MS - id,
  },
})
const DEALS = [1, 2, 3, 4, 5].map((id) => dealOf(id, id === 3 ? null : id * 100, addDays(TODAY, id % 3)))
const COMPANIES = [1, 2].map((id): RecordSnapshot => ({
  ...company(id),
  version: 1,
  values: { name: `Company ${id}`, owner: 'rosa', sector: id === 1 ? 'bakery' : 'brewery', createdAt: NOW_MS },
}))
const LINKS: readonly Link[] = [
  { from: deal(1), to: company(1), main: true, role: '' },
  { from: deal(2), to: company(1), main: true, role: '' },
  { from: deal(3), to: company(2), main: true, role: 'pays' },
]
const below = () => new Memory(catalogue, [...DEALS, ...COMPANIES], LINKS)

/** What may happen; records made in here are named by their turn. */
type Act =
  | { readonly do: 'write'; readonly at: number; readonly values: { readonly [field: string]: Value } }
  | { readonly do: 'create'; readonly values: { readonly [field: string]: Value }; readonly to: number | null }
  | { readonly do: 'remove'; readonly at: number }
  | { readonly do: 'link' | 'unlink'; readonly at: number; readonly to: number }

const amount = fc.option(fc.integer({ min: 0, max: 600 }), { nil: null, freq: 5 })
const close = fc.option(
  fc.integer({ min: -2, max: 4 }).map((by) => addDays(TODAY, by)),
  { nil: null, freq: 5 },
)
const at = fc.nat(8)
const to = fc.integer({ min: 1, max: 2 })
const act: fc.Arbitrary<Act> = fc.oneof(
  fc.record({
    do: fc.constant('write' as const),
    at,
    values: fc.oneof(
      fc.record({ amount }),
      fc.record({ closeDate: close }),
      fc.record({ stage: fc.constantFrom<Value>('hp-quoted', 'hp-lost', 'no stage') }),
    ),
  }),
  fc.record({
    do: fc.constant('create' as const),
    values: fc.record({ name: fc.constantFrom<Value>('New', ''), stage: fc.constant<Value>('enq-fresh'), amount }),
    to: fc.option(to, { nil: null }),
  }),
  fc.record({ do: fc.constant('remove' as const), at }),
  fc.record({ do: fc.constantFrom('link' as const, 'unlink' as const), at, to }),
)

/** The same done to plain lists: what an overlay shows has to be what stands here. */
class Plain {
  records: RecordSnapshot[] = [...DEALS, ...COMPANIES]
  links: Link[] = [...LINKS]
  readonly deals: RecordRef[] = DEALS.map(({ id }) => deal(id))

  refAt(n: number): RecordRef {
    return this.deals[n % this.deals.length] ?? deal(0)
  }
  find(ref: RecordRef): RecordSnapshot | undefined {
    return this.records.find((one) => sameRef(one, ref))
  }
  change(ref: RecordRef, values: { readonly [field: string]: Value }): void {
    this.records = this.records.map((one) =>
      sameRef(one, ref) ? { ...one, version: one.version + 1, values: { ...one.values, ...values } } : one,
    )
  }
  link(from: RecordRef, other: RecordRef): void {
    const own = this.links.filter((one) => sameRef(one.from, from) && one.to.object === other.object)
    if (own.some((one) => sameRef(one.to, other))) return
    this.links.push({ from, to: other, main: !own.some((one) => one.main), role: '' })
  }
  unlink(from: RecordRef, other: RecordRef): void {
    this.links = this.links.filter((one) => !sameRef(one.from, from) || !sameRef(one.to, other))
  }
}

const valuesOf = (changes: readonly { readonly field: string; readonly new: Value }[]) =>
  Object.fromEntries(changes.map((change) => [change.field, change.new]))

/** Does one thing in both; refused by the one it is left out of the other. */
function perform(world: Overlay, plain: Plain, one: Act): void {
  if (one.do === 'create') {
    const linkTo = one.to === null ? [] : [company(one.to)]
    const made = world.create('deal', one.values, linkTo, BY, CHAIN)
    if (!made.ok || !made.ref || !made.event) return
    plain.deals.push(made.ref)
    plain.records.push({ ...made.ref, version: 1, values: valuesOf(made.event.changes) })
    for (const other of linkTo) plain.link(made.ref, other)
    return
  }
  const ref = plain.refAt(one.at)
  const there = plain.find(ref) !== undefined
  switch (one.do) {
    case 'write': {
      const done = world.write(ref, one.values, BY, CHAIN)
      expect(done.ok || !there || one.values.stage === 'no stage').toBe(true)
      if (done.ok && done.event) plain.change(ref, valuesOf(done.event.changes))
      return
    }
    case 'remove':
      world.remove(ref, BY, CHAIN)
      plain.records = plain.records.filter((record) => !sameRef(record, ref))
      return
    case 'link':
      if (!there) return
      world.link(ref, company(one.to))
      plain.link(ref, company(one.to))
      return
    case 'unlink':
      if (!there) return
      world.unlink(ref, company(one.to))
      plain.unlink(ref, company(one.to))
  }
}

const GROUPS: readonly Group[] = [
  all(condition('amount', 'moreThan', { value: 250 })),
  all(condition('closeDate', 'isEmpty', {})),
  all({
    kind: 'linked',
    id: 'l1',
    object: 'company',
    how: 'any',
    count: 1,
    group: all(condition('sector', 'is', { value: 'bakery' })),
  }),
]

/** All that rules ask of a world. */
function asked(world: Overlay | Memory, refs: readonly RecordRef[]) {
  const matching = (group: Group, after: number, limit: number) =>
    world instanceof Overlay
      ? world.matching('deal', group, after, limit)
      : world.matching('deal', group, moment, after, limit)
  return {
    records: refs.map((ref) => world.read(ref)),
    links: refs.map((ref) =>
      (world instanceof Overlay
        ? world.linked(ref, 'company').map(({ record, main, role }) => ({ id: record.id, main, role }))
        : [...world.linked(ref, 'company')]
      ).sort((a, b) => a.id - b.id),
    ),
    holding: world.holding('deal', 'closeDate', [TODAY, addDays(TODAY, 1)], 0, 100),
    page: world.holding('deal', 'closeDate', [TODAY, addDays(TODAY, 1), addDays(TODAY, 2)], 2, 2),
    between: world.between('deal', 'amount', 100, 300, 0, 100),
    matching: GROUPS.map((group) => matching(group, 0, 100)),
    firstMatching: GROUPS.map((group) => matching(group, 1, 2)),
  }
}
const refsOf = (plain: Plain): readonly RecordRef[] => [...plain.deals, company(1), company(2)]

describe('a world over another one', () => {
  it('shows what lies below, changed by what happened in it', () => {
    fc.assert(
      fc.property(fc.array(act, { maxLength: 12 }), (acts) => {
        const [world, plain] = [new Overlay(below(), NOW_MS), new Plain()]
        for (const one of acts) perform(world, plain, one)
        const flat = new Memory(catalogue, plain.records, plain.links)
        const refs = refsOf(plain).filter((ref) => plain.find(ref))
        expect(asked(world, refs)).toEqual(asked(flat, refs))
        for (const ref of refsOf(plain)) if (!plain.find(ref)) expect(world.read(ref)).toBeNull()
        // It may name a value that went since: whoever goes by it looks, and finds nothing there.
        for (const [field, from] of [
          ['closeDate', TODAY],
          ['amount', 150],
        ] as const) {
          const [found, least] = [world.least('deal', field, from), flat.least('deal', field, from)]
          if (least !== null) expect(found !== null && found <= least).toBe(true)
          if (acts.length === 0) expect(found).toBe(least)
        }
      }),
      { numRuns: 200 },
    )
  })

  it('leaves what lies below as it is', () => {
    fc.assert(
      fc.property(fc.array(act, { maxLength: 12 }), (acts) => {
        const base = below()
        const refs = [...DEALS, ...COMPANIES].map(({ object, id }): RecordRef => ({ object, id }))
        const before = JSON.stringify(asked(base, refs))
        const [world, plain] = [new Overlay(base, NOW_MS), new Plain()]
        for (const one of acts) perform(world, plain, one)
        expect(JSON.stringify(asked(base, refs))).toBe(before)
      }),
      { numRuns: 50 },
    )
  })

  it('takes back all of what broke off, and no more', () => {
    fc.assert(
      fc.property(fc.array(act, { maxLength: 8 }), fc.array(act, { maxLength: 8 }), (kept, broken) => {
        const [world, plain] = [new Overlay(below(), NOW_MS), new Plain()]
        for (const one of kept) perform(world, plain, one)
        const refs = refsOf(plain)
        const before = { ...asked(world, refs), events: [...world.events] }
        const inside = new Plain()
        inside.records = [...plain.records]
        inside.links = [...plain.links]
        inside.deals.splice(0, Infinity, ...plain.deals)
        expect(() =>
          world.atomically(() => {
            for (const one of broken) perform(world, inside, one)
            throw new Error('broken off')
          }),
        ).toThrow('broken off')
        expect({ ...asked(world, refs), events: [...world.events] }).toEqual(before)
      }),
      { numRuns: 150 },
    )
  })

  it('numbers what is made in it beyond what lies below, and logs what happened in order', () => {
    const world = new Overlay(below(), NOW_MS)
    const made = world.create('deal', { name: 'New', stage: 'enq-fresh' }, [company(1)], BY, CHAIN)
    expect(made.ok && made.ref?.id).toBe(MADE_FROM + 1)
    world.write(deal(1), { amount: 5 }, BY, CHAIN)
    world.remove(deal(2), BY, CHAIN)
    expect(world.events.filter(({ kind }) => kind !== 'linked').map(({ kind, ref }) => `${kind} ${ref.id}`)).toEqual([
      `created ${MADE_FROM + 1}`,
      'changed 1',
      'deleted 2',
    ])
    expect(world.events.map(({ seq }) => seq)).toEqual(world.events.map((_, i) => i + 1))
    expect(world.setBy(deal(1), 'amount')).toEqual(BY)
    expect(world.setBy(deal(1), 'units')).toBeNull()
  })

  it('tells what a field held, the newest first', () => {
    const world = new Overlay(below(), NOW_MS)
    for (const value of [7, 8, null]) world.write(deal(1), { amount: value }, BY, CHAIN)
    expect([...world.past(deal(1), 'amount', world.events.length + 1)]).toEqual([null, 8, 8, 7, 7, 100])
    expect([...world.past(deal(1), 'units', world.events.length + 1)]).toEqual([])
  })

  it.each([
    ['a record that is not there', deal(99), { amount: 1 }],
    ['a stage that is not there', deal(1), { stage: 'nowhere' }],
    ['a field that nobody may set', deal(1), { createdAt: 1 }],
    ['a name that is empty', deal(1), { name: '' }],
  ])('writes nothing to %s', (_, ref, values) => {
    const world = new Overlay(below(), NOW_MS)
    expect(world.write(ref, values, BY, CHAIN).ok).toBe(false)
    expect(world.events).toEqual([])
    expect(world.read(ref)).toEqual(below().read(ref))
  })

  it('has nothing to log where nothing is other', () => {
    const world = new Overlay(below(), NOW_MS)
    expect(world.write(deal(1), { amount: 100 }, BY, CHAIN)).toEqual({ ok: true, event: null })
    expect(world.link(deal(1), company(1))).toBe(false)
    expect(world.unlink(deal(1), company(2))).toBeNull()
    expect(isLinkable(company(1), deal(1)) || world.link(company(1), deal(1))).toBe(false)
    expect(world.events).toEqual([])
  })
})
