import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { OBJECTS, type ObjectKind } from '../records/kinds'
import { all, condition } from '../testing/rules'
import {
  activityOfGroup,
  CONDITIONS_MOST,
  type Did,
  EMPTY_GROUP,
  type Group,
  groupDepth,
  idsIn,
  type Item,
  type Linked,
  linkedDepth,
  objectOfGroup,
  placedAsks,
  placedConditions,
  placedDid,
  placedLinked,
  zGroup,
} from './document'

const group = (id: string, ...items: readonly Item[]): Group => ({ kind: 'group', id, mode: 'any', items })
const linked = (id: string, object: ObjectKind, within: Group): Linked => ({
  kind: 'linked',
  id,
  object,
  how: 'any',
  count: 1,
  group: within,
})
const did = (id: string, by: Did['by'], within: Group): Did => ({
  kind: 'did',
  id,
  how: 'any',
  count: 1,
  activity: 'form',
  by,
  span: 'ever',
  days: 30,
  group: within,
})
const asks = { kind: 'formula', id: 'f1', not: false, text: 'amount > 3' } as const
const inSegment = { kind: 'inSegment', id: 'g9', not: false, segment: 3 } as const
const is = (id: string) => condition('name', 'isEmpty', {}, false, id)

const ofDeal = all(
  is('own'),
  asks,
  group('any', is('within'), inSegment),
  linked('l1', 'company', group('c1', is('company'), linked('l2', 'contact', group('c2', is('contact'), asks)))),
  did('d1', 'contact', group('c3', is('form'))),
)

/** Groups of every shape, their items numbered so that no id stands twice. */
const anyGroup: fc.Arbitrary<Group> = fc
  .array(fc.tuple(fc.nat(5), fc.nat(2), fc.constantFrom(...OBJECTS)), { maxLength: 14 })
  .map((drawn) => {
    let n = 0
    const fresh = (letter: string) => `${letter}${++n}`
    const rest = [...drawn]
    const build = (depth: number): Group => {
      const items: Item[] = []
      for (let next = rest.shift(); next; next = rest.shift()) {
        const [kind, , object] = next
        const deeper = depth < 3
        if (kind === 0) items.push(is(fresh('c')))
        else if (kind === 1) items.push({ ...asks, id: fresh('f') })
        else if (kind === 2 && deeper) items.push(build(depth + 1))
        else if (kind === 3 && deeper) items.push(linked(fresh('l'), object, build(depth + 1)))
        else if (kind === 4 && deeper) items.push(did(fresh('d'), 'contact', build(depth + 1)))
        else break
      }
      return group(fresh('g'), ...items)
    }
    return build(0)
  })

describe('a group of conditions', () => {
  it('tells each condition with the record it is asked of, in reading order', () => {
    expect(placedConditions(ofDeal, 'deal').map((one) => [one.condition.id, one.object])).toEqual([
      ['own', 'deal'],
      ['within', 'deal'],
      ['company', 'company'],
      ['contact', 'contact'],
      ['form', 'contact'],
    ])
    expect(placedAsks(ofDeal, 'deal').map((one) => [one.ask.kind, one.object])).toEqual([
      ['formula', 'deal'],
      ['inSegment', 'deal'],
      ['formula', 'contact'],
    ])
    expect(placedLinked(ofDeal, 'deal').map((one) => [one.linked.id, one.object])).toEqual([
      ['l1', 'deal'],
      ['l2', 'company'],
    ])
    expect(placedDid(ofDeal, 'deal').map((one) => [one.did.id, one.object])).toEqual([['d1', 'deal']])
  })

  it('knows how deep it goes, within and to linked records', () => {
    expect([groupDepth(ofDeal), linkedDepth(ofDeal)]).toEqual([3, 2])
    expect([groupDepth(EMPTY_GROUP), linkedDepth(EMPTY_GROUP)]).toEqual([1, 0])
    // What somebody did is asked of the record itself and of nothing that is linked.
    expect(linkedDepth(all(did('d1', 'contact', group('c1', is('c2')))))).toBe(0)
  })

  it('knows of what each group within asks, and about which activity', () => {
    const object = (id: string) => objectOfGroup(ofDeal, 'deal', id)
    expect(['c0', 'any', 'c1', 'c2', 'c3', 'gone'].map(object)).toEqual([
      'deal',
      'deal',
      'company',
      'contact',
      'contact',
      null,
    ])
    const activity = (id: string) => activityOfGroup(ofDeal, id)
    expect(['c3', 'form', 'c1', 'own', 'gone'].map(activity)).toEqual(['form', 'form', null, null, null])
  })

  it('finds everything once, whatever its shape', () => {
    fc.assert(
      fc.property(anyGroup, fc.constantFrom(...OBJECTS), (any, object) => {
        const ids = idsIn(any)
        expect(new Set(ids).size).toBe(ids.length)
        const leaves = [
          ...placedConditions(any, object).map((one) => one.condition.id),
          ...placedAsks(any, object).map((one) => one.ask.id),
          ...placedLinked(any, object).map((one) => one.linked.id),
        ]
        for (const id of leaves) expect(ids).toContain(id)
        expect(new Set(leaves).size).toBe(leaves.length)
        expect(objectOfGroup(any, object, any.id)).toBe(object)
        expect(linkedDepth(any)).toBeLessThan(groupDepth(any))
        for (const one of placedLinked(any, object))
          expect(objectOfGroup(any, object, one.linked.group.id)).toBe(one.linked.object)
      }),
    )
  })

  it('is read again as it was kept', () => {
    fc.assert(
      fc.property(anyGroup, (any) => {
        expect(zGroup.parse(JSON.parse(JSON.stringify(any)))).toEqual(any)
      }),
    )
  })

  it.each([
    ['without an id', { ...EMPTY_GROUP, id: '' }],
    ['joined in a way that there is not', { ...EMPTY_GROUP, mode: 'some' }],
    ['with something that is no question', { ...EMPTY_GROUP, items: [{ kind: 'maybe', id: 'c1' }] }],
    ['with more than it should hold', { ...EMPTY_GROUP, more: true }],
    ['of too many', all(...Array.from({ length: CONDITIONS_MOST + 1 }, (_, i) => is(`c${i + 1}`)))],
    ['with linked records counted by nothing', all({ ...linked('l1', 'deal', EMPTY_GROUP), count: 0 })],
    ['with days that are none', all({ ...did('d1', 'contact', EMPTY_GROUP), days: -1 })],
  ])('%s is refused', (_what, given) => expect(zGroup.safeParse(given).success).toBe(false))
})
