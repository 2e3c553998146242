import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { newDid } from '../../core/conditions/did'
import type { Did, Group } from '../../core/conditions/document'
import { ACTIVITY_NAMES } from '../../core/activities'
import type { RuleDocument } from '../../core/rules/document'
import { all, condition, document, given, task } from '../../core/testing/rules'
import { addDays } from '../../core/time/dates'
import { instantAt } from '../../core/time/moments'
import { larkmoor, NOW_MS, switchOn } from '../testing/workspace'
import { planClock, workClock } from './clockwork'
import { tellActivities } from './activities'
import { setUpRehearsal } from './rehearsal'
import { resultOf } from '../../core/rehearsal/result'

const TODAY = '2026-11-24'
const ZONE = 'Europe/Lisbon'
const DAYS = 20
const control = { awaited: () => false, nowMs: () => 0, pause: () => Promise.resolve() }
const KINDS = ['visit', 'form', 'message'] as const
const ABOUT = ['/prices', 'Visit', ''] as const

const did = (more: Partial<Did>): Did => ({ ...newDid('d1', 'contact'), by: 'contact', ...more })
const aDid: fc.Arbitrary<Did> = fc
  .record({
    how: fc.constantFrom('any' as const, 'atLeast' as const, 'none' as const, 'last' as const, 'this' as const),
    count: fc.integer({ min: 1, max: 3 }),
    activity: fc.constantFrom(...KINDS),
    span: fc.constantFrom('ever' as const, 'days' as const, 'run' as const),
    days: fc.integer({ min: 0, max: 6 }),
    about: fc.constantFrom('', 'price', 'visit'),
  })
  .map(({ about, activity, ...rest }) =>
    did({
      ...rest,
      activity,
      group:
        about === ''
          ? given('g1')
          : given('g1', condition(`${activity}.about`, 'contains', { value: about }, false, 'c1')),
    }),
  )

/** A rule of contacts or of deals, started by what a contact does, that asks what was done, and waits for more. */
const aRule: fc.Arbitrary<RuleDocument> = fc
  .record({
    object: fc.constantFrom('contact' as const, 'deal' as const),
    kind: fc.constantFrom(...KINDS),
    about: fc.constantFrom('', 'price'),
    asks: fc.option(aDid, { nil: null }),
    waits: fc.option(fc.constantFrom(...KINDS), { nil: null }),
    most: fc.integer({ min: 1, max: 5 }),
    again: fc.boolean(),
  })
  .map(({ object, kind, about, asks, waits, most, again }) => {
    const onlyIf: Group = asks ? all(asks) : all()
    return document({
      object,
      when: [['activity', { kind, by: 'contact', about, late: false }]],
      onlyIf,
      then: [
        ...(waits
          ? ([
              [
                'waitForActivity',
                { kind: waits, by: 'contact', about: '', most: { count: most, unit: 'days' }, recheck: false },
                [null, task('It came', { again })],
                [null, task('It did not', { again })],
              ],
            ] as const)
          : [task('Ring', { again })]),
      ],
    })
  })

const aLine = fc.record({
  day: fc.integer({ min: 1, max: DAYS - 6 }),
  minute: fc.integer({ min: 0, max: 1439 }),
  who: fc.integer({ min: 1, max: 2 }),
  kind: fc.constantFrom(...KINDS),
  about: fc.constantFrom(...ABOUT),
})

describe('what people do', () => {
  it('comes to the same in a rehearsal as live, by the same rules and script', async () => {
    expect(KINDS.every((kind) => ACTIVITY_NAMES.includes(kind))).toBe(true)
    let ran = 0
    await fc.assert(
      fc.asyncProperty(
        fc.array(aRule, { minLength: 1, maxLength: 3 }),
        fc.uniqueArray(aLine, { maxLength: 9, selector: ({ day, minute }) => day * 1440 + minute }),
        async (rules, lines) => {
          const { workspace, clock } = larkmoor()
          for (const id of [1, 2]) {
            const { ref } = workspace.create('contact', { name: `C${id}`, owner: 'rosa' }, [], 'ines')
            workspace.create('deal', { name: `D${id}`, stage: 'hp-sized', owner: 'rosa' }, [ref], 'ines')
          }
          const script = lines
            .map((line) => ({ ...line, atMs: instantAt(addDays(TODAY, line.day), line.minute, ZONE) }))
            .sort((a, b) => a.atMs - b.atMs)
          const rehearsal = setUpRehearsal(workspace, {
            rules: rules.map((one, i) => ({ ruleId: i + 1, document: one })),
            object: 'contact',
            ids: null,
            filter: null,
            days: DAYS,
            back: false,
            script: script.map(({ day, minute, who, kind, about }) => ({
              day,
              minute,
              id: who,
              values: {},
              does: { by: 'contact', kind, about },
            })),
          })
          rehearsal.goOn(() => false)
          const rehearsed = resultOf(rehearsal, rehearsal.startMs)
          for (const one of rules) switchOn(workspace, one)
          planClock(workspace)
          const pass = async (untilMs: number): Promise<void> => {
            for (;;) {
              const due = [
                workspace.store.waits.firstTimer(untilMs)?.dueMs,
                workspace.store.waits.firstDue(untilMs)?.dueMs,
              ].flatMap((at) => at ?? [])
              if (due.length === 0) break
              clock.set(Math.max(workspace.clock.nowMs(), Math.min(...due)))
              await workClock(workspace, control)
            }
            clock.set(Math.max(workspace.clock.nowMs(), untilMs))
          }
          for (const { atMs, who, kind, about } of script) {
            await pass(atMs - 1)
            clock.set(atMs)
            tellActivities(workspace, [{ record: { object: 'contact', id: who }, kind, about, atMs: null, key: null }])
          }
          await pass(NOW_MS + DAYS * 86_400_000)
          const live = workspace.store.runs
            .list({ limit: 500 })
            .filter((run) => run.stop?.code !== 'conditions')
            .toSorted((a, b) => a.id - b.id)
            .map((run) => `${run.ruleId} ${run.object} ${run.recordId} ${run.startedAt} ${run.state}`)
          ran += live.length
          expect(live.toSorted()).toEqual(
            rehearsed.runs
              .map((run) => `${run.ruleId} ${run.ref.object} ${run.ref.id} ${run.atMs} ${run.state}`)
              .toSorted(),
          )
          const tasks = workspace.store.tasks.list({ people: null, before: null, limit: 500 })
          expect(tasks.map((one) => `${one.title} ${one.object} ${one.recordId} ${one.createdAt}`).toSorted()).toEqual(
            rehearsed.tasks.map((one) => `${one.title} ${one.ref.object} ${one.ref.id} ${one.atMs}`).toSorted(),
          )
        },
      ),
      { numRuns: Number(process.env.SKY_LEVER_CASES ?? 25), seed: 20 },
    )
    expect(ran).toBeGreaterThan(25)
  }, 600_000)
})
