import {
  Asked,
  derivationsOf,
  differing,
  type Derivations,
  type Derived,
  type DerivedWorld,
} from '../derived/derivations'
import type { Reach } from '../derived/depends'
import type { Value } from '../language/value'
import { OBJECTS, type ObjectKind, type RecordRef } from '../records/kinds'
import type { Cause, ChainPlace, ChangeEvent, RecordSnapshot } from '../records/record'
import { momentAt } from './moment'
import type { World } from './world'

/** Keeps values that are worked out in step with what they hang on. Whoever calls commits. */

/** How far the turn of the day has come: the day that is begun, and the last record that was looked at. */
export interface DayTurn {
  /** The last day that was gone through to its end. */
  readonly through: string
  /** The day on which the pass that is under way began; `null` when none is. */
  readonly turning: string | null
  readonly object: ObjectKind | null
  readonly afterId: number
}

export interface DerivingWorld extends World, DerivedWorld {
  /**
   * Writes values that nobody else may write; `null` when they stand there already. Where `byDay` and nobody goes by
   * any of the changes, nothing is left behind but the values: the event that comes back is in no log then. Otherwise
   * what is other every day would bury all that people and rules did.
   */
  keep(
    ref: RecordRef,
    values: { readonly [field: string]: Value },
    cause: Cause,
    chain: ChainPlace,
    rulesOff: boolean,
    byDay?: boolean,
  ): ChangeEvent | null
  /** Whether a value is worked out later, because nobody goes by it; then it is noted for which record. */
  putOff?(ref: RecordRef, one: Derived): boolean
  /** Looks ahead for when anybody goes by what the days bring to a record; until then `behind` passes it over. */
  lookAhead?(ref: RecordRef, fields: readonly Derived[]): void
  /** What was seen ahead for a record may come otherwise now. */
  wakeUp?(ref: RecordRef): void
}

/** A way of links back from a record at the end of a reach (or on it) to the records whose values hang on it. */
export function back(
  world: Pick<World, 'linked'>,
  ref: RecordRef,
  { path }: Reach,
  at: number,
  own: ObjectKind,
): readonly RecordRef[] {
  let refs: readonly RecordRef[] = [ref]
  for (let i = at - 1; i >= -1; i--) {
    const kind = i < 0 ? own : (path[i] ?? own)
    const seen = new Map<number, RecordRef>()
    for (const one of refs)
      for (const { record } of world.linked(one, kind)) seen.set(record.id, { object: kind, id: record.id })
    refs = [...seen.values()]
  }
  return refs
}

/** The fields of records that an event may have changed, by record. */
function affected(
  world: DerivingWorld,
  { all, far }: Pick<Derivations, 'all'> & { readonly far: readonly Derived[] },
  event: ChangeEvent,
): ReadonlyMap<string, { readonly ref: RecordRef; readonly fields: Set<Derived> }> {
  const found = new Map<string, { readonly ref: RecordRef; readonly fields: Set<Derived> }>()
  const add = (ref: RecordRef, one: Derived): void => {
    const key = `${ref.object}:${ref.id}`
    const known = found.get(key)
    if (known) known.fields.add(one)
    else found.set(key, { ref, fields: new Set([one]) })
  }
  const { ref, kind } = event
  const changed = new Set(event.changes.map((change) => change.field))
  const touches = (fields: ReadonlySet<string>): boolean => {
    for (const key of fields) if (changed.has(key)) return true
    return false
  }
  const fresh = kind === 'created' || kind === 'restored'
  for (const one of far) {
    const { own, reaches, activities } = one.depends
    if (
      fresh ||
      (kind === 'changed' && touches(own)) ||
      (kind === 'happened' && activities) ||
      (kind === 'linked' && reaches.length > 0)
    )
      add(ref, one)
  }
  // While it was gone days went by, and somebody may have said anew what fields come to.
  if (kind === 'restored') for (const one of all) if (one.near && one.field.object === ref.object) add(ref, one)
  for (const one of all) {
    if (one.near) continue
    for (const reach of one.depends.reaches) {
      reach.path.forEach((object, at) => {
        if (object !== ref.object) return
        const last = at === reach.path.length - 1
        // A record that is new, or comes back, brings its links: both ends are told of those by themselves.
        const hangs = last
          ? (kind === 'changed' && touches(reach.fields)) || (kind === 'happened' && reach.activities)
          : kind === 'linked'
        if (hangs) for (const to of back(world, ref, reach, at, one.field.object)) add(to, one)
      })
    }
  }
  return found
}

