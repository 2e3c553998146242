import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { compileGroup } from '../../conditions/compile'
import type { Item } from '../../conditions/document'
import { alone } from '../../conditions/subject'
import { active, all, condition, document, enters, given, move, set, task, type StepLine } from '../../testing/rules'
import { TestWorld } from '../../testing/world'
import type { DecisionTable } from '../../tables/table'
import { checkRule } from '../check'
import { preflight } from '.'
import type { PreflightData } from './finding'
import { goThrough } from './possible'
import { catalogue, moment } from '../../testing/setting'
import { counting, NO_DATA, reviewed, look, found, when } from './preflight.setting'

const more = (value: number, id: string, not = false) => condition('amount', 'moreThan', { value }, not, id)

describe('conditions', () => {
  const of = (...items: readonly Item[]) => document({ when, onlyIf: all(...items), then: [set('units', 1)] })

  it.each([
    [
      'two numbers that exclude each other',
      of(more(50_000, 'c1'), condition('amount', 'lessThan', { value: 10_000 }, false, 'c2')),
      'error neverTrue c2: Never true together with “its amount is more than €50,000”',
    ],
    [
      'a border that neither has',
      of(more(5, 'c1'), more(5, 'c2', true)),
      'error neverTrue c2: Never true together with “its amount is more than €5”',
    ],
    [
      'two values of one choice',
      of(
        condition('kind', 'is', { value: 'hire' }, false, 'c1'),
        condition('kind', 'is', { value: 'purchase' }, false, 'c2'),
      ),
      'error neverTrue c2: Never true together with “its kind is Hire”',
    ],
    [
      'a date both ahead and past',
      of(
        condition('closeDate', 'inNext', { amount: { count: 5, unit: 'workdays' } }, false, 'c1'),
        condition('closeDate', 'longAgo', { amount: { count: 2, unit: 'weeks' } }, false, 'c2'),
      ),
      /neverTrue c2/,
    ],
    [
      'empty and filled',
      of(condition('kind', 'isEmpty', {}, false, 'c1'), condition('kind', 'isEmpty', {}, true, 'c2')),
      /neverTrue c2/,
    ],
    [
      'a stage that the start rules out',
      of(condition('stage', 'is', { value: 'hp-sized' }, false, 'c1')),
      'error neverTrue t1: Trigger and conditions contradict each other',
    ],
    [
      'what every record has',
      of(condition('name', 'isEmpty', {}, true, 'c1')),
      'warning alwaysTrue c1: This condition is always true',
    ],
  ] as const)('finds %s', (_what, rule, expected) => {
    const texts = found(rule)
    expect(texts).toHaveLength(1)
    expect(texts[0]).toEqual(typeof expected === 'string' ? expected : expect.stringMatching(expected))
  })

  it('leaves alone what can hold, and what cannot be gone through', () => {
    expect(
      found(
        of(
          more(10, 'c1'),
          condition('amount', 'lessThan', { value: 10.5 }, false, 'c2'),
          condition('name', 'contains', { value: 'a' }, false, 'c3'),
          condition('name', 'contains', { value: 'b' }, false, 'c4'),
        ),
      ),
    ).toEqual([])
    expect(
      found(
        of(condition('stage', 'is', { value: 'hp-sized' }, false, 'c1'), {
          ...condition('stage', 'is', { value: 'hp-quoted' }, false, 'c2'),
          at: 'before' as const,
        }),
      ),
    ).toEqual(['error neverTrue t1: Trigger and conditions contradict each other'])
  })

  it('mends what it finds', () => {
    const [finding] = look(of(more(50_000, 'c1'), condition('amount', 'lessThan', { value: 10_000 }, false, 'c2')))
    expect(finding?.fix?.say).toBe('Remove “its amount is less than €10,000”')
    expect(finding?.fix && found(finding.fix.rule)).toEqual([])
  })

  it('never says “never” of conditions that some value meets', () => {
    const op = fc.constantFrom('moreThan' as const, 'lessThan' as const, 'is' as const)
    const one = fc
      .tuple(op, fc.integer({ min: -3, max: 3 }), fc.boolean())
      .map(([name, value, not]) => condition('amount', name, { value }, not))
    const group = fc
      .record({
        mode: fc.constantFrom('all' as const, 'any' as const, 'none' as const),
        items: fc.array(one, { maxLength: 4 }),
      })
      .map(({ mode, items }) => ({ ...all(...items.map((item, i) => ({ ...item, id: `c${i + 1}` }))), mode }))
    fc.assert(
      fc.property(group, (given) => {
        const compiled = compileGroup(given, 'deal', catalogue)
        const held = [null, ...Array.from({ length: 33 }, (_, i) => i / 4 - 4), -1e6, 1e6].map((amount) =>
          compiled.test(alone({ amount }), moment),
        )
        expect(goThrough(given, 'deal', catalogue, moment)).toEqual({
          ever: held.some(Boolean),
          always: held.every(Boolean),
        })
      }),
      { numRuns: 400 },
    )
  })
})

