import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { guessMapping } from './guess'
import { readCsv } from './read'
import { REASON_HEADING, refusedCsv } from './refused'
import { catalogue } from '../../testing/setting'

const problems = [
  { heading: 'Stage', text: 'is not a stage' },
  { heading: '', text: 'stands twice' },
]

describe('refused rows as a file', () => {
  it('keep their cells and say why', () => {
    const table = readCsv('Name;Stage;Notes\nOne;Sized;a\n"T;wo";Nowhere;"b ""c"" d"\n')
    const again = readCsv(refusedCsv(table, [{ row: 3, problems }]))
    expect(again.headings).toEqual(['Name', 'Stage', 'Notes', REASON_HEADING])
    expect(again.rows.map((row) => row.cells)).toEqual([
      ['T;wo', 'Nowhere', 'b "c" d', 'Stage: is not a stage; stands twice'],
    ])
  })

  it('read back as they stood, whatever the cells hold', () => {
    const cell = fc.string().map((text) => text.replace(/[\r\0\ufeff]/g, ''))
    fc.assert(
      fc.property(
        fc.array(fc.tuple(cell, cell), { minLength: 1, maxLength: 8 }),
        fc.constantFrom(',', ';', '\t'),
        (rows, delimiter) => {
          const table = {
            problem: null,
            delimiter,
            headings: ['Name', 'Stage'],
            rows: rows.map((cells, i) => ({ row: i + 2, cells, broken: null })),
          }
          const again = readCsv(
            refusedCsv(
              table,
              table.rows.map(({ row }) => ({ row, problems })),
            ),
          )
          expect(again.rows.map((row) => row.cells.slice(0, 2))).toEqual(rows)
        },
      ),
      { seed: 8 },
    )
  })

  it('are guessed as before, and the reason goes nowhere', () => {
    const table = readCsv('Name;Stage;Lost reason\nOne;Nowhere;Price\n')
    const { targets } = guessMapping(readCsv(refusedCsv(table, [{ row: 2, problems }])), catalogue)
    expect(targets).toEqual([
      { to: 'field', field: 'name' },
      { to: 'field', field: 'stage' },
      { to: 'field', field: 'lostReason' },
      { to: 'skip' },
    ])
  })
})
