import fc from 'fast-check'
import Papa from 'papaparse'
import { describe, expect, it } from 'vitest'
import type { Values } from '../../language/value'
import { foldText } from '../../language/value'
import { fromKept, guessMapping, guessStyle, headingKey, toKept } from './guess'
import { checkMapping, countPlan, planImport, type ImportLookup, type ImportMapping } from './import'
import { readCsv } from './read'
import { catalogue, NOW_MS } from '../../testing/setting'

const nobody: ImportLookup = { get: () => null, find: () => [], main: () => null }
function plan(content: string, lookup: Partial<ImportLookup> = {}, change: Partial<ImportMapping> = {}) {
  const table = readCsv(content)
  const mapping = { ...guessMapping(table, catalogue), ...change }
  return planImport(table, mapping, { ...nobody, ...lookup }, catalogue, NOW_MS)
}

it('takes a heading for what its cells can be, where it is the name of two things', () => {
  const target = (customer: string) => guessMapping(readCsv(`Deal,Customer\nA,${customer}\nB,`), catalogue).targets[1]
  expect(target('New')).toEqual({ to: 'field', field: 'customer' })
  expect(target('Porto Frio')).toEqual({ to: 'company' })
})

describe('reading', () => {
  it.each([
    [';', 'semicolons'],
    [',', 'commas'],
    ['\t', 'tabs'],
    ['|', 'bars'],
  ])('tells %j', (mark) => {
    const table = readCsv(`\ufeffName${mark}Stage\r\n"a ""b"" ${mark} c"${mark}"two\nlines"\r\n\r\n`)
    expect(table).toMatchObject({
      delimiter: mark,
      headings: ['Name', 'Stage'],
      rows: [{ row: 2, cells: [`a "b" ${mark} c`, 'two\nlines'], broken: null }],
    })
  })

  it('marks rows that are broken and keeps the others', () => {
    const table = readCsv('Name,Stage\nA,Quoted,extra\nB,Quoted\nC\n"never closed,Quoted\n')
    expect(table.rows.map((row) => row.broken)).toEqual([
      '3 cells, but 2 columns.',
      null,
      null,
      'A quote is not closed.',
    ])
  })

  it.each([
    ['a line that says the mark', 'sep=|\r\nName|Stage\r\nA;B|Quoted\r\n', 3],
    ['the same in quotes, behind a mark of the encoding', '\ufeff"sep=|"\nName|Stage\nA;B|Quoted\n', 3],
    ['blank lines', '\r\n  \r\n\r\nName|Stage\r\nA;B|Quoted\r\n', 5],
    ['all of it', 'sep=|\n\nName|Stage\n\nA;B|Quoted', 5],
    ['nothing', 'Name|Stage\nA;B|Quoted', 2],
  ])('passes over %s before the headings, and counts rows as a spreadsheet does', (_what, text, row) => {
    expect(readCsv(text)).toEqual({
      problem: null,
      delimiter: '|',
      headings: ['Name', 'Stage'],
      rows: [{ row, cells: ['A;B', 'Quoted'], broken: null }],
    })
  })

  it('takes a mark that is said, a tab as well, also where another would cut into more cells', () => {
    expect(readCsv('sep=\t\nName;x;y\tStage\nA\tB').headings).toEqual(['Name;x;y', 'Stage'])
    expect(readCsv('sep=;\nName,x,y;Stage\nA;B').headings).toEqual(['Name,x,y', 'Stage'])
    // A column may be called that.
    expect(readCsv('sep=5;Stage\nA;B').headings).toEqual(['sep=5', 'Stage'])
  })

  it('refuses what is no text, and more columns than any table has', () => {
    expect(readCsv('PK\u0003\0\0Name,Stage\nA,B')).toMatchObject({
      rows: [],
      problem: expect.stringMatching(/no text/),
    })
    const wide = (n: number) => Array.from({ length: n }, (_, i) => `c${i}`).join(',')
    expect(readCsv(wide(501)).problem).toBe('The file has 501 columns. No more than 500 can be imported.')
    expect(readCsv(wide(500))).toMatchObject({ problem: null, rows: [] })
    expect(readCsv('')).toMatchObject({ problem: null, rows: [] })
  })

  it('reads back whatever is written by the rules', () => {
    const cell = fc.string().map((text) => text.replaceAll('\r', ''))
    fc.assert(
      fc.property(fc.array(fc.tuple(cell, cell, fc.constant('x')), { minLength: 1, maxLength: 6 }), (rows) => {
        const table = readCsv(Papa.unparse({ fields: ['A', 'B', 'C'], data: rows }, { delimiter: ';', quotes: true }))
        expect(table.rows.map((row) => row.cells)).toEqual(rows)
      }),
      { seed: 6 },
    )
  })
})

