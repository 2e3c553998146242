import { describe, expect, it } from 'vitest'
import { all, condition } from '../../core/testing/rules'
import { larkmoor } from '../testing/workspace'
import { refusal } from '../testing/refusal'
import { listed, writableField } from './filter'

describe('a list as it is seen', () => {
  const filter = all(condition('amount', 'moreThan', { value: 4 }, false, 'c1'))
  it('is what fits the filter, and of that what is called so', () => {
    expect(listed(filter, '  ').items).toEqual([filter])
    expect(listed(filter, ' lund ').items).toMatchObject([
      filter,
      { field: 'name', op: 'contains', params: { value: 'lund' } },
    ])
    expect(listed(filter, 'x').mode).toBe('all')
  })
  it('keeps a filter that asks for one of several whole', () => {
    const any = { ...filter, mode: 'any' as const }
    expect(listed(any, 'x').items[0]).toEqual(any)
  })
})

describe('a field that is to be written', () => {
  it('has to be there, and to be written by somebody', () => {
    const { workspace } = larkmoor()
    const ask = (field: string) => refusal(() => writableField(workspace, { object: 'deal', field }))
    expect(() => writableField(workspace, { object: 'deal', field: 'notes' })).not.toThrow()
    expect(['colour', 'createdAt', 'pipeline'].map(ask)).toEqual([
      'field: Field “colour” does not exist.',
      'field: “Creation date” is read-only: set when the record is created.',
      'field: “Pipeline” is read-only: set from the stage.',
    ])
  })
})
