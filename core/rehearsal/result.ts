import { sayQueue } from '../records/task'
import type { StopReason } from '../language/reasons'
import { sayProblem } from '../language/problems'
import { figure, nounOf } from '../language/counts'
import type { Seen } from '../conditions/compile'
import type { Group } from '../conditions/document'
import { runLines, type RunLine } from '../engine/run-sheet'
import { sayStepRecord, sayWait } from '../engine/say-run'
import { saySkip, sayStop } from '../language/reasons'
import { endedQuietly, type RunState, type StepRecord } from '../engine/world'
import type { RecordRef } from '../records/kinds'
import { withResults } from '../rules/results'
import type { Category } from '../language/category'
import { summaryOf } from '../effects/wrote'
import { awaitedAt } from '../rules/awaited'
import { STEPS } from '../rules/steps'
import { doesSomething } from '../rules/steps/doing'
import { placedSteps, stepById } from '../rules/tree'
import { dateAt } from '../time/dates'
import { sayTime } from '../time/say'
import type { Catalogue } from '../fields/catalogue'
import { sayTrigger } from '../rules/describe'
import type { RuleDocument } from '../rules/document'
import type { Rehearsal } from './rehearse'
import type { OverlayRun } from '../world/overlay-runs'

/** What a rehearsal came to, as plain data. */

export interface RehearsedStep {
  readonly atMs: number
  readonly stepId: string
  /** "3a2", as on the sheet. */
  readonly label: string
  readonly category: Category
  readonly state: StepRecord['state']
  readonly say: string
}

export interface RehearsedRun {
  readonly id: number
  readonly ruleId: number
  readonly ruleName: string
  readonly ref: RecordRef
  readonly recordName: string
  readonly atMs: number
  readonly because: string
  readonly state: RunState
  readonly stop: string | null
  /** The code of that reason. */ readonly stopCode: StopReason['code'] | null
  readonly steps: readonly RehearsedStep[]
}

export interface RehearsedTask {
  readonly atMs: number
  readonly runId: number
  readonly ruleId: number
  readonly stepId: string
  readonly ref: RecordRef
  readonly recordName: string
  readonly title: string
  readonly notes: string
  readonly due: string
  readonly assigneeId: string | null
  readonly queue: string | null
}

export interface RehearsalWarning {
  readonly kind: 'again' | 'nobody' | 'failed' | 'cut' | 'never' | 'script'
  readonly ruleId: number | null
  readonly text: string
  /** A record to look at. */
  readonly ref: RecordRef | null
}

export interface RehearsalResult {
  readonly fromMs: number
  readonly toMs: number
  /** Where it ended; before `toMs` when it was cut. */
  readonly endMs: number
  readonly cut: string | null
  readonly runs: readonly RehearsedRun[]
  /** Runs that ended because a condition did not hold. */
  readonly keptOut: number
  readonly tasks: readonly RehearsedTask[]
  readonly sends: readonly {
    readonly atMs: number
    readonly runId: number
    readonly what: 'mail' | 'text'
    readonly recipient: string
    readonly subject: string
    readonly body: string
    /** By whose clock, for somebody outside. */
    readonly zone: string | null
  }[]
  readonly notices: readonly {
    readonly atMs: number
    readonly runId: number
    readonly personId: string
    readonly subject: string
    readonly body: string
  }[]
  readonly writes: readonly {
    readonly atMs: number
    readonly runId: number
    readonly ref: RecordRef
    readonly changes: readonly { readonly field: string; readonly old: unknown; readonly new: unknown }[]
  }[]
  /** Things done by day (in the workspace's zone), by whom they fall to, and by kind of step. */
  readonly byDay: readonly (readonly [day: string, n: number])[]
  readonly byOwner: readonly (readonly [personId: string, n: number])[]
  readonly byKind: readonly (readonly [kind: string, n: number])[]
  readonly warnings: readonly RehearsalWarning[]
}