describe('paths', () => {
  const path = (id: string, value: number): StepLine => [
    'choosePath',
    {},
    [given(`${id}0`, more(value, `${id}1`)), set('units', 1)],
    [given(`${id}2`, more(100, `${id}3`)), set('units', 2)],
    [null, set('units', 3)],
  ]

  it('finds one to which those before it leave nothing', () => {
    expect(found(document({ when, then: [path('c', 10)] }))).toEqual(['error unreachable b2: This path is never taken'])
    expect(found(document({ when, then: [path('c', 1000)] }))).toEqual([])
  })

  it('finds steps below one that stops', () => {
    expect(found(document({ when, then: [['stop', { because: 'enough' }], set('units', 1)] }))).toEqual([
      'error unreachable s2: Never reached: step 1 stops the rule',
    ])
  })
})

describe('tables', () => {
  const table = (
    rows: readonly (readonly [number | null, boolean, number | null, boolean])[],
    hit: DecisionTable['hit'] = 'unique',
  ): DecisionTable => ({
    hit,
    collect: 'list',
    inputs: [{ via: null, field: 'amount' }],
    outputs: [{ key: 'thanks', label: 'Thanks', type: 'text' }],
    rows: [
      ...rows.map(([from, fromIn, to, toIn], i) => ({
        id: `r${i + 1}`,
        when: [{ is: 'band' as const, from, fromIn, to, toIn }],
        then: [`gift ${i}`],
      })),
      { id: 'r9', when: [{ is: 'empty' as const }], then: ['card'] },
    ],
  })
  const of = (given: DecisionTable) =>
    document({ when, then: [['decide', { table: given }], task('Thank with {{s1.thanks}}')] })

  it('names a border that falls in no row, and adds a row for it', () => {
    const rule = of(
      table([
        [null, false, 2500, false],
        [2500, false, null, false],
      ]),
    )
    expect(found(rule)).toEqual(['warning tableHoles s1: Amount exactly €2,500 is not covered by any row'])
    const mended = look(rule)[0]?.fix?.rule
    expect(mended && found(mended)).toEqual(['warning tableHoles s1: Row 4 has no result'])
  })

  it('adds as many rows as a hole takes', () => {
    const rule = of({
      ...table([
        [null, false, 10, false],
        [20, false, null, false],
      ]),
      rows: table([
        [null, false, 10, false],
        [20, false, null, false],
      ]).rows.slice(0, 2),
    })
    const [finding] = look(rule)
    expect(finding).toMatchObject({
      text: 'Amount from €10 to €20, or empty is not covered by any row',
      fix: { say: 'Add rows' },
    })
    const mended = finding?.fix?.rule
    expect(mended && found(mended)).toEqual([
      'warning tableHoles s1: Row 3 has no result',
      'warning tableHoles s1: Row 4 has no result',
    ])
  })

  it('names what falls in two rows, and takes the first of them', () => {
    const rule = of(
      table([
        [null, false, 2500, true],
        [2500, true, null, false],
      ]),
    )
    expect(found(rule)).toEqual(['error tableHoles s1: Rows 1 and 2 overlap at amount exactly €2,500'])
    const mended = look(rule)[0]?.fix?.rule
    expect(mended && found(mended)).toEqual([])
  })

  it('names a row that is never used', () => {
    expect(
      found(
        of(
          table(
            [
              [null, false, null, false],
              [5, true, 9, true],
            ],
            'first',
          ),
        ),
      ),
    ).toEqual(['warning tableHoles s1: Row 2 is never used'])
  })
})

