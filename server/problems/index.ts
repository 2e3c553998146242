import type { Workspace } from '../engine/workspace'
import { bounced } from './bounced'
import { disk } from './disk'
import { expiring } from './expiring'
import { failedRuns } from './failed-runs'
import { leftOut } from './left-out'
import { pausedRules } from './paused-rules'
import { noRate } from './no-rate'
import { peopleLeft } from './people-left'
import type { ProblemKind } from './problem'
import { silentRules } from './silent-rules'
import { undelivered } from './undelivered'
import { unowned } from './unowned'
import { unreadable } from './unreadable'
import { zonesUnknown } from './zones-unknown'

/** Every kind of problems, the most urgent first. */
export const PROBLEMS: readonly ProblemKind[] = [
  disk,
  unreadable,
  pausedRules,
  failedRuns,
  undelivered,
  leftOut,
  bounced,
  noRate,
  silentRules,
  expiring,
  peopleLeft,
  unowned,
  zonesUnknown,
]

/** They are looked for so often, by the workspace's clock. */
const EVERY_MS = 60_000

/** When they were last looked for, by workspace. */
const looked = new WeakMap<Workspace, number>()

/** Looks for problems of every kind, at most once a minute; what is mended goes by itself. */
export function lookForProblems(workspace: Workspace, atOnce = false): void {
  const { db, store, clock } = workspace
  const nowMs = clock.nowMs()
  const last = looked.get(workspace)
  if (!atOnce && last !== undefined && nowMs >= last && nowMs < last + EVERY_MS) return
  looked.set(workspace, nowMs)
  let changed = false
  for (const kind of PROBLEMS)
    db.inTurn(() =>
      db.atomically(() => {
        const found = kind.find(workspace)
        for (const { ref, ruleId = null, key, says, count, path, sinceMs = nowMs } of found)
          changed =
            store.problems.note(
              {
                kind: kind.kind,
                key,
                says,
                count,
                path,
                ruleId,
                object: ref?.object ?? null,
                recordId: ref?.id ?? null,
              },
              nowMs,
              sinceMs,
            ) || changed
        changed =
          store.problems.forget(
            kind.kind,
            found.map(({ key }) => key),
          ) > 0 || changed
      }),
    )
  if (changed) workspace.live.tell({ about: 'problems' })
}
