import type { ChangeEvent } from '../../core/records/record'
import type { Store } from '../store'
import type { LiveWorld } from './live-world'

/** What somebody did, as it is kept and told to whoever goes by it. */

/** The part of a workspace that this needs. */
interface Keeps {
  readonly store: Store
  readonly world: LiveWorld
}

/** It is known who a visitor is: what they did before is theirs, and starts what may be started by late activities. */
export function becomeKnown(workspace: Keeps, visitor: string, contactId: number): void {
  const { world, store } = workspace
  const { visitors } = store
  visitors.name(visitor, { contactId })
  for (const one of visitors.take(visitor)) world.keepActivity({ object: 'contact', id: contactId }, one)
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
