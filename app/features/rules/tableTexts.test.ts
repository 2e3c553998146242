import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { nextTick, shallowRef } from 'vue'
import { inputFields } from '#core/rules/steps/decide'
import { withInput, withOutput, withoutInput } from '#core/tables/columns'
import { ROWS_MOST, type DecisionTable } from '#core/tables/table'
import { catalogue } from '#core/testing/setting'
import { useTableTexts } from './tableTexts'

const EMPTY: DecisionTable = { hit: 'unique', collect: 'list', inputs: [], outputs: [], rows: [] }
const start = [
  (table: DecisionTable) => withInput(table, { via: null, field: 'amount' }),
  (table: DecisionTable) => withInput(table, { via: null, field: 'customer' }),
  withOutput,
].reduce((table, with_) => with_(table), EMPTY)

/** A table on a sheet that takes what is set when it is told to. */
function sheet(first: DecisionTable = start) {
  const table = shallowRef(first)
  let next = first
  const said: string[] = []
  const left: number[] = []
  const texts = useTableTexts({
    table: () => table.value,
    object: () => 'deal',
    catalogue: () => catalogue,
    fields: () => inputFields(table.value, { catalogue, object: 'deal' }),
    set: (given) => (next = given),
    say: (text) => said.push(text),
    full: (rows) => left.push(rows),
  })
  const come = (): DecisionTable => (table.value = next)
  const lines = () => table.value.rows.map((_, row) => [0, 1, 2].map((column) => texts.textAt(row, column)))
  return { ...texts, table, said, left, come, lines }
}
const filled = () => {
  const one = sheet()
  one.paste(0, 0, '< 1000\tNew\tCard\n>= 1000\t-\tHamper\n')
  one.come()
  return one
}

describe('a decision table as it is typed', () => {
  it('takes rows as a spreadsheet copies them, and gives them back', () => {
    const { lines, said, asText, paste } = filled()
    expect(lines()).toEqual([
      ['< 1000', 'New', 'Card'],
      ['>= 1000', '-', 'Hamper'],
    ])
    expect(said).toEqual(['2 rows pasted'])
    expect(asText()).toBe('Amount\tCustomer\tResult\n< 1000\tNew\tCard\n>= 1000\t-\tHamper')
    // One text without tabs and lines is typed and not pasted.
    expect(paste(0, 0, '5')).toBe(false)
  })

  it('keeps what cannot be read in its cell with the reason, and tells of it', () => {
    const { paste, commit, come, textAt, wrongAt, said, table } = filled()
    commit(0, 0, 'plenty')
    come()
    expect([textAt(0, 0), wrongAt(0, 0)]).toEqual(['plenty', expect.stringContaining('plenty') as string])
    expect(table.value.rows[0]?.when[0]).toMatchObject({ is: 'band', to: 1000 })
    expect(said.at(-1)).toMatch(/^Row 1: .*plenty/)
    paste(0, 0, 'much\tNew\n5\tNobody we know\n')
    come()
    expect(said.at(-1)).toMatch(/^2 rows pasted, 2 cells not accepted\. Row 1: .*much/)
    commit(0, 0, '7')
    come()
    expect([textAt(0, 0), wrongAt(0, 0), wrongAt(1, 1)]).toEqual(['7', null, expect.any(String) as string])
  })

  it('keeps it in its column when another one comes or goes', () => {
    const { commit, come, table, textAt, wrongAt } = filled()
    commit(1, 1, 'nobody we know')
    come()
    table.value = withoutInput(table.value, 0)
    expect([textAt(1, 0), wrongAt(1, 0)]).toEqual(['nobody we know', expect.any(String) as string])
    expect([textAt(1, 1), wrongAt(1, 1)]).toEqual(['Hamper', null])
    table.value = withInput(table.value, { via: null, field: 'closeDate' })
    expect([wrongAt(1, 0), wrongAt(1, 1), wrongAt(1, 2)]).toEqual([expect.any(String) as string, null, null])
  })

  it('loses nothing when two acts follow before the table has come back', () => {
    const { commit, moveRow, addRow, removeRow, come, lines, said } = filled()
    commit(0, 2, 'Letter')
    moveRow(0, 1)
    addRow()
    removeRow(0)
    come()
    expect(lines()).toEqual([
      ['< 1000', 'New', 'Letter'],
      ['-', '-', ''],
    ])
    expect(said.slice(1)).toEqual(['Row 1 is now row 2', 'Row 1 removed'])
  })

  it('goes back to what was there, and not to what was set from it', () => {
    const { commit, come, table, textAt } = filled()
    const before = table.value
    commit(0, 2, 'Letter')
    come()
    table.value = before
    expect(textAt(0, 2)).toBe('Card')
  })

  it('shows what is being typed wherever the table is drawn anew, until it is taken or given up', async () => {
    const { type, revert, commit, come, table, textAt } = filled()
    type(0, 2, 'Lett')
    table.value = { ...table.value }
    await nextTick()
    expect(textAt(0, 2)).toBe('Lett')
    revert()
    expect(textAt(0, 2)).toBe('Card')
    type(0, 2, 'Letter')
    commit(0, 2, 'Letter')
    come()
    expect(textAt(0, 2)).toBe('Letter')
  })

  it('has room for so many rows, and tells of those that found none', () => {
    const { paste, come, addRow, table, said, left } = filled()
    paste(1, 2, Array.from({ length: ROWS_MOST + 9 }, (_, i) => `Gift ${i}`).join('\n'))
    come()
    expect([table.value.rows.length, said.at(-1), left]).toEqual([ROWS_MOST, `${ROWS_MOST - 1} rows pasted`, [10]])
    addRow()
    expect([come().rows.length, left]).toEqual([ROWS_MOST, [10, 1]])
  })

  it('gives back every text that it took, whatever its cells hold', () => {
    const texts = fc.constantFrom('-', '< 1000', '[5..9)', 'New', 'plenty', '“', 'not(1, 2)', '')
    fc.assert(
      fc.property(fc.array(fc.tuple(texts, texts, texts), { minLength: 2, maxLength: 6 }), (rows) => {
        const one = sheet()
        one.paste(0, 0, rows.map((row) => row.join('\t')).join('\n'))
        one.come()
        const again = sheet()
        again.paste(
          0,
          0,
          one
            .lines()
            .map((row) => row.join('\t'))
            .join('\n'),
        )
        again.come()
        expect(again.lines()).toEqual(one.lines())
        expect(again.table.value.rows.map(({ when, then }) => [when, then])).toEqual(
          one.table.value.rows.map(({ when, then }) => [when, then]),
        )
      }),
      { endOnFailure: true },
    )
  })
})
