import { movedReminders } from './reminders'
import { momentAnew } from '../../core/engine/replan'
import { Matcher } from '../../core/engine/matcher'
import { Catalogue } from '../../core/fields/catalogue'
import type { Wait } from '../../core/engine/world'
import { withHours, type GivenHours } from './hours'
import type { ImportControl } from './import'
import { LiveWorld } from './live-world'
import type { Workspace } from './workspace'

/** When the zone, the hours or the holidays are other ones: what was planned by them is planned anew. */

/** So many waits are counted in one commit. */
const PIECE = 500
/** So many are named to whoever asks before saving. */
const NAMED_MOST = 50

export interface Moves {
  /** Runs whose wait ends at another moment; the first fifty of them, the soonest first. */
  readonly waits: readonly {
    readonly ruleName: string
    readonly recordName: string
    readonly fromMs: number
    readonly toMs: number
  }[]
  readonly waitsTotal: number
  /** Rules whose next moment is another one. */
  readonly rules: readonly { readonly ruleName: string; readonly fromMs: number | null; readonly toMs: number | null }[]
  /** Reminders of open tasks that come at another moment. */
  readonly reminders: number
}

/** Another moment of a wait; `null` where it stays. One that has come already keeps nobody waiting. */
function anew(world: LiveWorld, wait: Wait, nowMs: number): number | null {
  if (wait.dueMs === null) return null
  const at = momentAnew(world, wait)
  const due = at === null ? wait.dueMs : Math.max(at, nowMs)
  // What is due and not yet worked keeps its place.
  return wait.dueMs <= nowMs || due === wait.dueMs ? null : due
}

/** What other hours would move, with nothing written. Looks at everything that waits. */
export function movesBy(workspace: Workspace, hours: GivenHours): Moves {
  const { store, clock } = workspace
  const now = workspace.catalogue()
  const next = new Catalogue({ ...now.data, workspace: withHours(now, hours) })
  const world = new LiveWorld(workspace.db, store, clock, () => next)
  const nowMs = clock.nowMs()
  const names = store.rules.names()
  const nameOf = (ruleId: number): string => names.get(ruleId) ?? String(ruleId)
  const waits: Moves['waits'][number][] = []
  let waitsTotal = 0
  for (let after = 0, piece = store.waits.behind(after, PIECE); piece.length > 0;) {
    for (const wait of piece) {
      const toMs = anew(world, wait, nowMs)
      if (toMs === null || wait.dueMs === null) continue
      waitsTotal++
      if (waits.length < NAMED_MOST)
        waits.push({ ruleName: nameOf(wait.ruleId), recordName: workspace.nameOf(wait.ref), fromMs: wait.dueMs, toMs })
    }
    after = piece.at(-1)?.id ?? after
    piece = store.waits.behind(after, PIECE)
  }
  // Asked of both anew: a timer may stand at a moment that a date has since moved away from.
  const nextOf = (matcher: Matcher, by: LiveWorld): ReadonlyMap<string, { ruleName: string; atMs: number | null }> =>
    new Map(
      matcher.clocked.flatMap(({ ruleId, document, clocks }) =>
        clocks.map(
          ({ triggerId, trigger }) =>
            [`${ruleId} ${triggerId}`, { ruleName: document.name, atMs: trigger.next(by, nowMs) }] as const,
        ),
      ),
    )
  const before = nextOf(workspace.matcher(), workspace.world)
  const rules = [...nextOf(new Matcher(workspace.activeRules(), next), world)].flatMap(([key, { ruleName, atMs }]) => {
    const fromMs = before.get(key)?.atMs ?? null
    return fromMs === atMs ? [] : [{ ruleName, fromMs, toMs: atMs }]
  })
  const reminders = movedReminders(workspace, now, next).length
  return { waits: waits.sort((a, b) => a.toMs - b.toMs), waitsTotal, rules, reminders }
}

/** What local time is counted by: when it is another one, waits are counted anew. */
export const hoursKey = ({ workspace, people }: Pick<Catalogue, 'workspace' | 'people'>): string => {
  const { zone, workdays, opensAt, closesAt, holidays, teams } = workspace
  return JSON.stringify([
    zone,
    workdays,
    opensAt,
    closesAt,
    holidays,
    teams,
    people.map((person) => [person.id, person.team, person.zone]),
  ])
}

/** Counts all waits anew, a piece a commit; answers how many moved. */
export async function replanWaits(workspace: Workspace, control: ImportControl): Promise<number> {
  const { store } = workspace
  let moved = 0
  for (let after: number | null = 0; after !== null;) {
    const from: number = after
    after = workspace.db.atomically(() => {
      workspace.keepUp()
      const piece = store.waits.behind(from, PIECE)
      for (const wait of piece) {
        const due = anew(workspace.world, wait, workspace.clock.nowMs())
        if (due === null) continue
        store.waits.setDue(wait.id, due)
        moved++
      }
      return piece.length < PIECE ? null : (piece.at(-1)?.id ?? null)
    })
    await control.pause()
  }
  if (moved > 0) workspace.live.tell({ about: 'ahead' })
  return moved
}
