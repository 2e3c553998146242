import { OBJECTS, type ObjectKind } from '../records/kinds'
import type { FieldChange } from '../records/record'
import { defineSignal } from './signal'

/** A record was linked to one of a kind, or is so no longer. */
export const link = defineSignal({
  kind: 'link',
  *keys({ kind, changes }) {
    if (kind !== 'linked') return
    for (const change of changes) {
      const object = linkedTo(change)
      if (object) yield `${change.new === null ? '-' : '+'}${object}`
    }
  },
  about: () => ({ kind: 'linked' }),
})

export type LinkMove = 'added' | 'removed'

const PREFIX = 'link:'

/** What such an event says of the other end: no field of the record, and no change of its values. */
export const linkChange = (object: ObjectKind, id: number, move: LinkMove): FieldChange =>
  move === 'added'
    ? { field: `${PREFIX}${object}`, old: null, new: id }
    : { field: `${PREFIX}${object}`, old: id, new: null }

/** The kind of record at the other end; `null` for a change of a value. */
export const linkedTo = ({ field }: Pick<FieldChange, 'field'>): ObjectKind | null =>
  OBJECTS.find((object) => field === `${PREFIX}${object}`) ?? null

export const onLink = (object: ObjectKind, move: LinkMove) =>
  ({ signal: 'link', key: `${move === 'added' ? '+' : '-'}${object}` }) as const