describe('guessing', () => {
  it.each([
    ['Name,Company domain\nAda,lund.example\nBo,x.example\n', 'skip'],
    ['Name,Customer phone,Company\nAda,1,Lund\nBo,2,Lund\n', 'skip'],
    ['Name,The company here\nAda,Lund\nBo,Berg\n', 'company'],
  ])('takes a heading for a company’s name only when it can be one: %s', (text, to) => {
    expect(guessMapping(readCsv(text), catalogue).targets[1]?.to).toBe(to)
  })

  it('goes by headings, then by values', () => {
    const mapping = guessMapping(
      readCsv(
        'Titel;Betrag;Seller;Where it is;Customer name;Email;Colour\nX;1,5;Rosa Amara;Quoted;Lund;a@b.example;red\nY;2,5;Jude Okell;Terms;Lund;;blue\n',
      ),
      catalogue,
    )
    expect(mapping.targets).toEqual([
      { to: 'field', field: 'name' },
      { to: 'field', field: 'amount' },
      { to: 'field', field: 'owner' },
      { to: 'field', field: 'stage' },
      { to: 'company' },
      { to: 'contactEmail' },
      { to: 'skip' },
    ])
    expect(mapping.decimal).toBe('comma')
  })

  it('tells day first from month first by the cells that can mean one thing only', () => {
    expect(guessStyle(readCsv('A,B\n3/4/2026,1\n12/25/2026,2\n')).dateOrder).toBe('monthFirst')
    expect(guessStyle(readCsv('A,B\n3/4/2026,1\n25/12/2026,2\n')).dateOrder).toBe('dayFirst')
  })

  it('sends no two columns to one place', () => {
    const table = readCsv('Name,Deal name,Amount,Total,Stage,Phase\nA,B,1,2,Quoted,Quoted\n')
    expect(checkMapping(table, guessMapping(table, catalogue), catalogue)).toEqual([])
  })

  it('names what is wrong with a mapping that was chosen', () => {
    const table = readCsv('A,B,C\n1,2,3\n')
    const mapping: ImportMapping = {
      object: 'deal',
      knownBy: null,
      decimal: 'point',
      dateOrder: 'dayFirst',
      targets: [
        { to: 'field', field: 'amount' },
        { to: 'field', field: 'amount' },
        { to: 'field', field: 'createdAt' },
      ],
    }
    expect(checkMapping(table, mapping, catalogue).map((problem) => problem.text)).toEqual([
      'Same target as column “A”.',
      '“Creation date” is read-only: set when the record is created.',
      'Choose the column with the deal name.',
    ])
  })
})

describe('telling what the rows are', () => {
  it.each([
    ['Name,Stage,Amount,Owner,Company', 'deal'],
    ['Full name,Email,Phone,Company', 'contact'],
    ['Company name,Sector,Country', 'company'],
    ['A,B', 'deal'],
  ] as const)('%s are of a %s', (headings, object) => {
    expect(guessMapping(readCsv(`${headings}\n`), catalogue).object).toBe(object)
  })

  it('sends the columns of contacts and companies to their own fields', () => {
    const contacts = guessMapping(readCsv('Full name,Mail,Company,Colour\nIda,ida@b.example,Lund,red\n'), catalogue)
    expect(contacts).toMatchObject({
      object: 'contact',
      targets: [{ to: 'field', field: 'name' }, { to: 'field', field: 'email' }, { to: 'company' }, { to: 'skip' }],
    })
  })

  it('remembers columns by their headings, in whatever order these stand', () => {
    fc.assert(
      fc.property(
        fc.array(fc.constantFrom('Name', 'name', 'Stage', 'X', '', 'Ünit'), { minLength: 1, maxLength: 8 }),
        fc.integer(),
        (headings, seed) => {
          const mapping: ImportMapping = {
            object: 'deal',
            knownBy: null,
            decimal: 'point',
            dateOrder: 'dayFirst',
            targets: headings.map((heading, i) => (i % 2 ? { to: 'skip' } : { to: 'field', field: `${heading}${i}` })),
          }
          const kept = toKept(mapping, headings)
          expect(fromKept(kept, headings)).toEqual(mapping)
          // Another order of distinct headings finds each of them again.
          const distinct = [...new Set(headings.map((heading) => foldText(heading)))]
          if (distinct.length !== headings.length) return
          const turned = [
            ...headings.slice(Math.abs(seed) % headings.length),
            ...headings.slice(0, Math.abs(seed) % headings.length),
          ]
          expect(headingKey(turned)).toBe(headingKey(headings))
          expect(fromKept(kept, turned).targets).toEqual(
            turned.map((heading) => mapping.targets[headings.indexOf(heading)]),
          )
        },
      ),
      { seed: 11 },
    )
  })
})

