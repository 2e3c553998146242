import type { Catalogue } from '../fields/catalogue'
import type { RecordRef } from '../records/kinds'
import { sayStep } from '../rules/describe'
import type { RuleDocument, Step } from '../rules/document'
import type { Category } from '../language/category'
import { STEPS } from '../rules/steps'
import { placedBranches, placedSteps } from '../rules/tree'
import { summaryOf } from '../effects/wrote'
import { sayStepRecord } from './say-run'
import type { StepRecord } from './world'

/** A step as a run went through it, or a way of a step that holds others. */
export interface RunLine {
  readonly id: string
  /** "3a2"; for a way "3a". */
  readonly label: string
  readonly depth: number
  /** `null` for a way. */
  readonly category: Category | null
  readonly sentence: string
  readonly state: StepRecord['state'] | null
  readonly result: string
  /** When it was done; `null` for a way and for what was not reached. */
  readonly atMs: number | null
  readonly taskId: number | null
  /** The record it worked on, where that was not the run's own. */
  readonly on: { readonly ref: RecordRef; readonly name: string } | null
}

export interface DoneStep {
  readonly stepId: string
  readonly result: StepRecord
  readonly atMs: number
}

export interface RunSheetGiven {
  readonly document: RuleDocument
  readonly done: readonly DoneStep[]
  /** What steps wait for, in words. */
  readonly waiting: ReadonlyMap<string, string>
  /** With the results of the rule's steps among its fields. */
  readonly catalogue: Catalogue
  readonly today: string
  readonly nameOf: (ref: RecordRef) => string
}

/**
 * The steps of a run in reading order, each as often as it went through it. Of a step that holds others, the ways that
 * were not gone are named and their steps left out.
 */
export function runLines({ document, done, waiting, catalogue, today, nameOf }: RunSheetGiven): readonly RunLine[] {
  const lines: RunLine[] = []
  const placed = new Map(placedSteps(document).map((one) => [one.step.id, one]))
  const gone = new Map(
    done.flatMap(({ stepId, result }) =>
      result.state === 'done'
        ? result.wrote.flatMap((wrote) => (wrote.what === 'way' ? [[stepId, wrote.branch] as const] : []))
        : [],
    ),
  )
  const branches = placedBranches(document)
  visit(document.steps)
  return lines

  function visit(steps: readonly Step[]): void {
    for (const step of steps) {
      const { label = '', object = document.object, depth = 0 } = placed.get(step.id) ?? {}
      const names = { catalogue, object }
      const own = done.filter((row) => row.stepId === step.id)
      const line = { id: step.id, label, depth, category: STEPS[step.kind].category, sentence: sayStep(step, names) }
      if (own.length === 0)
        lines.push({
          ...line,
          state: null,
          result: waiting.get(step.id) ?? 'not reached',
          atMs: null,
          taskId: null,
          on: null,
        })
      for (const { result, atMs } of own) {
        const tasks = result.state === 'done' ? result.wrote.flatMap((wrote) => summaryOf(wrote).task ?? []) : []
        lines.push({
          ...line,
          atMs,
          state: result.state,
          taskId: tasks[0]?.id ?? null,
          on: result.on ? { ref: result.on, name: nameOf(result.on) } : null,
          result: `${sayStepRecord(result, names, today)}${result.againBy === undefined ? '' : `  (retried by ${catalogue.person(result.againBy)?.name ?? result.againBy})`}`,
        })
      }
      // What it did before it began to wait is there already.
      const waits = own.length > 0 && STEPS[step.kind].ways?.end ? waiting.get(step.id) : undefined
      if (waits !== undefined) lines.push({ ...line, state: null, result: waits, atMs: null, taskId: null, on: null })
      for (const branch of step.branches ?? []) {
        heads(branch.id)
        if (gone.get(step.id) === branch.id) visit(branch.steps)
      }
    }
  }

  function heads(id: string): void {
    const found = branches.find((one) => one.branch.id === id)
    if (!found) return
    const all = found.of.branches ?? []
    const taken = gone.get(found.of.id) === id
    lines.push({
      id,
      label: found.label,
      depth: found.depth,
      category: null,
      atMs: null,
      taskId: null,
      on: null,
      state: taken ? 'done' : null,
      result: taken
        ? found.branch.steps.length === 0
          ? 'path taken, no steps on it'
          : 'path taken'
        : gone.has(found.of.id)
          ? 'path not taken'
          : 'not reached',
      sentence:
        STEPS[found.of.kind].ways?.label(found.branch, all.indexOf(found.branch), all, found.of.params, {
          catalogue,
          object: found.object,
        }) ?? '',
    })
  }
}
