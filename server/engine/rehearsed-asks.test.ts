import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { CALL_ENDS, CALL_OUTCOMES } from '../../core/asks/call'
import type { Values } from '../../core/language/value'
import { resultOf } from '../../core/rehearsal/result'
import { STEPS } from '../../core/rules/steps'
import { document, enters, task, type StepLine, type WayLine } from '../../core/testing/rules'
import { addDays } from '../../core/time/dates'
import { instantAt } from '../../core/time/moments'
import { larkmoor, NOW_MS, switchOn } from '../testing/workspace'
import { answerTask } from './answer-task'
import { planClock, workClock } from './clockwork'
import { setUpRehearsal } from './rehearsal'

const TODAY = '2026-11-24'
const ZONE = 'Europe/Lisbon'
const DAYS = 12
const control = { awaited: () => false, nowMs: () => 0, pause: () => Promise.resolve() }

const ways = (...some: WayLine[]): WayLine[] => some
/** A call with a path for each way it can go, and behind it something that has to be approved. */
const aRule = fc
  .record({
    tries: fc.integer({ min: 1, max: 3 }),
    most: fc.integer({ min: 1, max: 4 }),
    limit: fc.constantFrom(0, 5000),
  })
  .map(({ tries, most, limit }) => {
    const limits = { most: { count: most, unit: 'days' }, recheck: false }
    const byEnd: StepLine = [
      'pathPerValue',
      { field: 's1.ended' },
      ...ways(...CALL_ENDS.slice(0, 3).map(({ id }): WayLine => [id, task(`end ${id}`)]), [null, task('end else')]),
    ]
    const byOutcome: StepLine = [
      'pathPerValue',
      { field: 's1.outcome' },
      ...ways(['finished', byEnd], ['busy', task('busy')], [null, task('else {{s1.outcome}}')]),
    ]
    return document({
      when: [enters('hp-quoted')],
      then: [
        [
          'makeCall',
          { ...STEPS.makeCall.start, ...limits, title: 'Call', tries, pause: { count: 3, unit: 'hours' } },
          ...ways([null, byOutcome], [null, task('no call')]),
        ],
        [
          'approval',
          { ...STEPS.approval.start, ...limits, title: 'Approve', field: 'amount', limit },
          ...ways([null, task('approved')], [null, task('declined')], [null, task('undecided')]),
        ],
      ],
    })
  })

const answer: fc.Arbitrary<{ title: string; answers: Values }> = fc.oneof(
  fc
    .record({ outcome: fc.constantFrom(...CALL_OUTCOMES), ended: fc.constantFrom(...CALL_ENDS), minutes: fc.nat(20) })
    .map(({ outcome: { id }, ended, minutes }) => ({
      title: 'Call',
      answers: { outcome: id, ...(id === 'finished' ? { ended: ended.id, minutes } : {}) },
    })),
  fc
    .constantFrom('approved', 'declined')
    .map((decision) => ({ title: 'Approve', answers: { decision, reason: 'because' } })),
)
const aLine = fc.record({
  day: fc.integer({ min: 0, max: DAYS - 2 }),
  minute: fc.integer({ min: 600, max: 1380 }),
  id: fc.integer({ min: 1, max: 2 }),
  what: answer,
})

describe('what people answer', () => {
  it('comes to the same in a rehearsal as live, whatever and whenever it is', async () => {
    let answered = 0
    await fc.assert(
      fc.asyncProperty(
        aRule,
        fc.uniqueArray(aLine, { minLength: 4, maxLength: 16, selector: ({ day, minute }) => day * 1440 + minute }),
        async (rule, lines) => {
          const { workspace, clock } = larkmoor()
          for (const id of [1, 2]) {
            const contact = workspace.create(
              'contact',
              { name: `C${id}`, phone: '+351912000123', owner: 'rosa' },
              [],
              'ines',
            )
            const values = { name: `D${id}`, stage: 'hp-sized', owner: 'rosa', amount: id * 3000 }
            workspace.create('deal', values, [contact.ref], 'ines')
          }
          const begin = [1, 2].map((id) => ({ day: 0, minute: 570, id, values: { stage: 'hp-quoted' } }))
          const script = lines
            .map((line) => ({ ...line, atMs: instantAt(addDays(TODAY, line.day), line.minute, ZONE) }))
            .sort((a, b) => a.atMs - b.atMs)
          const rehearsal = setUpRehearsal(workspace, {
            rules: [{ ruleId: 1, document: rule }],
            object: 'deal',
            ids: null,
            filter: null,
            days: DAYS,
            back: false,
            script: [
              ...begin,
              ...script.map(({ day, minute, id, what }) => ({
                day,
                minute,
                id,
                values: {},
                finishes: { ...what, outcome: '' },
              })),
            ],
          })
          rehearsal.goOn(() => false)
          const rehearsed = resultOf(rehearsal, rehearsal.startMs)
          switchOn(workspace, rule)
          planClock(workspace)
          const pass = async (untilMs: number): Promise<void> => {
            for (;;) {
              const due = workspace.store.waits.firstDue(untilMs)?.dueMs
              if (due === undefined || due === null) break
              clock.set(Math.max(workspace.clock.nowMs(), due))
              await workClock(workspace, control)
            }
            clock.set(Math.max(workspace.clock.nowMs(), untilMs))
          }
          await pass(instantAt(TODAY, 570, ZONE) - 1)
          clock.set(instantAt(TODAY, 570, ZONE))
          for (const { id, values } of begin) workspace.change({ object: 'deal', id }, values, 'ines')
          for (const { atMs, id, what } of script) {
            await pass(atMs - 1)
            clock.set(atMs)
            const open = workspace.store.tasks
              .ofRecord({ object: 'deal', id })
              .filter((one) => one.state === 'open' && one.title.startsWith(what.title))
            for (const one of open.reverse()) {
              answerTask(workspace, one, 'rosa', '', what.answers)
              answered++
            }
          }
          await pass(NOW_MS + DAYS * 86_400_000)
          const tasks = workspace.store.tasks.list({ people: null, before: null, limit: 500 })
          expect(tasks.map((one) => `${one.title} ${one.recordId} ${one.createdAt}`).toSorted()).toEqual(
            rehearsed.tasks.map((one) => `${one.title} ${one.ref.id} ${one.atMs}`).toSorted(),
          )
          const runs = workspace.store.runs.list({ limit: 50 })
          expect(runs.map((run) => `${run.recordId} ${run.startedAt} ${run.state}`).toSorted()).toEqual(
            rehearsed.runs.map((run) => `${run.ref.id} ${run.atMs} ${run.state}`).toSorted(),
          )
        },
      ),
      { numRuns: Number(process.env.SKY_LEVER_CASES ?? 25), seed: 22 },
    )
    expect(answered).toBeGreaterThan(15)
  }, 600_000)
})
