import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { compareResults } from './compare'
import type { RehearsalResult, RehearsedRun } from './result'

const ZONE = 'Europe/Lisbon'
const AT = Date.UTC(2026, 10, 24, 9, 12)

/** A run of a record, with what its steps say. */
const run = (id: number, says: readonly string[], stop: string | null = null): RehearsedRun => ({
  id,
  ruleId: 1,
  ruleName: 'A rule',
  ref: { object: 'deal', id },
  recordName: `Deal ${id}`,
  atMs: AT,
  because: 'it entered Quoted',
  state: stop === null ? 'done' : 'stopped',
  stop,
  stopCode: null,
  steps: says.map((say, i) => ({
    atMs: AT + i * 3_600_000,
    stepId: `s${i + 1}`,
    label: String(i + 1),
    category: 'people',
    state: 'done',
    say,
  })),
})
const result = (...runs: readonly RehearsedRun[]): RehearsalResult => ({
  fromMs: AT,
  toMs: AT,
  endMs: AT,
  cut: null,
  runs,
  keptOut: 0,
  tasks: [],
  sends: [],
  notices: [],
  writes: [],
  byDay: [],
  byOwner: [],
  byKind: [],
  warnings: [],
})

describe('two rehearsals beside each other', () => {
  it('tell the records that go the same way, by one alone, and another way', () => {
    const left = result(run(1, ['created task “Ring”']), run(2, ['created task “Ring”']), run(3, []))
    const right = result(
      run(1, ['created task “Ring”']),
      run(2, ['created task “Write”']),
      run(4, [], 'its owner left'),
    )
    const compared = compareResults(left, right, ZONE)
    expect(compared).toMatchObject({ same: 1, onlyLeft: 1, onlyRight: 1, different: 1 })
    expect(compared.records.map(({ recordName, how }) => `${recordName}: ${how}`)).toEqual([
      'Deal 2: different',
      'Deal 3: left',
      'Deal 4: right',
    ])
    expect(compared.records[0]?.left).toEqual([expect.stringMatching(/: created task “Ring”$/)])
    expect(compared.records[2]?.right).toEqual(['stopped: its owner left'])
  })

  it('the same things at another time are another way', () => {
    const later = run(1, ['created task “Ring”'])
    const one = result(run(1, ['created task “Ring”']))
    const other = result({ ...later, steps: later.steps.map((step) => ({ ...step, atMs: step.atMs + 60_000 })) })
    expect(compareResults(one, other, ZONE)).toMatchObject({ same: 0, different: 1 })
  })

  it('several runs of a record are one way', () => {
    const twice = result(run(1, ['a']), { ...run(1, ['b']), id: 7 })
    expect(compareResults(twice, twice, ZONE)).toEqual({
      same: 1,
      onlyLeft: 0,
      onlyRight: 0,
      different: 0,
      records: [],
    })
    expect(compareResults(twice, result(run(1, ['a'])), ZONE)).toMatchObject({ different: 1 })
  })

  it('count each record once, and say the mirror of what is said the other way round', () => {
    const runs = fc
      .uniqueArray(fc.integer({ min: 1, max: 12 }), { maxLength: 10 })
      .chain((ids) =>
        fc.tuple(
          ...ids.map((id) => fc.array(fc.constantFrom('a', 'b'), { maxLength: 2 }).map((says) => run(id, says))),
        ),
      )
    fc.assert(
      fc.property(runs, runs, (a, b) => {
        const [there, back] = [
          compareResults(result(...a), result(...b), ZONE),
          compareResults(result(...b), result(...a), ZONE),
        ]
        const ids = new Set([...a, ...b].map(({ ref }) => ref.id))
        expect(there.same + there.onlyLeft + there.onlyRight + there.different).toBe(ids.size)
        expect([back.same, back.onlyRight, back.onlyLeft, back.different]).toEqual([
          there.same,
          there.onlyLeft,
          there.onlyRight,
          there.different,
        ])
        expect(there.records).toHaveLength(ids.size - there.same)
      }),
    )
  })
})
