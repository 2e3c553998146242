import { describe, expect, it } from 'vitest'
import {
  withInput,
  withInputAt,
  withoutInput,
  withOutput,
  withOutputNamed,
  withoutOutput,
  withOutputTyped,
} from './columns'
import type { DecisionTable } from './table'

const any = { is: 'any' } as const
const table = {
  inputs: [
    { via: null, field: 'amount' },
    { via: null, field: 'kind' },
  ],
  outputs: [{ key: 'gift', label: 'Gift', type: 'text' }],
  rows: [{ id: 'r1', when: [{ is: 'empty' }, any], then: ['card'] }],
  hits: 'unique',
} as unknown as DecisionTable
const shape = (one: DecisionTable) => one.rows.map((row) => [row.when.length, row.then.length])

describe('columns of a decision table', () => {
  it('come, change and go with their cells', () => {
    const more = withInput(table, { via: 'company', field: 'sector' })
    expect([more.inputs.length, shape(more), more.rows[0]?.when[2]]).toEqual([3, [[3, 1]], any])
    expect(withInputAt(table, 0, { via: null, field: 'units' }).rows[0]?.when).toEqual([any, any])
    const less = withoutInput(table, 0)
    expect([less.inputs.map((one) => one.field), less.rows[0]?.when]).toEqual([['kind'], [any]])
  })
  it('of results are named apart, keep a key that is used, and lose what no longer fits', () => {
    const two = withOutput(table)
    expect(two.outputs.map((one) => one.label)).toEqual(['Gift', 'Result 2'])
    expect([new Set(two.outputs.map((one) => one.key)).size, two.rows[0]?.then]).toEqual([2, ['card', null]])
    expect(withOutput(withoutOutput(table, 0)).outputs.map((one) => one.label)).toEqual(['Result'])
    expect(withOutputNamed(table, 0, 'Thanks', false).outputs[0]).toMatchObject({ key: 'thanks', label: 'Thanks' })
    expect(withOutputNamed(table, 0, 'Thanks', true).outputs[0]).toMatchObject({ key: 'gift', label: 'Thanks' })
    expect(withOutputTyped(table, 0, 'number').rows[0]?.then).toEqual([null])
    expect(shape(withoutOutput(two, 0))).toEqual([[2, 1]])
  })
})
