import { listensTo } from '../../core/engine/wake'
import type { Matcher } from '../../core/engine/matcher'
import type { Values } from '../../core/language/value'
import type { Happening } from '../../core/records/happening'
import type { RecordRef } from '../../core/records/kinds'
import type { ChangeEvent } from '../../core/records/record'
import { hearersOf } from '../../core/signals/activity'
import type { Store } from '../store'
import type { Clock } from './clock'
import { newChain } from './live-records'
import type { LiveWorld } from './live-world'

/** What somebody did, as it is kept and told to whoever goes by it. */

/** The part of a workspace that this needs. */
interface Keeps {
  readonly store: Store
  readonly world: LiveWorld
  readonly clock: Clock
  matcher(): Matcher
  nameOf(ref: RecordRef): string
}

export type Happened = Pick<Happening, 'kind' | 'about'> & {
  readonly key: string | null
  readonly data: Values
  readonly atMs: number
}

/** Keeps what a record did; answers whether it was new. */
export function keepActivity(workspace: Keeps, ref: RecordRef, happened: Happened, nowMs: number): boolean {
  const { kind, about, data, atMs, key } = happened
  const id = workspace.store.happenings.add({ ref, kind, about: about.trim(), data, atMs, key }, nowMs)
  if (id !== null) log(workspace, ref, happened, id, nowMs)
  return id !== null
}

/** Lets the record know of it, and those it is linked to, where rules or what waits go by such a thing. */
function log(
  workspace: Keeps,
  ref: RecordRef,
  { kind, about, data, atMs }: Happened,
  happeningId: number,
  nowMs: number,
): void {
  const { world, store } = workspace
  const chain = newChain()
  const listens = (to: RecordRef): boolean =>
    workspace.matcher().hears(to.object, 'activity') || store.waits.of(to).some(listensTo('activity'))
  const hearers = hearersOf(
    { ref, name: workspace.nameOf(ref) },
    { kind, about: about.trim(), data, atMs, toldMs: nowMs },
    (object) => store.links.linked(ref, object).map(({ id }) => id),
    listens,
  )
  for (const { ref: to, change } of hearers)
    world.log(to, 'happened', [change], { by: 'happening', happeningId }, chain, false, nowMs)
}

/** It is known who a visitor is: what they did before is theirs, and starts what may be started by late activities. */
export function becomeKnown(workspace: Keeps, visitor: string, contactId: number): void {
  const { visitors } = workspace.store
  visitors.name(visitor, { contactId })
  const nowMs = workspace.clock.nowMs()
  for (const one of visitors.take(visitor)) keepActivity(workspace, { object: 'contact', id: contactId }, one, nowMs)
}

/** A contact got an address: those who gave it before are known now. */
export function knowByEmail(workspace: Keeps, { ref, kind, changes }: ChangeEvent): void {
  if (ref.object !== 'contact' || (kind !== 'created' && kind !== 'changed' && kind !== 'restored')) return
  if (kind === 'changed' && !changes.some(({ field }) => field === 'email')) return
  if (!workspace.store.visitors.someWait()) return
  const email = workspace.store.records.read(ref)?.values.email
  if (typeof email !== 'string') return
  for (const visitor of workspace.store.visitors.withEmail(email.toLowerCase())) becomeKnown(workspace, visitor, ref.id)
}
