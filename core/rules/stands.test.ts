import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { compileGroup } from '../conditions/compile'
import { momentAt } from '../engine/moment'
import { Catalogue } from '../fields/catalogue'
import { sameValue, type Value, type Values } from '../language/value'
import { NOTHING_AROUND, subjectOf } from '../records/subject'
import { segmentKey } from '../derived/segment-key'
import { all, condition, daysBefore, document, enters, given } from '../testing/rules'
import { catalogue as plain, NOW_MS } from '../testing/setting'
import { standingGroup, standsOf } from './stands'
import { TRIGGERS } from './triggers'

const large = {
  id: 7,
  object: 'deal',
  name: 'Large',
  filter: all(condition('amount', 'moreThan', { value: 500 })),
} as const
const catalogue = new Catalogue({ ...plain.data, segments: [large] })
const moment = momentAt(NOW_MS, catalogue.workspace)

const changes = (field: string, how: string, more: object = {}) =>
  ['fieldChanges', { field, how, from: null, to: null, ...more }] as const
/** Triggers in which something stands, with the field that says so. */
const WATCHED = [
  [enters('hp-quoted'), 'stage'],
  [changes('kind', 'to', { to: 'hire' }), 'kind'],
  [changes('amount', 'past', { to: 500 }), 'amount'],
  [changes('amount', 'below', { to: 500 }), 'amount'],
  [changes('closeDate', 'past', { to: '2026-12-01' }), 'closeDate'],
  [changes('owner', 'filled'), 'owner'],
  [changes('owner', 'emptied'), 'owner'],
  [['labelChanges', { field: 'labels', how: 'added', labels: ['urgent'] }], 'labels'],
] as const
const VALUES: { readonly [field: string]: fc.Arbitrary<Value> } = {
  stage: fc.constantFrom('hp-sized', 'hp-quoted', 'hp-terms'),
  kind: fc.constantFrom(null, 'hire', 'purchase'),
  amount: fc.constantFrom(null, 0, 499, 500, 501, 9000),
  closeDate: fc.constantFrom(null, '2026-11-30', '2026-12-01', '2026-12-02'),
  owner: fc.constantFrom(null, 'rosa', 'theo'),
  labels: fc.constantFrom(null, ['urgent'], ['press'], ['press', 'urgent']),
}

const standing = (trigger: readonly [string, object], values: Values): boolean => {
  const rule = document({ when: [trigger as never], then: [] })
  const group = standingGroup(rule.conditions, standsOf(rule, catalogue))
  if (!group) throw new Error(`nothing stands in ${trigger[0]}`)
  const record = { object: 'deal', id: 1, version: 1, values } as const
  return compileGroup(group, 'deal', catalogue).test(subjectOf(record, NOTHING_AROUND), moment)
}

describe('what stands in what a trigger watches', () => {
  it.each(WATCHED)('agrees with the history of its record: %j', ([kind, params], field) => {
    const test = TRIGGERS[kind].compile(params, { catalogue, object: 'deal' })
    fc.assert(
      fc.property(fc.array(VALUES[field]!, { minLength: 2, maxLength: 12 }), (history) => {
        let before = history[0] ?? null
        for (const now of history.slice(1)) {
          if (sameValue(before, now)) continue
          const [was, is] = [before, now].map((value) => standing([kind, params], { name: 'A', [field]: value }))
          const starts = test({ kind: 'changed', changes: [{ field, old: before, new: now }] })
          // What starts it stands in it then; and whoever comes to stand in it has started it.
          if (starts) expect(is).toBe(true)
          if (!was && is) expect(starts).toBe(true)
          before = now
        }
      }),
      { numRuns: 200 },
    )
  })

  it('are the members of a segment, whatever else the rule asks', () => {
    const rule = document({
      when: [['segmentEntered', { segment: 7 }]],
      onlyIf: all(condition('kind', 'is', { value: 'hire' })),
      then: [],
    })
    const [stands] = standsOf(rule, catalogue)
    expect(stands).toMatchObject({ say: 'in the segment “Large”', where: large.filter })
    const holds = (values: Values) => {
      const group = standingGroup(rule.conditions, standsOf(rule, catalogue))!
      const record = { object: 'deal', id: 1, version: 1, values } as const
      return compileGroup(group, 'deal', catalogue).test(subjectOf(record, NOTHING_AROUND), moment)
    }
    expect([holds({ amount: 501, kind: 'hire' }), holds({ amount: 501 }), holds({ amount: 1, kind: 'hire' })]).toEqual([
      true,
      false,
      false,
    ])
    expect(segmentKey(7)).toBe('segment7')
  })

  it('are those whose moment passed, by the clock, for a date', () => {
    const [stands] = standsOf(document({ when: [daysBefore(3)], then: [] }), catalogue)
    expect(stands).toMatchObject({ where: null, say: 'that reached that time' })
    expect(stands?.clock?.fields).toEqual(['closeDate'])
  })

  it.each([
    [['created', {}]],
    [['changed', {}]],
    [['deleted', {}]],
    [['leavesStage', { stage: 'hp-quoted' }]],
    [['segmentLeft', { segment: 7 }]],
    [changes('amount', 'anything')],
    [changes('amount', 'up')],
    [['labelChanges', { field: 'labels', how: 'removed', labels: ['urgent'] }]],
    [['recurring', { rule: { rule: 'FREQ=DAILY', from: '2026-01-01' }, minute: 510, offDays: 'keep' }]],
    // Not finished.
    [['entersStage', { stage: null }]],
  ] as const)('is nothing for %j', (trigger) => {
    const rule = document({ when: [trigger as never], onlyIf: given('c0'), then: [] })
    expect(standsOf(rule, catalogue)).toEqual([])
    expect(standingGroup(rule.conditions, [])).toBeNull()
  })
})
