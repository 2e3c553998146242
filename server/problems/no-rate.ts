import type { Group } from '../../core/conditions/document'
import { count, plural } from '../../core/language/counts'
import { isForeign } from '../../core/money/worth'
import { counted, RECORD_OBJECTS } from './records'
import { defineProblem, type Found } from './problem'

/** Something is there, and yet it is not more than anything: nobody knows what it is worth. */
const without = (field: string): Group => ({
  kind: 'group',
  id: 'c0',
  mode: 'all',
  items: [
    { kind: 'condition', id: 'c1', field, op: 'isEmpty', not: true, params: {} },
    {
      kind: 'condition',
      id: 'c2',
      field,
      op: 'moreThan',
      not: true,
      params: { value: -Number.MAX_SAFE_INTEGER },
    },
  ],
})

/** Amounts in a currency that has no rate: rules take them for empty. */
export const noRate = defineProblem({
  kind: 'noRate',
  title: 'Exchange rates missing',
  fix: 'Add the rates under Data, Exchange rates.',
  find: (workspace) =>
    RECORD_OBJECTS.flatMap((object) =>
      workspace
        .catalogue()
        .fields(object)
        .filter(isForeign)
        .flatMap((field): Found[] => {
          const found = counted(workspace, object, without(field.key))
          return found.count === 0
            ? []
            : [
                {
                  key: `${object} ${field.key}`,
                  says: `${count(found.count, object)} ${plural(found.count, 'has', 'have')} an amount (${field.label}) in a currency without a rate`,
                  count: found.count,
                  path: '/data/rates',
                  ...(found.first === null ? {} : { ref: { object, id: found.first } }),
                },
              ]
        }),
    ),
})
