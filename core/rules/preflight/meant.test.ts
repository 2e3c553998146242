import { describe, expect, it } from 'vitest'
import { compileGroup } from '../../conditions/compile'
import { alone } from '../../conditions/subject'
import type { Group } from '../../conditions/document'
import type { Values } from '../../language/value'
import type { ObjectKind } from '../../records/kinds'
import { all, condition, daysBefore, document, enters, set, task, type StepLine } from '../../testing/rules'
import { catalogue, moment } from '../../testing/setting'
import { preflight } from '.'
import { found, look, NO_DATA, reviewed, when } from './preflight.setting'

/** What is written right and hardly meant so. */

const overRecords = (records: readonly Values[]) => ({
  count: (object: ObjectKind, group: Group) => {
    const held = compileGroup(group, object, catalogue)
    const some = records.filter((values) => held.test(alone(values), moment))
    return { count: some.length, first: some[0] ? { id: 1, name: 'A' } : null }
  },
})
const DATES = overRecords(
  ['2026-11-01', '2026-11-02', '2026-12-20', '2027-03-01', null].map((closeDate) => ({ closeDate, amount: 5 })),
)
const dated = (op: 'before' | 'inNext' | 'farAhead' | 'inLast', params: object, not = false) =>
  document({ when, onlyIf: all(condition('closeDate', op, params, not, 'c1')), then: [set('units', 1)] })
const rosa = { who: { by: 'person', id: 'rosa' } }
const after = (count: number, unit: string): StepLine => [
  'wait',
  { until: { at: 'after', amount: { count, unit }, minute: null }, recheck: true },
]
const until = (most: object, ...ways: readonly (readonly StepLine[])[]): StepLine =>
  [
    'waitForLabel',
    { field: 'labels', labels: ['urgent'], how: 'added', most, recheck: true },
    ...ways.map((steps, i) => [`end${i}`, ...steps] as const),
  ] as unknown as StepLine

describe('a condition on a date', () => {
  it('is told how many past and empty dates it lets through, and mended to today or later', () => {
    const soon = dated('before', { date: '2027-01-01' })
    expect(found(soon, DATES)).toEqual(['warning pastDates c1: Of 3: 2 are past'])
    const [finding] = look(soon, DATES)
    expect(finding?.fix && found(finding.fix.rule, DATES)).toEqual([])
    expect(finding?.fix?.rule.conditions.items).toHaveLength(2)
  })

  it('turned round takes the empty ones as well', () => {
    const notSoon = dated('inNext', { amount: { count: 5, unit: 'workdays' } }, true)
    expect(found(notSoon, DATES)).toEqual(['warning pastDates c1: Of 5: 2 are past, 1 has no expected close'])
  })

  it('that asks for the past is left alone', () => {
    expect(found(dated('before', { date: '2026-11-24' }), DATES)).toEqual([])
    expect(found(dated('inLast', { amount: { count: 9, unit: 'weeks' } }), DATES)).toEqual([])
    expect(found(dated('inNext', { amount: { count: 90, unit: 'days' } }), DATES)).toEqual([])
  })

  it('is not called reversed because nothing lies within its span today', () => {
    // Two days ahead there is nothing, two weeks back there is; later there is something too.
    const data = overRecords(['2026-11-20', '2026-12-20'].map((closeDate) => ({ closeDate })))
    expect(found(dated('inNext', { amount: { count: 2, unit: 'days' } }), data)).toEqual([])
    const gone = overRecords([{ closeDate: '2026-11-20' }])
    expect(found(dated('inNext', { amount: { count: 9, unit: 'days' } }), gone)).toEqual([
      'warning reversed c1: Possibly reversed: “its expected close is in the last 9 days”',
    ])
  })

  it('nor a start before a date whose moments are all past while the dates are not', () => {
    const rule = document({ when: [daysBefore(60)], then: [set('units', 1)] })
    expect(found(rule, overRecords([{ closeDate: '2026-12-20' }]))).toEqual([])
  })
})

