import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { active, all, condition, document, enters, set, task } from '../testing/rules'
import { TestWorld } from '../testing/world'
import { addDays } from '../time/dates'
import { sayRule } from './describe'
import { diffRules, sayChange } from './diff'
import type { RuleDocument } from './document'
import { setWord } from './edit'
import { repeatParams, repeatsOf, stillResting, type Repeats } from './repeats'
import { readRule } from './schema'
import { catalogue, moment } from '../testing/setting'

const DAY_MS = 86_400_000
const rule = (repeats?: Repeats): RuleDocument => ({
  ...document({
    when: [enters('hp-quoted')],
    onlyIf: all(condition('amount', 'moreThan', { value: 10 })),
    then: [task('Ring', { again: true })],
  }),
  ...(repeats ? { repeats } : {}),
})

/** A deal that enters Quoted on these days; answers on which of them the rule ran, and what it said on the others. */
function on(days: readonly number[], repeats?: Repeats, amount = 50) {
  const world = new TestWorld()
  const start = world.atMs
  const ref = world.add('deal', 1, { owner: 'rosa', amount })
  world.drain([])
  const said = days.map((day) => {
    world.atMs = start + day * DAY_MS
    world.change(ref, { stage: 'hp-sized' })
    world.change(ref, { stage: 'hp-quoted' })
    const report = world.drain([{ ...active(1, { when: [], then: [] }), document: rule(repeats) }]).at(-1)
    return report?.stop?.code === 'repeats' ? report.stop.say : (report?.state ?? '')
  })
  return { said, tasks: world.state.tasks.length }
}

describe('how often a record goes through a rule', () => {
  it('is each time, unless something is said', () =>
    expect(on([0, 0, 1])).toEqual({ said: ['done', 'done', 'done'], tasks: 3 }))

  it('can be once ever', () =>
    expect(on([0, 400], { how: 'once' })).toEqual({
      said: ['done', 'it already ran for this record on 24 Nov 2026 and runs only once'],
      tasks: 1,
    }))

  it('can be again only after a rest, on the last day of which it may', () => {
    expect(on([0, 2, 3, 4], { how: 'rest', rest: { count: 3, unit: 'days' } })).toEqual({
      said: [
        'done',
        'it ran for this record on 24 Nov and can run again on 27 Nov',
        'done',
        'it ran for this record on 27 Nov and can run again on 30 Nov',
      ],
      tasks: 2,
    })
  })

  it('counts only runs that got past the conditions', () =>
    expect(on([0, 1], { how: 'once' }, 5)).toEqual({ said: ['stopped', 'stopped'], tasks: 0 }))

  it('never rests longer than it says, whatever the span', () => {
    fc.assert(
      fc.property(
        fc.integer({ min: 1, max: 800 }),
        fc.constantFrom('days', 'weeks', 'months', 'workdays'),
        fc.integer({ min: 0, max: 60 }),
        (count, unit, past) => {
          const repeats: Repeats = { how: 'rest', rest: { count, unit } }
          const lastDay = addDays(moment.today, -past)
          const rests = stillResting(repeats, lastDay, moment) !== null
          // A longer rest that is over means that a shorter one is.
          expect(
            rests ||
              stillResting({ how: 'rest', rest: { count: Math.max(1, count - 1), unit } }, lastDay, moment) === null,
          ).toBe(true)
          if (past === 0) expect(rests).toBe(true)
        },
      ),
      { seed: 5, numRuns: 200 },
    )
  })
})

describe('the words for it', () => {
  it('are edited like any others, told in the list and in what changed, and gone when nothing is said', () => {
    const once = setWord(rule(), { part: 'repeats', id: 'rule' }, 'how', 'once', catalogue)
    expect(once.repeats).toEqual({ how: 'once' })
    expect(sayRule(once, catalogue).when).toBe(
      'a deal enters Quoted (Hire & purchase) (runs only once for the same record)',
    )
    expect(diffRules(rule(), once, catalogue).map(sayChange)).toEqual([
      'Repeats: runs every time for the same record → runs only once for the same record',
    ])
    const rest = setWord(
      setWord(once, { part: 'repeats', id: 'rule' }, 'how', 'rest', catalogue),
      { part: 'repeats', id: 'rule' },
      'rest',
      { count: 2, unit: 'weeks' },
      catalogue,
    )
    expect(rest.repeats).toEqual({ how: 'rest', rest: { count: 2, unit: 'weeks' } })
    expect(setWord(rest, { part: 'repeats', id: 'rule' }, 'how', 'each', catalogue)).toEqual(rule())
    expect(repeatsOf(repeatParams(rest.repeats))).toEqual(rest.repeats)
  })

  it('are refused when they rest for nothing or say something else', () => {
    const read = (repeats: unknown) =>
      readRule({ ...(JSON.parse(JSON.stringify(document({ when: [], then: [set('units', 1)] }))) as object), repeats })
        .ok
    expect([
      read({ how: 'once' }),
      read({ how: 'rest', rest: { count: 0, unit: 'days' } }),
      read({ how: 'never' }),
      read({ how: 'rest' }),
    ]).toEqual([true, false, false, false])
  })
})
