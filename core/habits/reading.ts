import type { Catalogue } from '../fields/catalogue'
import type { Field } from '../fields/field'
import type { Value } from '../language/value'
import type { ChangeEvent } from '../records/record'
import { activityIn } from '../signals/activity'
import { labelsIn } from '../signals/label'
import type { Moment } from './habit'

/** What an event of the log means to whoever looks for habits. */

const BY_VALUE: readonly Field['type'][] = ['choice', 'stage', 'person', 'yesNo']
const BY_SIZE: readonly Field['type'][] = ['number', 'currency']

/** What somebody does who calls: nobody but a colleague does that. */
const DONE_BY_COLLEAGUES = ['call'] as const

export const CREATED = 'created'
export const DID = 'did='

/** A moment of a record; `null` where nothing that could be a habit happened. */
export function momentOf(
  { kind, atMs, ref, changes, cause }: Pick<ChangeEvent, 'kind' | 'atMs' | 'ref' | 'changes' | 'cause'>,
  catalogue: Catalogue,
): Moment | null {
  if (kind === 'happened') {
    const did = activityIn(changes)
    if (!did || did.by !== ref.object) return null
    const byHand = (DONE_BY_COLLEAGUES as readonly string[]).includes(did.kind)
    return { atMs, items: [`${DID}${did.kind}`], numbers: [], byHand }
  }
  if (kind !== 'created' && kind !== 'changed') return null
  const items: string[] = kind === 'created' ? [CREATED] : []
  const numbers: (readonly [string, number])[] = []
  for (const change of changes) {
    const field = catalogue.field(ref.object, change.field)
    if (!field) continue
    const value: Value = change.new
    if (field.type === 'choices') for (const label of labelsIn(change, 'added')) items.push(`${field.key}+${label}`)
    else if (BY_VALUE.includes(field.type) && value !== null) items.push(`${field.key}=${String(value)}`)
    else if (BY_SIZE.includes(field.type) && typeof value === 'number') numbers.push([field.key, value])
  }
  if (items.length === 0 && numbers.length === 0) return null
  // What a key, an undo or a start did was no hand.
  const byHand =
    cause.by === 'person' &&
    cause.personId !== '' &&
    cause.key === undefined &&
    cause.starts === undefined &&
    cause.undoes === undefined
  return { atMs, items, numbers, byHand }
}
