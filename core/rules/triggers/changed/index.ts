import { z } from 'zod'
import type { ChangeEvent } from '../../../records/record'
import { aOne, fieldWord, say, sayValue, type Names } from '../../sentence'
import { defineTrigger } from '../../trigger'

/** What changed, in words; of many fields the first few. */
export function sayChanged(event: Pick<ChangeEvent, 'changes'>, { catalogue, object }: Names): string {
  const said = event.changes.flatMap((change) => {
    const field = catalogue.field(object, change.field)
    return field && !field.keptBy ? [`its ${fieldWord(field)} went from ${sayValue(change.old, field, catalogue)} to ${sayValue(change.new, field, catalogue)}`] : []
  })
  return said.length === 0 ? 'it changed' : said.length > 3 ? `${said.slice(0, 2).join(', ')} and ${said.length - 2} more` : said.join(', ')
}

export const changed = defineTrigger({
  kind: 'changed',
  does: 'a record changes in any way',
  hint: 'Any field of a record that is there already. Creating one does not count; writing what stands there already is no change.',
  objects: ['deal', 'contact', 'company'],
  params: z.strictObject({}),
  form: {},
  start: {},
  sentence: (_params, { object }) => [say(`${aOne(object)} changes in any way`)],
  check: () => [],
  listen: () => [{ on: 'changed' }],
  compile: () => (event) => event.kind === 'changed',
  because: (_params, event, names) => sayChanged(event, names),
  examples: [
    { say: 'changed', object: 'contact', params: {}, event: { kind: 'changed', changes: [{ field: 'name', old: 'A', new: 'B' }] }, starts: true },
    { say: 'created', object: 'contact', params: {}, event: { kind: 'created', changes: [{ field: 'name', old: null, new: 'B' }] }, starts: false },
    { say: 'deleted', object: 'contact', params: {}, event: { kind: 'deleted', changes: [{ field: 'name', old: 'B', new: null }] }, starts: false },
  ],
})
