import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { newValue, valuesOf, VALUE_TYPES, writtenValue, type WrittenValue } from './activityKind'

const written = (label: string, more: Partial<WrittenValue> = {}): WrittenValue => ({ ...newValue(), label, ...more })
const keys = (...values: readonly WrittenValue[]): readonly string[] => valuesOf(values).map(({ key }) => key)

describe('what an activity tells, as it is written', () => {
  it.each([
    ['Meter reading', 'meterReading'],
    ['  Amount (net) ', 'amountNet'],
    ['2nd visit', 'ndVisit'],
    ['!!!', 'value'],
    // These two every activity has already.
    ['About', 'valueabout'],
    ['Größe', 'groE'],
  ])('%s gets a key of its own: %s', (label, key) => {
    expect(keys(written(label))).toEqual([key])
  })
  it('gives two of one label two keys, and leaves a key that is there already', () => {
    expect(keys(written('Size'), written('Size'), written('Size'))).toEqual(['size', 'size2', 'size3'])
    expect(keys(written('Size'), written('Renamed', { key: 'size' }))).toEqual(['size2', 'size'])
  })
  it('keeps what a choice is stored as while its label stays, and stores a new one as it reads', () => {
    const before = [{ id: 'warm', label: 'Warm room' }]
    const [value] = valuesOf([
      written('Kind', { type: 'choice', choices: ' Warm room \n\nCold room\nCold room', before }),
    ])
    expect(value?.choices).toEqual([
      { id: 'warm', label: 'Warm room' },
      { id: 'Cold room', label: 'Cold room' },
    ])
  })
  it('has choices only where it is one of several', () => {
    for (const { type } of VALUE_TYPES) {
      const [value] = valuesOf([written('Kind', { type, choices: 'A\nB' })])
      expect(value !== undefined && 'choices' in value).toBe(type === 'choice')
    }
  })
  it('comes back as it was, when it is opened and kept without a change', () => {
    const value = { key: 'kind', label: 'Kind', type: 'choice', choices: [{ id: 'a', label: 'Warm' }] } as const
    expect(valuesOf([writtenValue(value)])).toEqual([value])
  })
  it('never gives two values one key, whatever they are called', () => {
    fc.assert(
      fc.property(
        fc.array(fc.oneof(fc.string(), fc.constantFrom('Size', 'size', 'Size 2', 'About')), { maxLength: 12 }),
        (labels) => {
          const got = keys(...labels.map((label) => written(label)))
          expect(new Set(got).size).toBe(labels.length)
          for (const key of got) expect(key).toMatch(/^[a-z][a-zA-Z\d]*$/)
        },
      ),
    )
  })
})