/** One run of a rehearsal as its sheet, with the values of that moment, and every text as it would read. */
export interface RehearsedSheet {
  readonly run: RehearsedRun
  readonly triggers: readonly string[]
  readonly mode: Group['mode']
  readonly seen: readonly Seen[]
  readonly lines: readonly RunLine[]
  readonly texts: readonly RehearsedText[]
}

/** A text that somebody gets: a task, a mail, a word in the app. */
export interface RehearsedText {
  readonly atMs: number
  readonly what: 'task' | 'mail' | 'text' | 'notice'
  readonly to: string
  readonly subject: string
  readonly body: string
}

const count = (into: Map<string, number>, key: string): void => {
  into.set(key, (into.get(key) ?? 0) + 1)
}

interface Readable {
  readonly document: RuleDocument
  readonly whole: Catalogue
  /** "3a2" of each step. */
  readonly labels: ReadonlyMap<string, string>
}

/**
 * The rules of a rehearsal as they are read, and what each run goes by: one that was begun before, the version it began
 * with.
 */
function reading({ world }: Rehearsal): {
  readonly rules: ReadonlyMap<number, Readable>
  readonly ruleOf: (run: OverlayRun) => Readable | undefined
  readonly nameOf: (ref: RecordRef) => string
} {
  const { catalogue } = world.base
  const readable = (document: RuleDocument): Readable => ({
    document,
    whole: withResults(document, catalogue),
    labels: new Map(placedSteps(document).map(({ step, label }) => [step.id, label])),
  })
  const rules = new Map(world.rules.map((rule) => [rule.ruleId, readable(rule.document)]))
  const older = new Map<number, Readable>()
  return {
    rules,
    nameOf: (ref) => String((world.read(ref) ?? world.base.read(ref))?.values.name ?? `${ref.object} ${ref.id}`),
    ruleOf({ run, below }) {
      if (!below) return rules.get(run.ruleId)
      let found = older.get(run.versionId)
      if (!found) older.set(run.versionId, (found = readable(below.rule.document)))
      return found
    },
  }
}

/** One run as its sheet; `null` when there is none with this number. */
export function sheetOf(rehearsal: Rehearsal, result: RehearsalResult, runId: number): RehearsedSheet | null {
  const { world } = rehearsal
  const { catalogue } = world.base
  const { ruleOf, nameOf } = reading(rehearsal)
  const found = world.runs[runId - 1]
  const run = result.runs.find((one) => one.id === runId)
  const rule = found && ruleOf(found)
  if (!found || !run || !rule) return null
  const { zone } = catalogue.workspace
  const names = { catalogue, object: run.ref.object }
  const person = (id: string): string => catalogue.person(id)?.name ?? id
  const waits = [...world.waits.values()].filter((wait) => wait.runId === runId)
  const own = <T extends { readonly runId: number }>(some: readonly T[]): readonly T[] =>
    some.filter((one) => one.runId === runId)
  return {
    run,
    triggers: rule.document.triggers.map((trigger) => sayTrigger(trigger, names)),
    mode: rule.document.conditions.mode,
    seen: found.end?.seen ?? [],
    lines: runLines({
      document: rule.document,
      catalogue: rule.whole,
      today: dateAt(world.atMs, zone),
      nameOf,
      waiting: new Map(
        waits.map((wait) => [
          wait.stepId,
          sayWait(wait.dueMs, zone, awaitedAt(rule.document, wait.stepId, rule.whole)),
        ]),
      ),
      done: [...(found.below?.open.done ?? []).map((step) => ({ ...step, atMs: found.atMs })), ...own(world.steps)],
    }),
    texts: [
      ...own(result.tasks).map((task): RehearsedText => ({
        atMs: task.atMs,
        what: 'task',
        to: task.assigneeId === null ? sayQueue(task.queue) : person(task.assigneeId),
        subject: task.title,
        body: task.notes,
      })),
      ...own(result.sends).map((mail): RehearsedText => ({
        atMs: mail.atMs,
        what: mail.what,
        to: mail.zone === null ? mail.recipient : `${mail.recipient}, ${sayTime(mail.atMs, mail.zone)} their time`,
        subject: mail.subject,
        body: mail.body,
      })),
      ...own(result.notices).map((notice): RehearsedText => ({
        atMs: notice.atMs,
        what: 'notice',
        to: person(notice.personId),
        subject: notice.subject,
        body: notice.body,
      })),
    ].sort((a, b) => a.atMs - b.atMs),
  }
}

