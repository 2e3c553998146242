import { describe, expect, it } from 'vitest'
import { compileGroup } from '../../conditions/compile'
import type { Group } from '../../conditions/document'
import { Catalogue } from '../../fields/catalogue'
import { defineFields } from '../../fields/define'
import { alone } from '../../conditions/subject'
import { all, condition, document, set, task, type StepLine } from '../../testing/rules'
import type { RuleDocument } from '../document'
import { preflight } from '.'
import { catalogue, moment } from '../../testing/setting'
import { counting, NO_DATA, reviewed, look, found, when } from './preflight.setting'

describe('time', () => {
  const rosa = { who: { by: 'person', person: 'rosa' } }
  const thursdays = [
    'recurring',
    { rule: { rule: 'FREQ=DAILY', from: '2026-01-01' }, minute: 510, offDays: 'keep' },
  ] as const
  const near = [
    'atDate',
    {
      field: 'closeDate',
      side: 'before',
      amount: { count: 3, unit: 'days' },
      minute: 510,
      zone: 'contact',
      every: 'once',
      leap: 'feb28',
      months: [],
      weekdays: [],
    },
  ] as const
  const soon = all(condition('closeDate', 'inNext', { amount: { count: 3, unit: 'days' } }, false, 'c1'))
  const wait = (recheck: boolean): StepLine => [
    'wait',
    { until: { at: 'after', amount: { count: 2, unit: 'days' }, minute: null }, recheck },
  ]
  const five = counting(5)

  it('the same task every day until the date comes is found, and mended', () => {
    const daily = document({ when: [thursdays], onlyIf: soon, then: [task('Closes soon', rosa)] })
    expect(found(daily, five)).toEqual(['warning everyDay t1: Repeats every day for the same records'])
    const [finding] = look(daily, five)
    expect(finding?.why).toContain(
      '5 deals match now, for example Two rooms, and will run again each time. A trigger “before, on or after a date” runs once.',
    )
    expect(finding?.fix && found(finding.fix.rule, five)).toEqual([])
    expect(
      found(
        document({
          when: [thursdays],
          onlyIf: all(condition('amount', 'moreThan', { value: 1 }, false, 'c1')),
          then: [task('x', rosa)],
        }),
        five,
      ),
    ).toEqual([])
  })

  it('a wait behind which somebody is told whatever has changed is found, and mended', () => {
    const blind = (recheck: boolean) =>
      document({
        when,
        onlyIf: all(condition('stage', 'is', { value: 'hp-quoted' }, false, 'c1')),
        then: [wait(recheck), task('Ring', { email: true })],
      })
    expect(found(blind(false))).toEqual(['warning blindWait s1: Not checked after the wait'])
    const [finding] = look(blind(false))
    expect(finding?.fix && found(finding.fix.rule)).toEqual([])
    expect(found(blind(true))).toEqual([])
    expect(found({ ...blind(true), recheck: false })).toEqual(['warning blindWait s1: Not checked after the wait'])
  })

  it('records without the date, and contacts without a time zone, are counted', () => {
    expect(found(document({ when: [near], then: [task('x', rosa)] }), five)).toEqual([
      'info noMoment t1: 5 of 5 have no expected close',
    ])
    const birthday = document({
      object: 'contact',
      when: [[near[0], { ...near[1], field: 'birthday' }]],
      then: [task('x', rosa)],
    })
    expect(
      found(birthday, {
        count: (_object, group) => ({
          count: JSON.stringify(group).includes('"zone"') ? 2 : JSON.stringify(group).includes('birthday') ? 0 : 9,
          first: null,
        }),
      }),
    ).toEqual(['info noMoment t1: 2 have no time zone'])
  })

  it('before where after was meant is found by the records it leaves without a moment', () => {
    const dates = ['2026-11-01', '2026-11-20', '2026-10-15']
    const counted = (group: Group) => {
      const held = compileGroup(group, 'deal', catalogue)
      const some = dates.filter((closeDate) => held.test(alone({ closeDate }), moment))
      return { count: some.length, first: some[0] ? { id: 1, name: some[0] } : null }
    }
    const data = { count: (_object: unknown, group: Group) => counted(group) }
    const before = document({
      when: [[near[0], { ...near[1], amount: { count: 10, unit: 'days' }, zone: 'workspace' }]],
      then: [task('x', rosa)],
    })
    expect(found(before, data)).toEqual(['warning reversed t1: Possibly after the expected close, not before'])
    const [finding] = look(before, data)
    expect(finding?.why).toContain(
      'For matching deals this time is always past. Counted after the date, 1 is still to come, for example 2026-11-20.',
    )
    expect(finding?.fix && found(finding.fix.rule, data)).toEqual([])
    const ago = document({
      when,
      onlyIf: all(condition('closeDate', 'farAhead', { amount: { count: 2, unit: 'weeks' } }, false, 'c1')),
      then: [set('units', 1)],
    })
    expect(found(ago, data)).toEqual([
      'warning reversed c1: Possibly reversed: “its expected close is more than 2 weeks ago”',
    ])
    expect(look(ago, data)[0]?.fix && found(look(ago, data)[0]!.fix!.rule, data)).toEqual([])
    expect(
      found(document({ when, onlyIf: soon, then: [set('units', 1)] }), { count: () => ({ count: 0, first: null }) }),
    ).toEqual([])
  })

  it('a moment that the hours of a wait always push away is found, and mended', () => {
    const hours = (from: number, to: number): StepLine => [
      'wait',
      { until: { at: 'hours', from, to, workdays: true }, recheck: true },
    ]
    const at = (minute: number, ...then: readonly StepLine[]) =>
      document({ when: [[near[0], { ...near[1], minute, zone: 'workspace' }]], then: [...then, task('x', rosa)] })
    const six = { count: () => ({ count: 0, first: null }) }
    expect(found(at(510, hours(540, 1020)), six)).toEqual(['info pushedAway s1: Always waits until 9:00'])
    expect(found(at(1080, hours(540, 1020)), six)).toEqual([
      'info pushedAway s1: Always waits until 9:00 on a later day',
    ])
    expect(found(at(540, hours(540, 1020)), six)).toEqual([])
    const [finding] = look(at(510, hours(540, 1020)), six)
    expect(finding?.fix && found(finding.fix.rule, six)).toEqual([])
    const hoursLater: StepLine = [
      'wait',
      { until: { at: 'after', amount: { count: 9, unit: 'hours' }, minute: null }, recheck: true },
    ]
    expect(found(at(540, hoursLater, hours(540, 1020)), six)).toEqual([
      'info pushedAway s2: Always waits until 9:00 on a later day',
    ])
    expect(
      found(
        at(
          1080,
          ['waitFor', { field: 'stage', how: 'changes', to: null, most: { count: 2, unit: 'days' }, recheck: true }],
          hours(540, 1020),
        ),
        six,
      ),
    ).toEqual([])
  })

  it('a day beside a field that holds the time as well is named', () => {
    const visits = new Catalogue({
      ...catalogue.data,
      fields: [
        ...catalogue.data.fields,
        ...defineFields('deal', {
          visitDay: { label: 'Site visit', type: 'date' },
          visitAt: { label: 'Site visit at', type: 'dateTime' },
        }).map((field, i) => ({ ...field, id: 9000 + i })),
      ],
    })
    const rule = document({
      when: [[near[0], { ...near[1], field: 'visitDay', zone: 'workspace' }]],
      then: [task('x', rosa)],
    })
    const asked = (one: RuleDocument) =>
      preflight(reviewed(one), { catalogue: visits, moment, data: NO_DATA, rules: [reviewed(one)] })
    const [finding] = asked(rule)
    expect(finding).toMatchObject({
      kind: 'dayForMoment',
      severity: 'info',
      text: 'Site visit has no time; site visit at has one',
    })
    expect(finding?.fix && asked(finding.fix.rule).map((one) => one.kind)).toEqual([])
  })
})
