import { z } from 'zod'
import type { ChangeEvent } from '../../records/record'
import { defineTrigger, type TriggerExample, type TriggerKind } from '../trigger'
import { say } from '../../language/sentence'
import { OBJECTS, aOne } from '../../records/kinds'
import { onRecord } from '../../signals/record'
import type { Names } from '../../fields/names'

type Nothing = Record<never, never>
type Kind = 'created' | 'changed' | 'deleted'

/** A trigger that looks at what happened to a record and asks for nothing more. `says` goes on after "a deal". */
export const wholeRecord = <const K extends string>(given: {
  readonly kind: K
  readonly does: string
  readonly hint: string
  readonly says: string
  readonly on: readonly Kind[]
  readonly because: (event: Pick<ChangeEvent, 'kind' | 'changes'>, names: Names) => string
  readonly examples: readonly [TriggerExample<Nothing>, ...TriggerExample<Nothing>[]]
}): TriggerKind<K> => {
  const kinds: ReadonlySet<string> = new Set(given.on)
  return defineTrigger<K, Nothing>({
    kind: given.kind,
    does: given.does,
    hint: given.hint,
    objects: OBJECTS,
    params: z.strictObject({}),
    form: {},
    start: {},
    sentence: (_params, { object }) => [say(`${aOne(object)} ${given.says}`)],
    check: () => [],
    listen: () => given.on.map(onRecord),
    // Values that are worked out change with the days: that is no doing of anybody.
    compile:
      (_params, { catalogue, object }) =>
      (event) =>
        kinds.has(event.kind) &&
        (event.kind !== 'changed' || event.changes.some((change) => !catalogue.field(object, change.field)?.made)),
    because: (_params, event, names) => given.because(event, names),
    examples: given.examples,
  })
}
