import type { UndoPlan } from '../../core/effects/undoing'
import { undoPlan } from '../engine/undo'
import type { Workspace } from '../engine/workspace'

export interface UndoSaid {
  readonly undone: readonly string[]
  readonly left: readonly string[]
  readonly already: { readonly person: string; readonly atMs: number } | null
}

const sayPlan = ({ writes, tasks, unlink, link, remove }: UndoPlan): readonly string[] => [
  ...writes.map((one) => one.say),
  ...tasks.map((one) => `task “${one.title}” withdrawn`),
  ...unlink.map((one) => `${one.say} removed`),
  ...link.map((one) => `${one.say} restored`),
  ...remove.map((one) => `“${one.name}” deleted`),
]

/** What taking a run back would do, in words; `null` when there is no such run. */
export function sayUndo(workspace: Workspace, runId: number): UndoSaid | null {
  const run = workspace.store.runs.get(runId)
  if (!run) return null
  const already =
    run.undoneAt === null
      ? null
      : { person: workspace.catalogue().person(run.undoneBy ?? '')?.name ?? '', atMs: run.undoneAt }
  const plan = undoPlan(workspace, runId)
  return { undone: plan ? sayPlan(plan) : [], left: plan?.left ?? [], already }
}