describe('rules among each other', () => {
  const forth = document({ when: [enters('hp-quoted')], then: [move('hp-terms')] }, 'Forth')
  const back = document({ when: [enters('hp-terms')], then: [move('hp-quoted')] }, 'Back')

  it('draws a circle in words, and the engine cuts the same one', () => {
    const [finding] = look(forth, {}, [back])
    expect(finding).toMatchObject({
      kind: 'circles',
      severity: 'error',
      others: [2],
      text: 'Loops with “Back”',
    })
    expect(finding?.why).toBe(
      '“Forth” sets stage to Terms (step 1), which triggers “Back”; “Back” sets stage to Quoted (step 1), which triggers “Forth”. The loop is stopped at the second round for the same deal and reported.',
    )
    const world = new TestWorld()
    const ref = world.add('deal', 1, { stage: 'hp-sized' })
    world.drain([])
    world.change(ref, { stage: 'hp-quoted' })
    const reports = world.drain([
      { ...active(1, { when: [], then: [] }), document: forth },
      { ...active(2, { when: [], then: [] }), document: back },
    ])
    expect(reports.map(({ ruleId, stop }) => [ruleId, stop?.code ?? 'done'])).toEqual([
      [1, 'done'],
      [2, 'done'],
      [1, 'circle'],
    ])
  })

  it('finds no circle where a step would be skipped, conditions forbid it, or the other is off', () => {
    expect(found(forth, {}, [document({ when: [enters('hp-terms')], then: [move('hp-quoted', false)] })])).toEqual([])
    expect(
      found(forth, {}, [
        document({
          when: [enters('hp-terms')],
          onlyIf: all(condition('stage', 'is', { value: 'hp-sized' }, false, 'c1')),
          then: [move('hp-quoted')],
        }),
      ]),
    ).toEqual([])
    expect(
      preflight(reviewed(forth), {
        catalogue,
        moment,
        data: NO_DATA,
        rules: [reviewed(forth), reviewed(back, 2, false)],
      }),
    ).toEqual([])
  })

  it('finds a circle of three through different fields', () => {
    const a = document(
      { when: [['fieldChanges', { field: 'units', how: 'to', from: null, to: 1 }]], then: [set('kind', 'hire')] },
      'A',
    )
    const b = document(
      { when: [['fieldChanges', { field: 'kind', how: 'to', from: null, to: 'hire' }]], then: [set('notes', 'x')] },
      'B',
    )
    const c = document(
      { when: [['fieldChanges', { field: 'notes', how: 'filled', from: null, to: null }]], then: [set('units', 1)] },
      'C',
    )
    expect(look(a, {}, [b, c])[0]).toMatchObject({ kind: 'circles', others: [2, 3] })
    expect(found(a, {}, [b])).toEqual([])
  })

  it('notes a rule that starts itself', () => {
    expect(found(document({ when: [['changed', {}]], then: [set('units', 1)] }))).toEqual([
      'info circles s1: Triggers itself',
    ])
  })

  it('finds two that write one field of the same records', () => {
    const data = counting(3)
    const [one, two, same] = [2, 3, 2].map((units, i) =>
      document({ when, onlyIf: all(more(i, 'c1')), then: [set('units', units)] }, `Rule ${i}`),
    )
    const [finding] = look(one!, data, [two!])
    expect(finding).toMatchObject({ kind: 'fights', others: [2], text: '“Rule 1” also sets units' })
    expect(finding?.why).toContain(
      'One change can trigger both, and 3 deals (for example “Two rooms”) meet the conditions of both. This rule sets 2, the other (step 1) sets 3. The other rule runs later and wins.',
    )
    expect(found(one!, data, [same!])).toEqual([])
    expect(found(one!, {}, [two!])).toEqual([])
    expect(found(one!, data, [document({ when: [enters('hp-lost')], then: [set('units', 3)] })])).toEqual([])
  })
})

