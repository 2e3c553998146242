import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { catalogue } from '../../testing/setting'
import { guessField } from './guess-field'
import { guessMapping } from './guess'
import type { ImportMapping, Target } from './import'
import { missingIn, outcomeOf, type Missing } from './missing'
import { readCsv } from './read'

function missing(content: string, change: Partial<ImportMapping> = {}): Missing {
  const table = readCsv(content)
  return missingIn(table, { ...guessMapping(table, catalogue), ...change }, catalogue)
}
const NOTHING: Missing = { choices: [], stages: [], people: [], fields: [] }
const field = (key: string): Target => ({ to: 'field', field: key })

describe('what a file names that is not there', () => {
  it('is nothing where everything is known, however it is written', () => {
    expect(missing('Name,Stage,Owner,Kind\nA, QUOTED ,rosa amara,hire\nB,Quoted,rosa@larkmoor.example,HIRE')).toEqual(
      NOTHING,
    )
  })

  it('is told with the rows that name it, once for all its spellings, in the order of the file', () => {
    const found = missing(
      [
        'Name,Kind,Owner',
        'A,Rental,Mira Tavares',
        'B,rental ,',
        'C,Lease,MIRA TAVARES',
        'D,hire,jo.nunes@firm.example',
      ].join('\n'),
    )
    expect(found).toEqual({
      ...NOTHING,
      choices: [
        {
          field: 'kind',
          words: [
            { text: 'Rental', rows: 2 },
            { text: 'Lease', rows: 1 },
          ],
        },
      ],
      people: [
        { text: 'Mira Tavares', rows: 2, name: 'Mira Tavares', email: null },
        { text: 'jo.nunes@firm.example', rows: 1, name: 'Jo Nunes', email: 'jo.nunes@firm.example' },
      ],
    })
  })

  it('puts stages where the other stages of the file are, and says what they most likely count as', () => {
    const found = missing('Name,Stage\nA,Quoted\nB,Site seen\nC,Order signed\nD,Lost to rival\nE,Site seen')
    expect(found.stages).toEqual([
      {
        pipeline: 'hp',
        named: null,
        stages: [
          { text: 'Site seen', rows: 2, outcome: 'open' },
          { text: 'Order signed', rows: 1, outcome: 'won' },
          { text: 'Lost to rival', rows: 1, outcome: 'lost' },
        ],
      },
    ])
  })

  it('asks for a pipeline whole when there is none of its name, and for stages of one that is there', () => {
    const found = missing(
      'Name,Stage,Pipeline\nA,Quoted,Retail\nB,Done,Retail\nC,Site seen,hire & purchase\nD,Quoted,Hire & purchase',
    )
    expect(found.stages.map((group) => [group.pipeline, group.named, group.stages.map((stage) => stage.text)])).toEqual(
      [
        [null, 'Retail', ['Quoted', 'Done']],
        ['hp', 'hire & purchase', ['Site seen']],
      ],
    )
  })

  it('offers a field for each column that goes nowhere and has a name of its own', () => {
    const rows = Array.from(
      { length: 12 },
      (_, i) => `Deal ${i},${i % 2 ? 'North' : 'South'},${i},,2026-03-0${(i % 9) + 1}`,
    )
    const found = missing(['Name,Depot,Crates held,Nothing,Crated on', ...rows].join('\n'), {
      targets: [field('name'), { to: 'skip' }, { to: 'skip' }, { to: 'skip' }, { to: 'skip' }],
    })
    expect(found.fields).toEqual([
      { column: 1, label: 'Depot', type: 'choice', choices: ['South', 'North'], rows: 12 },
      { column: 2, label: 'Crates held', type: 'number', choices: [], rows: 12 },
      { column: 4, label: 'Crated on', type: 'date', choices: [], rows: 12 },
    ])
  })

  it('offers none for a column that somebody sends nowhere though there is a field, nor a second one of a name', () => {
    expect(
      missing('Name,Amount,Depot,depot\nA,1,x,y', {
        targets: [field('name'), ...Array<Target>(3).fill({ to: 'skip' })],
      }).fields,
    ).toMatchObject([{ column: 2, label: 'Depot' }])
  })

  it('passes over broken rows, texts that are no names, and columns that are not in order yet', () => {
    const long = 'word '.repeat(30)
    expect(missing(`Name,Kind\nA,"${long}"\nB,Rental,extra\nC,"two\nlines"`)).toEqual(NOTHING)
    expect(missing('Name,Kind\nA,Rental', { targets: [{ to: 'skip' }, field('kind')] })).toEqual(NOTHING)
  })

  it('never has a word that can be read, and has every word that keeps a row out', () => {
    const word = fc.constantFrom('hire', 'Purchase', 'Rental', ' lease', 'LEASE', '', 'Hire ')
    fc.assert(
      fc.property(fc.array(word, { maxLength: 30 }), (words) => {
        const found = missing(['Name,Kind', ...words.map((one, i) => `Deal ${i},${one}`)].join('\n'), {
          targets: [field('name'), field('kind')],
        })
        const told = found.choices.flatMap((one) => one.words)
        const unknown = words
          .map((one) => one.trim().toLowerCase())
          .filter((one) => one === 'rental' || one === 'lease')
        expect(new Set(told.map(({ text }) => text.toLowerCase()))).toEqual(new Set(unknown))
        expect(told.reduce((sum, { rows }) => sum + rows, 0)).toBe(unknown.length)
      }),
    )
  })
})

describe('the type of a column', () => {
  const guess = (heading: string, cells: readonly string[], decimal: 'point' | 'comma' = 'point') =>
    guessField(heading, cells, { object: 'deal', style: { decimal, dateOrder: 'dayFirst' }, catalogue })
  it.each([
    ['number', 'Crates', ['1', '2.5', '-3']],
    ['currency', 'Fee', ['€ 1,200', '900 EUR']],
    ['percent', 'Share', ['12 %', '7.5%']],
    ['date', 'Since', ['24/11/2026', '1/2/2026']],
    ['dateTime', 'Seen', ['2026-11-24 10:30', '2026-11-25 09:00']],
    ['yesNo', 'Insured', ['yes', 'No', 'Y']],
    ['email', 'Billing', ['a@firm.example', 'b@firm.example']],
    ['phone', 'Mobile', ['+351 912 345 678', '+351 210 555 010']],
    ['text', 'Telephone', ['+351 912 345 678', '555 010']],
    ['link', 'Folder', ['https://firm.example/a', 'www.firm.example/b']],
    ['text', 'Part', ['0042', '0107']],
    ['text', 'Long number', ['12345678901234567', '2']],
    ['text', 'Site', ['Hall 1', 'Yard', 'Hall 2']],
    ['longText', 'Remark', ['two\nlines', 'x']],
    ['text', 'Mixed', ['1', 'two']],
  ] as const)('is %s for %s', (type, heading, cells) => {
    expect(guess(heading, cells)).toEqual({ type, choices: [] })
  })
  it('is a choice when few words come back', () => {
    expect(guess('Depot', ['North', 'South', 'north', 'South', 'North', 'South'])).toEqual({
      type: 'choice',
      choices: ['North', 'South'],
    })
  })
})

it.each([
  ['Won', 'won'],
  ['Contract signed', 'won'],
  ['Verloren', 'lost'],
  ['Perdido', 'lost'],
  ['Wondering', 'open'],
  ['Proposal', 'open'],
])('a stage “%s” counts as %s', (name, outcome) => {
  expect(outcomeOf(name)).toBe(outcome)
})