describe('planning', () => {
  const head = 'Name,Stage,Amount,Owner,Company,Contact,Reference\n'
  const there = (values: Values): Partial<ImportLookup> => ({
    find: (object, field, value) => (object === 'deal' && values[field] === value ? [{ id: 9, values }] : []),
  })

  it('counts new, changed, same and refused, each row once', () => {
    const rows = plan(`${head}A,Quoted,1,rosa,Lund,Ida,\nB,Quoted,much,nobody,Lund,Ida,\nA,Quoted,2,rosa,Lund,Ida,\n`)
    expect(countPlan(rows)).toEqual({ new: 1, changed: 0, same: 0, refused: 2, companies: 1, contacts: 1 })
    expect(rows[1]?.problems).toEqual([
      { heading: 'Amount', text: '“much” is not a number.' },
      { heading: 'Owner', text: 'No person named “nobody”.' },
    ])
    expect(rows[2]?.problems[0]?.text).toBe('Same record as row 2.')
  })

  it('changes only what differs; an empty cell leaves what stands there', () => {
    const deal = { name: 'A', stage: 'hp-quoted', pipeline: 'hp', amount: 5, owner: 'rosa' }
    const [row] = plan(`${head}A,Quoted,7,,,,R1\n`, there({ ...deal, reference: 'R1' }))
    expect(row).toMatchObject({
      verdict: 'changed',
      id: 9,
      changes: [{ field: 'amount', old: 5, new: 7 }],
      values: { amount: 7 },
    })
    expect(plan(`${head}A,Quoted,5,Rosa Amara,,,R1\n`, there({ ...deal, reference: 'R1' }))[0]?.verdict).toBe('same')
  })

  it('asks for the pipeline when a stage stands in several, and takes it from the column beside', () => {
    const double = {
      ...catalogue.data,
      pipelines: catalogue.pipelines.map((pipeline) => ({
        ...pipeline,
        stages: pipeline.stages.map((stage) => (stage.id === 'ren-due' ? { ...stage, name: 'Quoted' } : stage)),
      })),
    }
    const other = new (catalogue.constructor as new (data: typeof double) => typeof catalogue)(double)
    const run = (content: string) => {
      const table = readCsv(content)
      return planImport(table, guessMapping(table, other), nobody, other, NOW_MS)[0]
    }
    expect(run('Name,Stage\nA,Quoted\n')?.problems[0]?.text).toBe(
      '“Quoted” is a stage in Hire & purchase and Renewals. Add the pipeline.',
    )
    expect(run('Name,Stage,Pipeline\nA,Quoted,Renewals\n')).toMatchObject({
      verdict: 'new',
      values: { stage: 'ren-due' },
    })
  })

  it('refuses a name that several records share, and rows without what is required', () => {
    expect(
      plan(`${head}A,Quoted,1,,Lund,,\n`, {
        find: (object) =>
          object === 'company'
            ? [
                { id: 1, values: {} },
                { id: 2, values: {} },
              ]
            : [],
      })[0]?.problems[0]?.text,
    ).toBe('2 records are named “Lund”. Add the reference or the company.')
    expect(plan(`${head},Quoted,1,,,,\n`)[0]?.problems).toEqual([{ heading: 'Name', text: 'Name is required.' }])
    expect(plan('Name,Amount\nA,1\n')[0]?.problems).toEqual([{ heading: '', text: 'Stage is required.' }])
  })

  it('contacts are known by their email, then by name and company; companies by name', () => {
    const ida = { name: 'Ida Lund', email: 'ida@lund.example' }
    const found: Partial<ImportLookup> = {
      find: (object, field, value) =>
        object === 'contact' && (field === 'email' ? ida.email : ida.name) === value
          ? [{ id: 4, values: ida }]
          : object === 'company' && value === 'Lund'
            ? [{ id: 1, values: { name: 'Lund' } }]
            : [],
    }
    const rows = plan(
      'Full name,Email,Phone,Company\nIda L.,ida@lund.example,,Lund\nIda Lund,,+351210000123,Lund\nOther,o@x.example,,New\n',
      found,
    )
    expect(rows.map((row) => [row.verdict, row.id])).toEqual([
      ['changed', 4],
      ['refused', null],
      ['new', null],
    ])
    expect(rows[1]?.problems[0]?.text).toBe('Same record as row 2.')
    expect(rows[2]?.company).toEqual({ name: 'New', email: null, id: null })
    expect(plan('Company name,Sector\nLund,\n', found)[0]).toMatchObject({ id: 1, verdict: 'same' })
  })

  it('finds records by the field that was chosen, and refuses a row that leaves it empty', () => {
    const by = (values: Values): Partial<ImportLookup> => ({
      find: (_, field, value) => (values[field] === value ? [{ id: 7, values }] : []),
    })
    const rows = plan(
      'Name,Stage,Reference\nA,Quoted,\nB,Quoted,R2\n',
      by({ name: 'A', stage: 'hp-quoted', pipeline: 'hp', reference: 'R2' }),
      { knownBy: 'reference' },
    )
    expect(rows.map((row) => [row.verdict, row.id, row.problems[0]?.text])).toEqual([
      ['refused', null, 'Reference is required.'],
      ['changed', 7, undefined],
    ])
    const table = readCsv('Name,Stage\nA,Quoted\n')
    expect(
      checkMapping(table, { ...guessMapping(table, catalogue), knownBy: 'reference' }, catalogue).map(
        (one) => one.text,
      ),
    ).toEqual(['Choose the column for Reference, which is used to match deals.'])
    expect(checkMapping(table, { ...guessMapping(table, catalogue), knownBy: 'stage' }, catalogue)[0]?.text).toBe(
      'Deals can’t be matched by “stage”.',
    )
  })

  it('finds a record by its id here, and refuses an id that nobody has', () => {
    const deal = { name: 'A', stage: 'hp-quoted', pipeline: 'hp' }
    const rows = plan('Sky Lever id,Name,Stage\n9,B,Quoted\n10,C,Quoted\nx,D,Quoted\n', {
      get: (_, id) => (id === 9 ? { id, values: deal } : null),
    })
    expect(rows.map((row) => [row.verdict, row.problems[0]?.text])).toEqual([
      ['changed', undefined],
      ['refused', 'No deal named “10”.'],
      ['refused', 'No deal named “x”.'],
    ])
  })

  it('never throws and never loses a row, whatever the cells hold', () => {
    const cell = fc.oneof(fc.string(), fc.constantFrom('Quoted', 'rosa', '1.234,50', '24.11.2026', ''))
    fc.assert(
      fc.property(fc.array(fc.array(cell, { minLength: 7, maxLength: 7 }), { minLength: 1, maxLength: 8 }), (rows) => {
        const content = Papa.unparse({ fields: head.trim().split(','), data: rows }, { quotes: true })
        const planned = plan(content)
        expect(planned).toHaveLength(readCsv(content).rows.length)
        for (const row of planned) expect(row.verdict === 'refused').toBe(row.problems.length > 0)
      }),
      { seed: 8, numRuns: 150 },
    )
  })
})

it('refuses a time zone that there is not, with its column, and takes the rows beside it', () => {
  const rows = plan(
    'Name,Email,Time zone\nAda,ada@lund.example,America/Halifax\nBo,bo@lund.example,Lisbon time\nCy,cy@lund.example,\n',
    {},
    { object: 'contact' },
  )
  expect(rows.map((row) => row.verdict)).toEqual(['new', 'refused', 'new'])
  expect(rows[1]?.problems).toEqual([
    {
      heading: 'Time zone',
      text: '“Lisbon time” is not a time zone. Use a name such as Europe/Lisbon or America/Halifax.',
    },
  ])
})