describe('with her records', () => {
  it('says on how many a merge field has nothing to say', () => {
    const data: Partial<PreflightData> = {
      count: (_object, group) =>
        JSON.stringify(group).includes('preflight-empty')
          ? { count: 3, first: { id: 1, name: 'Two rooms' } }
          : { count: 10, first: { id: 1, name: 'Two rooms' } },
    }
    expect(found(document({ when, then: [task('Ring about {{deal.siteVisit}}')] }), data)).toEqual([
      'warning nobody s1: 3 deals have no owner',
      'warning emptyMerges s1: Site-visit date is empty on 30%',
    ])
  })

  it('says when a task would come again and again', () => {
    const rule = document({ when: [['createdOrChanged', {}]], then: [task('Ring', { again: true })] })
    expect(found(rule, { started: (_object, kind) => (kind === 'created' ? 41 : 1920) })).toEqual([
      'warning againAndAgain s1: Repeats the same task at every change',
      'info againAndAgain t1: 1,920 runs in 30 days',
    ])
    expect(found({ ...rule, repeats: { how: 'once' } })).toEqual([])
  })

  it('says when creation comes before what is asked', () => {
    const rule = document({ when: [['created', {}]], onlyIf: all(more(5, 'c1')), then: [set('units', 1)] })
    const [finding] = look(rule, { filledLater: () => ({ total: 40, count: 31, first: { id: 1, name: 'Two rooms' } }) })
    expect(finding).toMatchObject({
      kind: 'createdTooEarly',
      text: 'Amount is usually filled in later',
      fix: { rule: { triggers: [{ kind: 'createdOrChanged' }] } },
    })
    expect(found(rule, { filledLater: () => ({ total: 40, count: 3, first: { id: 1, name: 'Two rooms' } }) })).toEqual(
      [],
    )
  })
})

it('finds what is unfinished as well', () => {
  const rule = document({ when: [], then: [] })
  expect(found(rule)).toEqual(['error unfinished : Add a trigger', 'error unfinished : Add a step'])
})

it('offers only fixes that leave the rule readable', () => {
  const broken = document({
    when,
    onlyIf: all(
      more(5, 'c1'),
      condition('amount', 'lessThan', { value: 1 }, false, 'c2'),
      condition('name', 'isEmpty', {}, true, 'c3'),
    ),
    then: [['stop', { because: 'x' }], set('units', 1)],
  })
  for (const { fix } of look(broken)) if (fix) expect(checkRule(fix.rule, catalogue)).toEqual([])
})

describe('formulas are tried on the records that match', () => {
  const rule = (source: object) =>
    document({ when, then: [['setField', { field: 'amount', source: { from: 'formula', ...source } }]] })
  const sample = (...units: readonly (number | null)[]) => ({
    sample: () =>
      units.map((one, i) => ({
        id: i + 1,
        name: `Deal ${i + 1}`,
        values: { amount: 10, units: one },
        linked: () => [],
      })),
  })
  it('and one that would fail is an error with the record and the reason', () => {
    const data = sample(2, 0, 5, 0)
    expect(found(rule({ text: 'amount / units' }), data)).toEqual(['error formulaFails s1: Formula fails on 2 of 4'])
    expect(look(rule({ text: 'amount / units' }), data)[0]?.why).toBe(
      'On 2 of 4 matching deals, for example “Deal 2”, it divides by zero. The run would fail at this step, and nothing would be changed.',
    )
    expect(found(rule({ text: 'if units = 0 then 0 else amount / units' }), data)).toEqual([])
  })
  it('and one that comes to nothing on many of them is pointed out, unless it is to clear the field', () => {
    const data = sample(2, null, 5)
    expect(found(rule({ text: 'amount / units' }), data)).toEqual(['info formulaFails s1: No result on 1 of 3'])
    expect(found(rule({ text: 'amount / units', clears: true }), data)).toEqual([])
    expect(found(rule({ text: 'amount / units' }), sample(2, 4))).toEqual([])
  })
})
