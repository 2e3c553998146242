import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { EMPTY_GROUP } from '../conditions/document'
import type { RuleDocument, Step } from '../rules/document'
import { STEP_NAMES } from '../rules/steps'
import { placedSteps } from '../rules/tree'
import { randomRuleOf } from '../testing/random-rules'
import { NOW_MS } from '../testing/setting'
import { TestWorld } from '../testing/world'
import { gotToSteps } from './world'

const DAY_MS = 86_400_000
const MAKES: readonly string[] = ['qualify', 'createRecord']

const anyRule = randomRuleOf(STEP_NAMES)
/** Formulas that go wrong for some of what people do. */
const FORMULAS = ['amount / units', 'date(notes)', 'amount ** 400', 'units * 250'] as const
/** Some with a formula before everything else, so that enough of them go wrong. */
const rule = fc.tuple(anyRule, fc.option(fc.constantFrom(...FORMULAS))).map(([one, text]): RuleDocument => {
  if (text === null || one.object !== 'deal') return one
  const field = text === 'date(notes)' ? 'quoteSentOn' : 'margin'
  const step: Step = {
    id: 'formula',
    kind: 'setField',
    params: { field, source: { from: 'formula', text, clears: true } },
  }
  return { ...one, conditions: EMPTY_GROUP, steps: [step, ...one.steps] }
})

/** What people do: to a deal, its contact or its company, and what they were given to do. */
const doings = fc.array(
  fc.oneof(
    fc.record({
      days: fc.nat({ max: 6 }),
      object: fc.constant('deal' as const),
      values: fc.constant({}),
      finish: fc.constant(true),
    }),
    fc.record({
      days: fc.nat({ max: 6 }),
      object: fc.constant('deal' as const),
      values: fc.constantFrom(
        { stage: 'hp-quoted' },
        { stage: 'hp-terms' },
        { amount: 10 },
        { amount: 50_000, units: 3 },
        { amount: 41_000, units: 0 },
        { labels: ['urgent'] },
        { labels: null },
        { closeDate: '2026-12-10' },
        { closeDate: null },
        { notes: 'next week' },
      ),
    }),
    fc.record({
      days: fc.nat({ max: 6 }),
      object: fc.constantFrom('contact' as const, 'company' as const),
      values: fc.constantFrom({ name: 'Another' }, { owner: 'jude' }),
    }),
  ),
  { minLength: 1, maxLength: 8 },
)

function played(
  rules: readonly RuleDocument[],
  acts: readonly { days: number; object: 'deal' | 'contact' | 'company'; values: object; finish?: boolean }[],
): TestWorld {
  const world = new TestWorld()
  const refs = {
    deal: world.add('deal', 1, { owner: 'rosa', amount: 5 }),
    contact: world.add('contact', 2, { owner: 'rosa', email: 'ada@lund.example' }),
    company: world.add('company', 3, { owner: 'rosa' }),
  }
  world.link(refs.deal, refs.contact)
  world.link(refs.deal, refs.company)
  world.drain([])
  world.switchOn(...rules.map((document, i) => ({ ruleId: i + 1, versionId: i + 1, order: i, document })))
  for (const { days, object, values, finish } of acts) {
    if (days > 0) world.pass(world.nowMs() + days * DAY_MS)
    if (finish) for (const { id } of world.tasks) world.finishTask(id, 'done', { by: 'person', personId: 'rosa' })
    else if (world.read(refs[object])) world.change(refs[object], { ...values })
    world.drain(world.rules)
  }
  world.pass(NOW_MS + 40 * DAY_MS)
  return world
}

describe('whatever rules are on and whatever people do', () => {
  it('no rule runs twice for one change and record, nothing comes before its wait is over, and no formula that fails changes a value', () => {
    let [runs, waited, failed] = [0, 0, 0]
    fc.assert(
      fc.property(fc.array(rule, { minLength: 1, maxLength: 3 }), doings, (rules, acts) => {
        // Two that make records for each other’s records double them ten times over: that is allowed, and takes long.
        const making = rules.flatMap((one) => placedSteps(one).filter(({ step }) => MAKES.includes(step.kind)))
        fc.pre(making.length <= 1)
        const world = played(rules, acts)
        const seen = new Set<string>()
        for (const { run, end } of world.runs) {
          if (!gotToSteps(end)) continue
          runs++
          const key = `${run.chainId} ${run.ruleId} ${run.ref.object}:${run.ref.id}`
          expect(seen.has(key), `rule ${run.ruleId} ran twice in ${run.chainId}`).toBe(false)
          seen.add(key)
        }
        for (const { id } of world.runs) {
          const own = world.steps.filter((step) => step.runId === id)
          // What was put off to later by itself may come while the run waits.
          const later = new Set(
            own.flatMap(({ stepId, result }) =>
              result.state === 'done' && result.wrote.some((wrote) => wrote.what === 'planned') ? [stepId] : [],
            ),
          )
          for (const { result } of own) {
            const wait = result.state === 'done' ? result.wrote.find((wrote) => wrote.what === 'waited') : undefined
            if (wait?.what !== 'waited') continue
            waited++
            const within = own.filter(
              ({ atMs, stepId }) => atMs > wait.fromMs && atMs < wait.toMs && !later.has(stepId),
            )
            expect(within).toEqual([])
          }
          for (const { stepId, result } of own) {
            if (result.state !== 'failed' || result.reason.code !== 'formula') continue
            failed++
            const wrote = world.events.filter(
              ({ cause }) => cause.by === 'rule' && cause.runId === id && cause.stepId === stepId,
            )
            expect(wrote).toEqual([])
          }
        }
      }),
      { seed: 17, numRuns: 500 },
    )
    // It would be easy to keep promises about nothing.
    expect([runs > 300, waited > 20, failed > 3]).toEqual([true, true, true])
  })
})