export function resultOf(rehearsal: Rehearsal, fromMs: number): RehearsalResult {
  const { world } = rehearsal
  const { catalogue } = world.base
  const { zone } = catalogue.workspace
  const today = dateAt(world.atMs, zone)
  const { rules, ruleOf, nameOf } = reading(rehearsal)
  const stepsOf = new Map<number, RehearsedStep[]>()
  const [byDay, byOwner, byKind] = [new Map<string, number>(), new Map<string, number>(), new Map<string, number>()]
  const writes: RehearsalResult['writes'][number][] = []
  const nobody = new Map<number, { n: number; ref: RecordRef; text: string }>()
  for (const { runId, stepId, result, atMs } of world.steps) {
    const run = world.runs[runId - 1]
    const rule = run && ruleOf(run)
    if (!run || !rule) continue
    const step = stepById(rule.document.steps, stepId)
    if (!step) continue
    const list = stepsOf.get(runId) ?? []
    stepsOf.set(runId, list)
    list.push({
      atMs,
      stepId,
      label: rule.labels.get(stepId) ?? '',
      category: STEPS[step.kind].category,
      state: result.state,
      say: sayStepRecord(result, { catalogue: rule.whole, object: (result.on ?? run.run.ref).object }, today),
    })
    if (result.state === 'done') {
      if (
        (doesSomething(step.kind) || step.kind === 'stop') &&
        !result.wrote.some((wrote) => wrote.what === 'planned' || wrote.what === 'waited')
      ) {
        count(byDay, dateAt(atMs, zone))
        count(byKind, step.kind)
      }
      for (const wrote of result.wrote) {
        const { changed } = summaryOf(wrote)
        if (changed)
          writes.push({ atMs, runId, ref: changed.ref ?? result.on ?? run.run.ref, changes: changed.changes })
      }
    } else if (result.state === 'skipped' && (result.reason.code === 'nobody' || result.reason.code === 'left')) {
      const known = nobody.get(run.run.ruleId)
      nobody.set(run.run.ruleId, {
        n: (known?.n ?? 0) + 1,
        ref: known?.ref ?? run.run.ref,
        text: saySkip(result.reason),
      })
    }
  }
  // Of those that were begun before, the ones to which something happens.
  const shown = world.runs.filter(
    ({ id, end, below }) => !endedQuietly(end?.stop) && (!below || stepsOf.has(id) || end?.state !== 'waiting'),
  )
  const runs = shown.map(({ id, run, atMs, end }): RehearsedRun => ({
    id,
    ruleId: run.ruleId,
    ruleName: rules.get(run.ruleId)?.document.name ?? '',
    ref: run.ref,
    recordName: nameOf(run.ref),
    atMs,
    because: run.because,
    state: end?.state ?? 'running',
    stop: end?.stop ? sayStop(end.stop) : null,
    stopCode: end?.stop?.code ?? null,
    steps: stepsOf.get(id) ?? [],
  }))
  const tasks = world.tasks.map(
    ({ atMs, runId, ruleId, stepId, ref, title, notes, due, assigneeId, queue }): RehearsedTask => ({
      atMs,
      runId,
      ruleId,
      stepId,
      ref,
      recordName: nameOf(ref),
      title,
      notes,
      due,
      assigneeId,
      queue,
    }),
  )
  for (const task of tasks)
    count(byOwner, task.assigneeId ?? (task.queue === null ? sayQueue(null) : `${task.queue} queue`))
  return {
    fromMs,
    toMs: rehearsal.toMs,
    endMs: world.atMs,
    cut: rehearsal.cut,
    runs,
    keptOut: world.runs.filter(({ end }) => endedQuietly(end?.stop)).length,
    tasks,
    writes,
    sends: [
      ...[...world.messages.values()].map(({ atMs, runId, recipient, subject, body }) => ({
        atMs,
        runId,
        what: 'mail' as const,
        recipient,
        subject,
        body,
        zone: null,
      })),
      ...[...world.letters.values()].map(({ atMs, of, letter }) => ({
        atMs,
        runId: of.runId,
        what: letter.channel,
        recipient: `${letter.name} (${letter.address})`,
        subject: letter.subject,
        body: letter.text,
        zone: letter.zone,
      })),
    ],
    notices: world.notices.map(({ atMs, runId, personId, subject, body }) => ({
      atMs,
      runId,
      personId,
      subject,
      body,
    })),
    byDay: [...byDay].sort(([a], [b]) => a.localeCompare(b)),
    byOwner: [...byOwner].sort(([, a], [, b]) => b - a),
    byKind: [...byKind].sort(([, a], [, b]) => b - a),
    warnings: warningsOf(),
  }

  function warningsOf(): readonly RehearsalWarning[] {
    const found: RehearsalWarning[] = []
    const times = new Map<string, RehearsedTask[]>()
    for (const task of tasks) {
      const key = `${task.ruleId} ${task.stepId} ${task.ref.object} ${task.ref.id}`
      const list = times.get(key)
      if (list) list.push(task)
      else times.set(key, [task])
    }
    for (const [ruleId, rule] of rules) {
      const own = runs.filter((run) => run.ruleId === ruleId)
      const name = rule.document.name
      const many = [...times.values()].filter((list) => list.length > 1 && list[0]?.ruleId === ruleId)
      const most = many.reduce<RehearsedTask[]>((worst, list) => (list.length > worst.length ? list : worst), [])
      if (most[0])
        found.push({
          kind: 'again',
          ruleId,
          ref: most[0].ref,
          text: `“${name}” creates the same task more than once for ${figure(many.length)} ${nounOf(many.length, 'record')}: “${most[0].title}” ${most.length} times`,
        })
      const failed = own.filter((run) => run.state === 'failed')
      if (failed[0])
        found.push({
          kind: 'failed',
          ruleId,
          ref: failed[0].ref,
          text: `“${name}” fails for ${figure(failed.length)} ${nounOf(failed.length, 'record')}: ${failed[0].steps.at(-1)?.say ?? ''}`,
        })
      const gone = nobody.get(ruleId)
      if (gone)
        found.push({
          kind: 'nobody',
          ruleId,
          ref: gone.ref,
          text: `“${name}” has no one to assign ${figure(gone.n)} ${nounOf(gone.n, 'item')} to: ${gone.text}`,
        })
      const cut = own.filter((run) => run.stop?.startsWith('cut:'))
      if (cut[0])
        found.push({
          kind: 'cut',
          ruleId,
          ref: cut[0].ref,
          text: `“${name}” was stopped ${figure(cut.length)} ${nounOf(cut.length, 'time')}: ${cut[0].stop ?? ''}`,
        })
      if (own.length === 0)
        found.push({ kind: 'never', ruleId, ref: null, text: `“${name}” runs for no record in this period` })
    }
    for (const { line, problems } of rehearsal.refused)
      found.push({
        kind: 'script',
        ruleId: null,
        ref: null,
        text: `Assumption ${line + 1} could not be applied: ${problems.map(({ problem }) => sayProblem(problem)).join(' ')}`,
      })
    return found
  }
}
