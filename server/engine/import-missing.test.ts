import { sayProblem } from '../../core/language/problems'
import { describe, expect, it } from 'vitest'
import { guessMapping } from '../../core/formats/csv/guess'
import type { Missing } from '../../core/formats/csv/missing'
import { readCsv } from '../../core/formats/csv/read'
import { larkmoor } from '../testing/workspace'
import { previewImport, runImport } from './import'
import { makeMissing } from './import-missing'
import { RefusedError, type Workspace } from './workspace'

/** A newcomer's file: hardly anything in it is known. */
const FILE = [
  'Name,Stage,Pipeline,Kind,Owner,Amount,Depot',
  'Counter,Looked at,Retail,Rental,mira.tavares@larkmoor.example,10,North',
  'Shelves,Ordered,Retail,Rental,Jo Nunes,20,South',
  'Freezer,Site seen,Hire & purchase,Lease,Jo Nunes,30,North',
  ...Array.from({ length: 6 }, (_, i) => `Crate ${i},Quoted,Hire & purchase,hire,rosa,${i},South`),
].join('\n')
const NOTHING: Missing = { choices: [], stages: [], people: [], fields: [] }

function upload(workspace: Workspace, content: string): number {
  return workspace.store.imports.create(
    { fileName: 'x.csv', content, mapping: guessMapping(readCsv(content), workspace.catalogue()), personId: 'ines' },
    workspace.clock.nowMs(),
  )
}
const rowOf = (workspace: Workspace, id: number) => {
  const row = workspace.store.imports.get(id)
  if (!row) throw new Error(`import ${id}`)
  return row
}

describe('what a file names and nobody has made', () => {
  it('is made all together, and the file goes in whole', async () => {
    const { workspace } = larkmoor()
    const id = upload(workspace, FILE)
    const { missing, counts } = previewImport(workspace, rowOf(workspace, id))
    expect(counts).toMatchObject({ new: 6, refused: 3 })
    expect(missing.fields.map((field) => [field.label, field.type])).toEqual([['Depot', 'choice']])

    const people = missing.people.map((one) => ({ ...one, email: one.email ?? 'Jo@Larkmoor.example' }))
    makeMissing(workspace, rowOf(workspace, id), { ...missing, people })
    const after = previewImport(workspace, rowOf(workspace, id))
    expect(after.missing).toEqual(NOTHING)
    expect(after.counts).toMatchObject({ new: 9, refused: 0 })

    await runImport(workspace, id, false)
    const catalogue = workspace.catalogue()
    const shown = [...workspace.store.records.scan('deal', ['name', 'stage', 'owner', 'depot'])].map(({ values }) =>
      [
        values.name,
        catalogue.stage(String(values.stage))?.name,
        catalogue.pipeline(catalogue.stage(String(values.stage))?.pipelineId ?? '')?.name,
        catalogue.person(String(values.owner))?.name,
        values.depot,
      ].join(', '),
    )
    expect(shown.slice(0, 3)).toEqual([
      'Counter, Looked at, Retail, Mira Tavares, north',
      'Shelves, Ordered, Retail, Jo Nunes, south',
      'Freezer, Site seen, Hire & purchase, Jo Nunes, north',
    ])
    expect(catalogue.allStages().find((stage) => stage.name === 'Ordered')?.outcome).toBe('won')
    expect(catalogue.people.find((one) => one.name === 'Jo Nunes')).toMatchObject({
      email: 'jo@larkmoor.example',
      role: 'owner',
      active: true,
    })
  })

  it.each([
    [
      'a person without an address',
      { people: [{ text: 'Jo', name: 'Jo', email: null, rows: 1 }] },
      'people.0.email',
      'Enter an email address for Jo.',
    ],
    [
      'an address that somebody has',
      { people: [{ text: 'Jo', name: 'Jo', email: 'ROSA@larkmoor.example', rows: 1 }] },
      'people.0.email',
      'This email is already in use.',
    ],
    [
      'two people of one address',
      {
        people: ['Jo', 'Mo'].map((name) => ({ text: name, name, email: 'both@larkmoor.example', rows: 1 })),
      },
      'people.1.email',
      'This email is already in use.',
    ],
    [
      'stages of no pipeline',
      { stages: [{ pipeline: null, named: null, stages: [{ text: 'New', rows: 1, outcome: 'open' }] }] },
      'stages.0',
      'Choose a pipeline for these stages.',
    ],
    [
      'a pipeline that is there',
      { stages: [{ pipeline: null, named: 'hire & Purchase', stages: [{ text: 'New', rows: 1, outcome: 'open' }] }] },
      'stages.0',
      'A pipeline named “Hire & purchase” already exists.',
    ],
    [
      'a stage that is there',
      { stages: [{ pipeline: 'hp', named: null, stages: [{ text: 'quoted', rows: 1, outcome: 'open' }] }] },
      'stages.0',
      'Hire & purchase already has a stage “Quoted”.',
    ],
    [
      'choices of a field that has none',
      { choices: [{ field: 'amount', words: [{ text: 'New', rows: 1 }] }] },
      'choices.0.words.0',
      '“Amount” has no choices.',
    ],
    [
      'choices of no field',
      { choices: [{ field: 'nowhere', words: [{ text: 'New', rows: 1 }] }] },
      'choices.0.field',
      'There is no field “nowhere”.',
    ],
    [
      'a label that another field has',
      { fields: [{ column: 6, label: 'amount', type: 'number', choices: [], rows: 1 }] },
      'fields.0',
      'A field named “Amount” already exists.',
    ],
  ] as const)('%s refuses all of it and makes nothing', (_what, part, path, said) => {
    const { workspace } = larkmoor()
    const id = upload(workspace, FILE)
    const before = previewImport(workspace, rowOf(workspace, id))
    const wanted: Missing = {
      ...NOTHING,
      choices: [{ field: 'kind', words: [{ text: 'Rental', rows: 2 }] }],
      ...part,
    }
    let refused: unknown = null
    try {
      makeMissing(workspace, rowOf(workspace, id), wanted)
    } catch (error) {
      refused = error
    }
    expect(refused).toBeInstanceOf(RefusedError)
    expect((refused as RefusedError).problems.map((one) => [one.path, sayProblem(one.problem)])).toEqual([[path, said]])
    expect(previewImport(workspace, rowOf(workspace, id))).toEqual(before)
    expect(workspace.catalogue().people.map((one) => one.name)).not.toContain('Jo')
  })
})
