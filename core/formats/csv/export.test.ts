import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import type { Value, Values } from '../../language/value'
import { OBJECTS, type ObjectKind } from '../../records/kinds'
import { FIELD_TYPES } from '../../fields/types'
import { exportColumns, exportHead, exportRows, type ExportRow } from './export'
import { guessMapping } from './guess'
import { checkMapping, importFields, planImport } from './import'
import { cover, uncover } from './own-file'
import { readCsv } from './read'
import { catalogue, NOW_MS } from '../../testing/setting'

const nasty = fc.oneof(
  fc.string(),
  fc.constantFrom(
    '=1+1',
    '-',
    '@x',
    "'=y",
    '3,5',
    '1.234',
    '24.11.2026',
    'a "b"; c',
    'two\nlines',
    'yes',
    'hp-quoted',
    'Quoted',
  ),
)
/** Any value that the field can hold, in its stored form. */
function valueOf(object: ObjectKind, key: string): fc.Arbitrary<Value> {
  const field = catalogue.field(object, key)!
  const type = FIELD_TYPES[field.type]
  const context = { catalogue, field, style: { decimal: 'point', dateOrder: 'dayFirst' }, pipelineId: null } as const
  const given: fc.Arbitrary<Value> = (() => {
    switch (type.widget) {
      case 'number':
        return fc.double({ min: -1e9, max: 1e9, noNaN: true })
      case 'date':
        return fc
          .date({ min: new Date('1990-01-01'), max: new Date('2090-01-01'), noInvalidDate: true })
          .map((date) => date.toISOString().slice(0, 10))
      case 'dateTime':
        return fc.integer({ min: 0, max: 4e12 })
      case 'yesNo':
        return fc.boolean()
      case 'choice':
        return fc.constantFrom(...field.choices.map((choice) => choice.id), null)
      case 'choices':
        return fc.subarray(field.choices.map((choice) => choice.id))
      case 'stage':
        return fc.constantFrom(...catalogue.allStages().map((stage) => stage.id))
      case 'person':
        return fc.constantFrom(...catalogue.people.map((person) => person.id), null)
      default:
        return field.type === 'text' || field.type === 'longText'
          ? nasty
          : fc.constantFrom('ida@lund.example', '+351210000123', 'https://lund.example/', null)
    }
  })()
  return given.map((value) => {
    const accepted = type.accept(value, context)
    return accepted.ok ? accepted.value : null
  })
}

describe.each(OBJECTS)('a file of all records of the kind %s', (object) => {
  const keys = importFields(object, catalogue)
    .filter((field) => !field.keptBy)
    .map((field) => field.key)
  const record = fc.record(Object.fromEntries(keys.map((key) => [key, valueOf(object, key)]))).map((values): Values => {
    const name = typeof values.name === 'string' ? values.name : 'A'
    return {
      ...values,
      name,
      ...(object === 'deal' ? { pipeline: catalogue.stage(String(values.stage))?.pipelineId ?? null } : {}),
    }
  })

  it('changes nothing when it is brought in again, whatever the records hold', () => {
    const columns = exportColumns(object, catalogue)
    fc.assert(
      fc.property(fc.array(record, { minLength: 1, maxLength: 4 }), (records) => {
        const rows = records.map((values, i): ExportRow => ({ id: i + 1, values, company: null, contact: null }))
        const table = readCsv(exportHead(columns) + exportRows(rows, columns, object, catalogue))
        const mapping = guessMapping(table, catalogue)
        expect(mapping.object).toBe(object)
        expect(checkMapping(table, mapping, catalogue)).toEqual([])
        const plan = planImport(
          table,
          mapping,
          { get: (_, id) => rows.find((row) => row.id === id) ?? null, find: () => [], main: () => null },
          catalogue,
          NOW_MS,
        )
        expect(plan.map((row) => [row.verdict, row.problems, row.changes])).toEqual(rows.map(() => ['same', [], []]))
      }),
      { seed: 21, numRuns: 120 },
    )
  })
})

describe('texts that a spreadsheet would run', () => {
  it('are covered, and uncovered to what they were', () => {
    expect([cover('=1+1'), cover('-5'), cover('plain'), cover("'=x"), cover("it's")]).toEqual([
      "'=1+1",
      "'-5",
      'plain',
      "''=x",
      "it's",
    ])
    fc.assert(
      fc.property(nasty, (text) => {
        expect(uncover(cover(text))).toBe(text)
        expect(cover(text)).not.toMatch(/^[=+\-@\t\r]/)
      }),
      { seed: 4 },
    )
  })
})
