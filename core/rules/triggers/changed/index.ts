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
          `its ${fieldWord(field)} went from ${sayValue(change.old, field, catalogue)} to ${sayValue(change.new, field, catalogue)}`,
        ]
      : []
  })
  return said.length === 0
    ? 'it changed'
    : said.length > 3
      ? `${said.slice(0, 2).join(', ')} and ${said.length - 2} more`
      : said.join(', ')
}

export const changed = wholeRecord({
  kind: 'changed',
  does: 'a record changes in any way',
  hint: 'Any field of a record that is there already. Creating one does not count; writing what stands there already is no change, and what is worked out does not count by itself.',
  says: 'changes in any way',
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