describe('a wait', () => {
  it('of minutes before somebody gets something is pointed out', () => {
    expect(found(document({ when, then: [after(1, 'minutes'), task('Ring', rosa)] }))).toEqual([
      'warning shortWait s1: Only 1 minute',
    ])
    const later = { at: 'after', amount: { count: 5, unit: 'minutes' }, minute: null }
    expect(found(document({ when, then: [task('Ring', { ...rosa, later })] }))).toEqual([
      'warning shortWait s1: Only 5 minutes',
    ])
    expect(found(document({ when, then: [after(2, 'hours'), task('Ring', rosa)] }))).toEqual([])
    expect(found(document({ when, then: [after(1, 'minutes'), set('units', 1)] }))).toEqual([])
  })

  it('far shorter than in the version before is pointed out', () => {
    const of = (step: StepLine) => document({ when, then: [step, task('Ring', rosa)] })
    const told = (step: StepLine) => {
      const rule = { ...reviewed(of(step)), published: of(after(5, 'days')) }
      return preflight(rule, { catalogue, moment, data: NO_DATA, rules: [rule] }).map(({ text }) => text)
    }
    expect(told(after(5, 'hours'))).toEqual(['Only 5 hours: it was 5 days'])
    expect(told(after(2, 'days'))).toEqual([])
  })

  it('with two ends that do the same makes no difference', () => {
    const most = { count: 2, unit: 'days' }
    const ring: readonly StepLine[] = [task('Ring', rosa)]
    const of = (...ways: readonly (readonly StepLine[])[]) => {
      const rule = document({ when, then: [until(most, ...ways)] })
      // The ends of a wait have no value of their own.
      const steps = rule.steps.map((step) => ({
        ...step,
        branches: (step.branches ?? []).map(({ id, steps: inside }) => ({ id, steps: inside })),
      }))
      return found({ ...rule, steps })
    }
    expect(of(ring, ring)).toEqual(['warning samePaths s1: Both paths do the same'])
    expect(of(ring, [])).toEqual([])
    expect(of([], [])).toEqual(['warning onlyWaits s1: The rule only waits'])
  })

  it('with nothing behind it is a rule that only waits', () => {
    expect(found(document({ when, then: [after(2, 'days')] }))).toEqual(['warning onlyWaits s1: The rule only waits'])
  })
})

describe('paths, rules and zones', () => {
  it('a choice without a path and nothing for the others is named, with how many hold it', () => {
    const of = (...others: readonly StepLine[]) =>
      document({ when, then: [['pathPerValue', { field: 'kind' }, ['hire', set('units', 1)], [null, ...others]]] })
    const [first] = look(of(), overRecords([{ kind: 'purchase' }, { kind: 'hire' }]))
    expect(first?.text).toMatch(/^No path for “Purchase”/)
    expect(first?.why).toContain('1 matching deal has')
    expect(found(of(set('units', 2)))).toEqual([])
  })

  it('another rule that does the same to the same records is named', () => {
    const rule = document({ when, then: [set('units', 1)] }, 'One')
    const twin = { ...rule, name: 'Two' }
    expect(found(rule, {}, [twin])).toContain('warning twins rule: “Two” does the same')
    expect(found(rule, {}, [{ ...twin, steps: document({ when, then: [set('margin', 1)] }).steps }])).toEqual([])
    expect(found(rule, {}, [document({ when: [enters('hp-terms')], then: [set('units', 1)] }, 'Two')])).toEqual([])
  })

  it('contacts with a time zone that is none are counted where a rule goes by it', () => {
    const [kind, params] = daysBefore(3)
    const of = (zone: string) => document({ when: [[kind, { ...params, zone }]], then: [set('units', 1)] })
    const sample = () => [
      { id: 1, name: 'Vera', values: { zone: 'Berlin time' }, linked: () => [] },
      { id: 2, name: 'Ann', values: { zone: 'Europe/Paris' }, linked: () => [] },
    ]
    expect(found(of('contact'), { sample })).toContain('warning zones t1: 1 contact has an unknown time zone')
    expect(found(of('workspace'), { sample })).toEqual([])
  })
})
