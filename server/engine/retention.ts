import { derivationsOf } from '../../core/derived/derivations'
import { cutOf, RETENTION, RETENTION_KINDS, type RetentionKind } from '../../core/records/retention'
import type { RetentionRow } from '../store/retention'
import { workAnew } from './derived'
import type { ImportControl } from './import'
import { dateAt } from '../../core/time/dates'
import { sayDate } from '../../core/time/say'
import type { Workspace } from './workspace'
import { refuse } from './refuse'

/** Deleting what is too old, in small commits in the background. */

const DAY_MS = 86_400_000

/** How many days a kind is kept; `null` for always. */
export const daysOf = (kind: RetentionKind, row: RetentionRow | undefined): number | null =>
  row?.said ? row.days : RETENTION[kind].usual

/** Says how long a kind is kept. The background takes it from there. */
export function setRetention(workspace: Workspace, kind: RetentionKind, days: number | null, personId: string): void {
  workspace.db.inTurn(() => workspace.store.retention.set(kind, { said: true, days, personId, sweptAt: null }))
  workspace.live.tell({ about: 'storage' })
}

/** Goes through every kind whose turn it is: once a day, and when somebody said otherwise. */
export async function workRetention(workspace: Workspace, control: ImportControl): Promise<void> {
  const { store, db } = workspace
  const nowMs = workspace.clock.nowMs()
  for (const kind of RETENTION_KINDS) {
    const row = store.retention.all().get(kind)
    if (row?.sweptAt !== undefined && row.sweptAt !== null && nowMs < row.sweptAt + DAY_MS) continue
    const cutMs = cutOf(daysOf(kind, row), nowMs)
    const deleted = cutMs === null ? 0 : await sweep(workspace, kind, cutMs, control)
    db.atomically(() => {
      // Somebody may have said otherwise meanwhile: then it is gone through once more.
      if (store.retention.all().get(kind)?.days !== row?.days) return
      const lost = deleted > 0 ? cutMs : null
      store.retention.set(kind, {
        sweptAt: nowMs,
        ...(lost === null ? {} : { cutMs: Math.max(lost, row?.cutMs ?? 0) }),
      })
      if (kind === 'activities' && deleted > 0) scoreAnew(workspace, row?.personId ?? null)
    })
    if (deleted > 0) workspace.live.tell({ about: 'storage' })
  }
}

async function sweep(
  workspace: Workspace,
  kind: RetentionKind,
  cutMs: number,
  control: ImportControl,
): Promise<number> {
  const keepCounted = (only: string, bound: object): void =>
    workspace.store.results.keepGone(only, bound, {
      nowMs: workspace.clock.nowMs(),
      zone: workspace.catalogue().workspace.zone,
    })
  let deleted = 0
  for (let at: number | null = 0; at !== null;) {
    const after: number = at
    const piece = workspace.db.atomically(() => {
      // What messages came to is counted as long as there is the rule.
      return workspace.store.retention.drop(kind, cutMs, after, kind === 'conversations' ? keepCounted : undefined)
    })
    deleted += piece.deleted
    at = piece.at
    await control.pause()
  }
  return deleted
}

/** Scores that counted what was deleted are worked out without it, as what stands: no rule hears of that. */
function scoreAnew(workspace: Workspace, personId: string | null): void {
  const ids = derivationsOf(workspace.catalogue())
    .all.filter(({ depends }) => depends.activities || depends.reaches.some((reach) => reach.activities))
    .map((one) => one.field.id)
  const by = personId ?? workspace.catalogue().people.find((person) => person.role === 'specialist')?.id
  if (ids.length > 0 && by !== undefined) workAnew(workspace, ids, by)
}

/**
 * Refuses to go back over changes that are not stored any more, by what happened and by what fields held.
 *
 * @param days how far back one wants to go
 */
export function refuseTooFarBack(workspace: Workspace, days: number): void {
  const wholeMs = Math.max(0, wholeFrom(workspace, 'events') ?? 0, wholeFrom(workspace, 'history') ?? 0)
  const nowMs = workspace.clock.nowMs()
  if (nowMs - days * DAY_MS >= wholeMs) return
  const from = sayDate(dateAt(wholeMs, workspace.catalogue().workspace.zone))
  throw refuse('days', { code: 'tooFarBack', from, days: Math.floor((nowMs - wholeMs) / DAY_MS) })
}

/** The instant from which on a kind is there whole; `null` when nothing of it has gone. */
export const wholeFrom = (workspace: Workspace, kind: RetentionKind): number | null =>
  workspace.store.retention.all().get(kind)?.cutMs ?? null
