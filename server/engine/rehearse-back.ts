import type { Acts } from '../../core/habits/habit'
import type { RuleDocument } from '../../core/rules/document'
import type { ImportControl } from './import'
import { setUpRehearsal } from './rehearsal'
import type { Workspace } from './workspace'

const DAY_MS = 86_400_000
/** With more changes than that going through them again takes too long, and too much memory. */
export const REHEARSED_EVENTS_MOST = 50_000
/** So many things happen before others get their turn. */
const PIECE = 200
/** No rule in the workspace has this number: what this one would have done is all its own. */
const NOT_STORED = 0

/**
 * What a rule that nobody has stored would have done over the last days, by the engine itself: when it did something to
 * which record. `null` where there is too much history to go through again.
 */
export async function rehearseBack(
  workspace: Workspace,
  document: RuleDocument,
  days: number,
  control: ImportControl,
): Promise<Acts | null> {
  const { store, clock } = workspace
  if (store.habits.countLog(clock.nowMs() - days * DAY_MS) > REHEARSED_EVENTS_MOST) return null
  const rehearsal = setUpRehearsal(workspace, {
    rules: [{ ruleId: NOT_STORED, document }],
    object: document.object,
    ids: null,
    filter: null,
    days,
    back: true,
    script: [],
  })
  let done = 0
  while (!rehearsal.goOn(() => ++done % PIECE === 0)) await control.pause()
  const acts = new Map<number, number[]>()
  for (const { runId, result, atMs } of rehearsal.world.steps) {
    const ref = rehearsal.world.runs[runId - 1]?.run.ref
    if (!ref || result.state !== 'done' || result.wrote.length === 0) continue
    const own = acts.get(ref.id)
    if (own) own.push(atMs)
    else acts.set(ref.id, [atMs])
  }
  return acts
}
