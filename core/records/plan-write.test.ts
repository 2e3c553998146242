import { describe, expect, it } from 'vitest'
import { planWrite } from './plan-write'
import { catalogue, NOW_MS } from '../testing/setting'

const plan = (old: Parameters<typeof planWrite>[1], values: Parameters<typeof planWrite>[2]) =>
  planWrite('deal', old, values, NOW_MS, catalogue)

describe('planning a write', () => {
  it('keeps only real differences, in their stored form', () => {
    expect(plan({ name: 'A', amount: 5 }, { name: ' A ', amount: 6 })).toEqual({
      changes: [{ field: 'amount', old: 5, new: 6 }],
      problems: [],
    })
  })

  it('moves what follows from the stage along with it', () => {
    expect(plan({ stage: 'enq-fresh', pipeline: 'enq', stageSince: 1 }, { stage: 'hp-visit' }).changes).toEqual([
      { field: 'stage', old: 'enq-fresh', new: 'hp-visit' },
      { field: 'pipeline', old: 'enq', new: 'hp' },
      { field: 'stageSince', old: 1, new: NOW_MS },
    ])
    expect(plan({ stage: 'hp-visit', pipeline: 'hp', stageSince: 1 }, { stage: 'hp-visit' }).changes).toEqual([])
  })

  it('refuses each field with its reason, and names them all at once', () => {
    expect(
      plan({}, { colour: 1, pipeline: 'hp', amount: 'x', name: null, owner: 'nobody' }).problems.map(
        ({ path, problem }) => [path, problem.code],
      ),
    ).toEqual([
      ['colour', 'unknownField'],
      ['pipeline', 'readOnly'],
      ['amount', 'wrongType'],
      ['name', 'required'],
      ['owner', 'unknownPerson'],
    ])
  })

  it('asks a new record for what is required, and stamps it', () => {
    expect(plan(null, { name: 'A' }).problems).toEqual([
      { path: 'stage', problem: { code: 'required', field: 'Stage' } },
    ])
    expect(plan(null, { name: 'A', stage: 'hp-visit' }).changes).toContainEqual({
      field: 'createdAt',
      old: null,
      new: NOW_MS,
    })
  })
})