/**
 * Works out anew what an event may have changed, its own record's values and those of others, and what hangs on those
 * in
 * turn. What is worked out because of an event is of its chain, and goes on from there at once: the event of it that is
 * met in the log later has nothing left to do.
 */
export function noticeDerived(world: DerivingWorld, event: ChangeEvent): void {
  const derivations = derivationsOf(world.catalogue())
  if (
    derivations.all.length === 0 ||
    event.kind === 'deleted' ||
    event.kind === 'merged' ||
    event.kind === 'started' ||
    event.cause.by === 'derived'
  )
    return
  follow(world, derivations, event, event.ref)
}

function follow(world: DerivingWorld, derivations: Derivations, event: ChangeEvent, of: RecordRef): void {
  const far = derivations.far(event.ref.object)
  for (const { ref, fields } of affected(world, { all: derivations.all, far }, event).values()) {
    world.wakeUp?.(ref)
    const now = derivations.all.filter((one) => fields.has(one) && !world.putOff?.(ref, one))
    const record = now.length > 0 ? world.read(ref) : null
    if (!record) continue
    const made = workOut(world, record, now, { by: 'derived', of: [of.object, of.id] }, event, event.rulesOff)
    if (made) follow(world, derivations, made, of)
  }
}

/** Works out what was put off for a record, and what hangs on that in turn. */
export function catchUp(world: DerivingWorld, ref: RecordRef, fields: readonly Derived[], chain: ChainPlace): void {
  const record = world.read(ref)
  const event = record && workOut(world, record, fields, { by: 'derived', of: null }, chain, false)
  if (event) follow(world, derivationsOf(world.catalogue()), event, ref)
}

function workOut(
  world: DerivingWorld,
  record: RecordSnapshot,
  fields: readonly Derived[],
  cause: Cause,
  chain: ChainPlace,
  rulesOff: boolean,
  byDay = false,
): ChangeEvent | null {
  const values = differing(fields, new Asked(world, record, momentAt(world.nowMs(), world.catalogue().workspace)))
  return Object.keys(values).length === 0
    ? null
    : world.keep(
        { object: record.object, id: record.id },
        values,
        cause,
        { chainId: chain.chainId, depth: chain.depth },
        rulesOff,
        byDay,
      )
}

/**
 * Works out what hangs on the day for some records. Changes that somebody goes by are events, and rules hear of them;
 * what hangs on the others is worked out all the same.
 */
export function turnDay(
  world: DerivingWorld,
  records: readonly RecordSnapshot[],
  newChain: () => ChainPlace,
  only: ((one: Derived) => boolean) | null = null,
): number {
  const derivations = derivationsOf(world.catalogue())
  const fieldsOf = new Map<ObjectKind, readonly Derived[]>(
    OBJECTS.map((object) => [
      object,
      derivations.byDay.filter((one) => one.field.object === object && (only?.(one) ?? true)),
    ]),
  )
  const alone = world.lookAhead
    ? new Map([...fieldsOf].map(([object, fields]) => [object, derivations.dayAlone(fields)]))
    : null
  let changed = 0
  for (const record of records) {
    const fields = fieldsOf.get(record.object) ?? []
    const event = workOut(world, record, fields, { by: 'derived', of: null }, newChain(), false, true)
    if (event) {
      changed++
      follow(world, derivations, event, event.ref)
    }
    const moved = alone?.get(record.object)
    if (moved) world.lookAhead?.(record, moved)
  }
  return changed
}

/** The kinds of records that the turn of the day goes through, in their order. */
export const kindsByDay = (
  derivations: Derivations,
  only: ((one: Derived) => boolean) | null = null,
): readonly ObjectKind[] =>
  OBJECTS.filter((object) => derivations.byDay.some((one) => one.field.object === object && (only?.(one) ?? true)))
