import type { ChangeEvent } from '../../../records/record'
import { wholeRecord } from '../whole-record'
import type { Names } from '../../../fields/names'
import { fieldWord, sayValue } from '../../../fields/say-value'

/** What changed, in words; of many fields the first few. */
export function sayChanged(event: Pick<ChangeEvent, 'changes'>, { catalogue, object }: Names): string {
  const said = event.changes.flatMap((change) => {
    const field = catalogue.field(object, change.field)
    return field && !field.keptBy
      ? [
          `${fieldWord(field)} changed from ${sayValue(change.old, field, catalogue)} to ${sayValue(change.new, field, catalogue)}`,
        ]
      : []
  })
  return said.length === 0
    ? 'the record changed'
    : said.length > 3
      ? `${said.slice(0, 2).join(', ')} and ${said.length - 2} more`
      : said.join(', ')
}

export const changed = wholeRecord({
  kind: 'changed',
  does: 'any field changes',
  hint: 'Any field of an existing record. Creating a record, saving the same value and recalculating a field don’t count.',
  says: 'changes in any field',
  on: ['changed'],
  because: sayChanged,
  examples: [
    {
      say: 'changed',
      object: 'contact',
      params: {},
      event: { kind: 'changed', changes: [{ field: 'name', old: 'A', new: 'B' }] },
      starts: true,
    },
    {
      say: 'created',
      object: 'contact',
      params: {},
      event: { kind: 'created', changes: [{ field: 'name', old: null, new: 'B' }] },
      starts: false,
    },
    {
      say: 'deleted',
      object: 'contact',
      params: {},
      event: { kind: 'deleted', changes: [{ field: 'name', old: 'B', new: null }] },
      starts: false,
    },
  ],
})
