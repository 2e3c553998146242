import { derivationsOf, type Derived } from '../../core/derived/derivations'
import { catchUp } from '../../core/engine/derive'
import type { Matcher } from '../../core/engine/matcher'
import { goesBy } from '../../core/rules/uses'
import { newChain } from './live-records'
import type { Workspace } from './workspace'

/**
 * Roll-ups while very many changes are made: each change of a record would add up all that its company has, a hundred
 * thousand times for the same sixty. Those that nobody goes by are noted, and worked out about once a second.
 */

/** How whoever makes the changes lets others in. */
interface Pauses {
  readonly pause: () => Promise<void>
  readonly nowMs: () => number
}

/** Records for which something is worked out in one commit. */
const BATCH = 20
const LEAST_MS = 1000
/** It takes no more than this part of the time: the more there is to add up, the longer it waits. */
const SHARE = 10

/** By the rules that run: what waits goes by them, or by older versions that become no more. */
const known = new WeakMap<Matcher, ReadonlySet<Derived>>()

/** Values that no rule that runs, no run that waits, no segment and no score can notice. */
export function unnoticed(workspace: Workspace): ReadonlySet<Derived> {
  const matcher = workspace.matcher()
  let found = known.get(matcher)
  if (!found) known.set(matcher, (found = findUnnoticed(workspace)))
  return found
}

function findUnnoticed(workspace: Workspace): ReadonlySet<Derived> {
  const { store } = workspace
  const documents = [
    ...workspace.activeRules().map(({ document }) => document),
    ...store.waits.versions().flatMap(({ versionId }) => store.rules.version(versionId)?.document ?? []),
  ]
  const derivations = derivationsOf(workspace.catalogue())
  return new Set(
    derivations.all.filter(
      (one) =>
        one.field.made?.by === 'rollUp' &&
        [one, ...derivations.behind([one.field])].every(
          ({ field }) =>
            (field.made?.by === 'rollUp' || field.made?.by === 'formula') &&
            !documents.some((document) => goesBy(document, field.object, field.key, workspace.catalogue())),
        ),
    ),
  )
}

/** Makes some changes, with what nobody goes by put off; belongs into the transaction that makes them. */
export function puttingOff<T>(workspace: Workspace, which: ReadonlySet<Derived>, work: () => T): T {
  workspace.world.later = (one) => which.has(one)
  try {
    return work()
  } finally {
    workspace.world.later = null
  }
}

/** Works out what was put off for the next records, in one commit; answers whether there was any. */
export function catchUpSome(workspace: Workspace): boolean {
  const { store, world } = workspace
  if (store.derive.putOffFor(1).length === 0) return false
  workspace.db.atomically(() => {
    const derivations = derivationsOf(workspace.catalogue())
    for (const ref of store.derive.putOffFor(BATCH)) {
      const fields = derivations.far(ref.object).filter(({ field }) => field.made?.by === 'rollUp')
      catchUp(world, ref, fields, newChain())
      store.derive.caughtUp(ref)
    }
    workspace.handleNew()
  })
  return true
}

/** Works out all that was put off, and lets others in between. */
export async function catchUpAll(workspace: Workspace, control: Pick<Pauses, 'pause'>): Promise<void> {
  while (catchUpSome(workspace)) await control.pause()
}

/** Catches up now and then, as long as changes go on: never more than a part of the time. */
export function catchingUp(workspace: Workspace, control: Pauses): () => Promise<void> {
  let [next, from] = [control.nowMs() + LEAST_MS, 0]
  return async () => {
    from = control.nowMs()
    if (from < next) return
    await catchUpAll(workspace, control)
    const now = control.nowMs()
    next = now + Math.max(LEAST_MS, (now - from) * SHARE)
  }
}
