import type { ActivityName } from '../activities'
import type { Values } from '../language/value'
import { OBJECTS, type ObjectKind, type RecordKind, type RecordRef } from '../records/kinds'
import type { FieldChange } from '../records/record'
import { defineSignal } from './signal'

/** Somebody did something: the record itself, or one that it is linked to. */
export const activity = defineSignal({
  kind: 'activity',
  *keys({ kind, changes }) {
    if (kind !== 'happened') return
    for (const { field } of changes) if (field.startsWith(PREFIX)) yield field.slice(PREFIX.length)
  },
  about: () => ({ kind: 'happened' }),
})

const PREFIX = 'activity:'
const LATE = '~late'

/** An activity that is told of later than this is late: what it would have started may be out of place by then. */
export const LATE_AFTER_MS = 3_600_000

/** One thing that somebody did, as whoever listens to it tells it apart. */
export interface ActivitySignal {
  readonly kind: ActivityName
  /** What kind of record did it: the one that the event is about, or one linked to it. */
  readonly by: ObjectKind
  readonly late: boolean
}

/**
 * With what it was about, the page or the subject, who did it, by name, and when. Nobody is named to a linked record:
 * not all who see that one see who did it.
 */
export interface ActivityDone extends ActivitySignal {
  readonly about: string
  readonly data: Values
  readonly who: string
  readonly atMs: number
}

const keyOf = ({ kind, by, late }: ActivitySignal): string => `${kind}@${by}${late ? LATE : ''}`

/**
 * What such an event says: no field of the record. Before stands when it was done, behind it about what and by whom.
 */
export const activityChange = ({ about, data, who, atMs, ...activity }: ActivityDone): FieldChange => ({
  field: PREFIX + keyOf(activity),
  old: atMs,
  new: [about, who, ...(Object.keys(data).length === 0 ? [] : [JSON.stringify(data)])],
})

/** The activity that an event is about; `null` for an event of another kind. */
export function activityIn(changes: readonly FieldChange[]): ActivityDone | null {
  const change = changes.find(({ field }) => field.startsWith(PREFIX))
  const [, kind, by, late] = /^activity:(\w+)@(\w+)(~late)?$/.exec(change?.field ?? '') ?? []
  if (kind === undefined || by === undefined || !Array.isArray(change?.new) || typeof change.old !== 'number')
    return null
  const [about = '', who = '', data = '{}'] = change.new as readonly string[]
  return {
    kind,
    by: by as ObjectKind,
    late: late !== undefined,
    about,
    data: JSON.parse(data) as Values,
    who,
    atMs: change.old,
  }
}

/** `late` where also what is told of late counts. */
export const onActivity = (kind: ActivityName, by: ObjectKind, late: boolean) =>
  (late ? [false, true] : [false]).map((one) => ({ signal: 'activity', key: keyOf({ kind, by, late: one }) }) as const)

/** What somebody does, as one is told of it. */
export interface ActivityTold {
  readonly kind: ActivityName
  readonly about: string
  readonly data: Values
  /** When it was done, and when one was told. */
  readonly atMs: number
  readonly toldMs: number
}

/**
 * Who hears of it: the record whose activity it is, and of those it is linked to each for which a rule or a wait
 * listens. Nobody else is told: a contact of many deals would make an event of each for nothing.
 */
export function hearersOf(
  { ref, name }: { readonly ref: RecordRef; readonly name: string },
  { kind, about, data, atMs, toldMs }: ActivityTold,
  linked: (object: RecordKind) => readonly number[],
  listens: (ref: RecordRef) => boolean,
): readonly { readonly ref: RecordRef; readonly change: FieldChange }[] {
  const done = { kind, by: ref.object, late: toldMs - atMs > LATE_AFTER_MS, about, data, atMs }
  return [
    { ref, change: activityChange({ ...done, who: name }) },
    ...OBJECTS.filter((object) => object !== ref.object).flatMap((object) =>
      linked(object)
        .map((id) => ({ object, id }))
        .filter(listens)
        .map((to) => ({ ref: to, change: activityChange({ ...done, who: '' }) })),
    ),
  ]
}
