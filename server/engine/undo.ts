import { planUndo, undoesNothing } from '../../core/engine/undo'
import type { UndoFacts, UndoPlan } from '../../core/effects/undoing'
import type { RecordRef } from '../../core/records/kinds'
import type { RunRow, RunStepRow } from '../store/runs'
import { deleteQuietly } from './going'
import { RefusedError, type Workspace } from './workspace'
import { endRun } from '../../core/engine/end-waits'
import { newChain } from './live-records'

/** Taking back what runs did. */

/** `runId` is the run that is looked at: what it did itself is no news to what it made. */
function factsOf(workspace: Workspace, runId: number): UndoFacts {
  const { events, tasks, links, records, activities } = workspace.store
  return {
    catalogue: () => workspace.catalogue(),
    nowMs: () => workspace.clock.nowMs(),
    read: (ref) => records.read(ref),
    lastWrite(ref, key) {
      const field = workspace.catalogue().field(ref.object, key)
      return field ? events.lastStanding(ref, field.id) : null
    },
    task: (id) => tasks.standing(id),
    linked: (from, to) =>
      links
        .of(from)
        .some(
          (link) =>
            link.from.id === from.id &&
            link.from.object === from.object &&
            link.to.object === to.object &&
            link.to.id === to.id,
        ),
    changedSince: (ref, seq) =>
      events.anyAfter(ref, seq, runId) ||
      tasks.ofRecord(ref).some((one) => one.runId !== runId || tasks.standing(one.id)?.touched) ||
      activities.newest(ref, 1).length > 0,
    nameOf: (ref) => workspace.nameOf(ref),
  }
}

const refOf = (run: Pick<RunRow, 'object' | 'recordId'>): RecordRef => ({ object: run.object, id: run.recordId })

/** What taking a run back would do now; `null` when there is no such run, or it was taken back before. */
export function undoPlan(workspace: Workspace, runId: number): UndoPlan | null {
  const { runs } = workspace.store
  const run = runs.deeds(runId)
  return run && !run.undone ? planUndo(refOf(run), run.results, factsOf(workspace, runId)) : null
}

/**
 * Takes a run back, as a person's change in a chain of its own that no rule looks at. What something newer stands on
 * stays and is named. The caller has the turn and the transaction.
 */
export function undoRun(
  workspace: Workspace,
  runId: number,
  personId: string,
): { readonly plan: UndoPlan; readonly touched: readonly RecordRef[] } | null {
  const { runs, tasks } = workspace.store
  const plan = undoPlan(workspace, runId)
  const run = plan && runs.deeds(runId)
  if (!plan || !run) return null
  const cause = { by: 'person', personId, undoes: runId } as const
  const chain = newChain()
  const touched: RecordRef[] = [refOf(run)]
  // What it was still waiting for is not done after it was taken back.
  const waiting = workspace.store.waits.ofRun(runId)
  for (const wait of waiting) workspace.store.waits.remove(wait.id)
  if (waiting.length > 0)
    endRun(workspace.world, runId, {
      code: 'ended',
      say: `${workspace.catalogue().person(personId)?.name ?? personId} undid it`,
    })
  for (const { ref, values } of plan.writes) {
    const written = workspace.world.write(ref, values, cause, chain, true)
    if (!written.ok) throw new RefusedError(written.problems)
    touched.push(ref)
  }
  for (const { id } of plan.tasks) tasks.withdraw(id, personId, workspace.clock.nowMs())
  for (const { from, to } of plan.unlink) {
    workspace.world.unlink(from, to, cause)
    touched.push(from, to)
  }
  for (const { from, to, role } of plan.link) {
    workspace.world.link(from, to, cause, role)
    touched.push(from, to)
  }
  for (const { ref } of plan.remove) touched.push(...deleteQuietly(workspace, ref, personId, chain))
  runs.setUndone(runId, personId, workspace.clock.nowMs())
  return { plan, touched }
}

/** One run by itself, told to whoever has it open. */
export function undoOne(workspace: Workspace, runId: number, personId: string): UndoPlan | null {
  const undone = workspace.db.inTurn(() => workspace.db.atomically(() => undoRun(workspace, runId, personId)))
  if (!undone) return null
  workspace.drain()
  workspace.live.tell({ about: 'records', refs: undone.touched })
  workspace.live.tell({ about: 'tasks', people: [] })
  workspace.live.tell({ about: 'rules' })
  return undone.plan
}

export interface UndoSurvey {
  readonly runs: number
  /** Runs of which something can be taken back. */
  readonly undone: number
  readonly fields: number
  readonly tasks: number
  readonly links: number
  readonly records: number
  /** What would stay, with the record it is about; the first hundred of so many. */
  readonly left: readonly { readonly name: string; readonly what: string }[]
  readonly leftCount: number
}

const LEFT_SHOWN = 100

function stepsByRun(steps: readonly RunStepRow[]): ReadonlyMap<number, readonly RunStepRow[]> {
  const found = new Map<number, RunStepRow[]>()
  for (const step of steps) {
    const of = found.get(step.runId)
    if (of) of.push(step)
    else found.set(step.runId, [step])
  }
  return found
}

/** What taking back everything that a rule did in a period would do. `toMs` is not part of it. Reads only. */
export function surveyUndo(workspace: Workspace, ruleId: number, fromMs: number, toMs: number): UndoSurvey {
  const { runs } = workspace.store
  let [count, undone, fields, tasks, links, records, leftCount] = [0, 0, 0, 0, 0, 0, 0]
  const left: UndoSurvey['left'][number][] = []
  for (let before = Number.MAX_SAFE_INTEGER; ;) {
    const some = runs.undoable(ruleId, fromMs, toMs, before, 500)
    const last = some.at(-1)
    if (!last) break
    before = last.id
    const steps = stepsByRun(runs.steps(some.map((run) => run.id)))
    for (const run of some) {
      const plan = planUndo(
        refOf(run),
        (steps.get(run.id) ?? []).map((step) => step.result),
        factsOf(workspace, run.id),
      )
      count++
      if (!undoesNothing(plan)) undone++
      fields += plan.writes.reduce((sum, one) => sum + Object.keys(one.values).length, 0)
      tasks += plan.tasks.length
      links += plan.unlink.length + plan.link.length
      records += plan.remove.length
      leftCount += plan.left.length
      for (const what of plan.left)
        if (left.length < LEFT_SHOWN) left.push({ name: workspace.nameOf(refOf(run)), what })
    }
  }
  return { runs: count, undone, fields, tasks, links, records, left, leftCount }
}
