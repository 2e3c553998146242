import { z } from 'zod'
import { sameValue } from '../../../fields/value'
import { sayProblem } from '../../../problems'
import { fieldWord, say, word } from '../../sentence'
import { defineStep, valueOf } from '../../step'
import { checkSource, resolveSource, saySource, zSource, type ValueSource } from '../../value-source'

interface Params { field: string | null; source: ValueSource }

export const setField = defineStep<'setField', Params>({
  kind: 'setField',
  hue: 'data',
  does: 'set a field',
  alsoCalled: ['update', 'change', 'fill in', 'empty', 'write', 'copy a field'],
  objects: ['deal', 'contact', 'company'],
  params: z.strictObject({ field: z.string().max(100).nullable(), source: zSource }),
  form: { field: { widget: 'field', writable: true }, source: { widget: 'source', of: 'field' } },
  start: { field: null, source: { from: 'value', value: null } },
  sentence({ field: key, source }, { catalogue, object }) {
    const field = key === null ? null : catalogue.field(object, key)
    return [say('set '), word('field', fieldWord(field), 'a field'), say(' to '), word('source', field ? saySource(source, field, object, catalogue) : null, '…')]
  },
  check({ field: key, source }, { catalogue, object }) {
    const field = key === null ? null : catalogue.field(object, key)
    if (!field) return [{ param: 'field', problem: key === null ? { code: 'missing', what: 'the field' } : { code: 'unknownField', field: key } }]
    if (field.keptBy) return [{ param: 'field', problem: { code: 'readOnly', field: field.label, keptBy: field.keptBy } }]
    const problem = checkSource(source, field, object, catalogue)
    return problem ? [{ param: 'source', problem }] : []
  },
  run({ field: key, source }, { catalogue, record, moment }) {
    const field = key === null ? null : catalogue.field(record.object, key)
    if (!field) return { go: 'fail', reason: { code: 'unknownField', field: String(key) } }
    const value = resolveSource(source, field, record, moment)
    if (!value.ok) return { go: 'fail', reason: { code: 'refused', reason: sayProblem(value.problem) } }
    if (sameValue(valueOf(record, field.key), value.value)) return { go: 'skip', reason: { code: 'sameValue', field: field.label } }
    return { go: 'on', effects: [{ effect: 'write', ref: { object: record.object, id: record.id }, values: { [field.key]: value.value } }] }
  },
  examples: [
    {
      say: 'writes a value', params: { field: 'amount', source: { from: 'value', value: 5 } }, record: { amount: 4 },
      expect: { go: 'on', effects: [{ effect: 'write', ref: { object: 'deal', id: 1 }, values: { amount: 5 } }] },
    },
    {
      say: 'writes today', params: { field: 'quoteSentOn', source: { from: 'today' } },
      expect: { go: 'on', effects: [{ effect: 'write', ref: { object: 'deal', id: 1 }, values: { quoteSentOn: '2026-11-24' } }] },
    },
    { say: 'leaves what stands there', params: { field: 'amount', source: { from: 'value', value: 4 } }, record: { amount: 4 }, expect: { go: 'skip', reason: { code: 'sameValue', field: 'Amount' } } },
    { say: 'empties', params: { field: 'amount', source: { from: 'empty' } }, record: { amount: 4 }, expect: { go: 'on', effects: [{ effect: 'write', ref: { object: 'deal', id: 1 }, values: { amount: null } }] } },
    { say: 'a field that has gone', params: { field: 'gone', source: { from: 'empty' } }, expect: { go: 'fail', reason: { code: 'unknownField', field: 'gone' } } },
  ],
})
