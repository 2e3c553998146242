import { nextDue, planTimers, workDue } from '../engine/clockwork'
import { derivationsOf, type Derived } from '../derived/derivations'
import { Matcher, type ActiveRule } from '../engine/matcher'
import { processEvent } from '../engine/process-event'
import type { Values } from '../language/value'
import type { PlacedProblem } from '../language/problems'
import { sameRef, type ObjectKind, type RecordKind, type RecordRef } from '../records/kinds'
import type { ActivityScript } from '../records/activity'
import type { Cause, RecordSnapshot } from '../records/record'
import { goesBy, segmentsWatched } from '../rules/uses'
import { dateAt } from '../time/dates'
import { callActivity, nextTry, type CallOutcome } from '../asks/call'
import { readAnswered } from '../rules/answered'
import { Overlay } from '../world/overlay'
import type { OverlayTask } from '../world/overlay-runs'
import type { Base } from '../world/base'

/**
 * A rehearsal: the engine itself over a copy of the records, with a clock that jumps from one moment at which something
 * happens to the next. It can be taken in pieces, and stopped between them.
 */

/** Something that is assumed to happen on the way. */
export interface ScriptLine {
  readonly atMs: number
  readonly object: ObjectKind
  /** The record it happens to; `null` for each of those that take part. */
  readonly id: number | null
  readonly does: 'set' | 'create' | 'delete' | 'start' | 'link' | 'unlink' | 'finish' | 'act'
  readonly values: Values
  /** Records that one that is created is linked to; or the one that links to it come and go with. */
  readonly linkTo?: readonly RecordRef[]
  /** What the title of the task that somebody does begins with, and what came of it. */
  readonly task?: { readonly title: string; readonly outcome: string; readonly answers?: Values }
  readonly activity?: ActivityScript
  /** The rule that somebody starts by hand, and its trigger for that. */
  readonly starts?: { readonly ruleId: number; readonly triggerId: string | null }
}

/** The clock goes to a moment; `down` when nothing runs until it is there. */
export interface ClockMove {
  readonly toMs: number
  readonly down: boolean
}

export interface RehearsalOrder {
  readonly rules: readonly ActiveRule[]
  readonly fromMs: number
  /** In their order; the last is where it ends. */
  readonly moves: readonly ClockMove[]
  /** The records that take part; all, when left open. */
  readonly only: readonly RecordRef[] | null
  readonly script: readonly ScriptLine[]
  /** It ends when it has come to more runs than these; 100,000, when left open. */
  readonly runsMost?: number
}

/** A rehearsal ends when it has come to so many runs: nobody reads more, and a mistake would fill the machine. */
export const RUNS_MOST = 100_000
const PIECE = 200
const SOMEBODY: Cause = { by: 'person', personId: '' }

/** Values that hang on the day and that rules look at, or those that hang on them. */
function dayFields({ catalogue }: Base, rules: readonly ActiveRule[]): ReadonlySet<Derived> {
  const derivations = derivationsOf(catalogue)
  const looksAt = ({ field }: Derived): boolean =>
    rules.some(
      ({ document }) =>
        goesBy(document, field.object, field.key, catalogue) ||
        (field.made?.by === 'segment' && segmentsWatched(document).includes(field.made.segment)),
    )
  return new Set(derivations.byDay.filter((one) => looksAt(one) || derivations.behind([one.field]).some(looksAt)))
}

export class Rehearsal {
  readonly world: Overlay
  /** What the script wanted and could not be done, with its line. */
  readonly refused: { readonly line: number; readonly problems: readonly PlacedProblem[] }[] = []
  private readonly matcher: Matcher
  private readonly script: readonly (ScriptLine & { readonly line: number })[]
  private position = 0
  private move = 0
  private line = 0
  /** Why it ended early; `null` while it goes on or came to its end. */
  cut: string | null = null

  /** `before` are records that were otherwise when it begins; `null` for one that was not there. */
  constructor(
    base: Base,
    private readonly order: RehearsalOrder,
    before: readonly { readonly ref: RecordRef; readonly record: RecordSnapshot | null }[] = [],
  ) {
    this.world = new Overlay(base, order.fromMs)
    for (const { ref, record } of before) {
      if (record) this.world.lay(record)
      else this.world.lift(ref)
    }
    this.world.rules = order.rules
    this.world.only = order.only && new Set(order.only.map(({ object, id }) => `${object}:${id}`))
    // While nothing runs days are passed over, and what they bring comes in one go.
    if (!order.moves.some(({ down }) => down)) this.world.aheadToMs = this.toMs
    this.script = order.script
      .map((line, i) => ({ ...line, line: i }))
      .sort((a, b) => a.atMs - b.atMs || a.line - b.line)
    this.matcher = new Matcher(order.rules, base.catalogue)
    this.world.matcher = this.matcher
    const { workspace } = base.catalogue
    const wanted = dayFields(base, order.rules)
    this.world.keepsDaily = (one) => wanted.has(one)
    this.world.setDayTurn({ through: dateAt(order.fromMs, workspace.zone), turning: null, object: null, afterId: 0 })
    planTimers(this.world, this.matcher)
    for (const below of base.waiting(order.rules.map((rule) => rule.ruleId)))
      if (!this.world.only || this.world.only.has(`${below.run.ref.object}:${below.run.ref.id}`)) this.world.take(below)
  }

  get startMs(): number {
    return this.order.fromMs
  }

  get toMs(): number {
    return this.order.moves.at(-1)?.toMs ?? this.order.fromMs
  }

  /** How far it has come, from 0 to 1. */
  progress(): number {
    const { fromMs } = this.order
    return this.toMs > fromMs ? Math.min(1, (this.world.atMs - fromMs) / (this.toMs - fromMs)) : 1
  }

  /** Goes on until there is enough for now; answers whether it has come to its end. */
  goOn(enough: () => boolean): boolean {
    for (;;) {
      const move = this.order.moves[this.move]
      if (!move || this.cut !== null) return true
      if (!this.next(move)) {
        this.world.atMs = Math.max(this.world.atMs, move.toMs)
        this.move++
        continue
      }
      const most = this.order.runsMost ?? RUNS_MOST
      if (this.world.runs.length > most) this.cut = `more than ${most.toLocaleString('en')} runs`
      if (enough()) return false
    }
  }

  /** The next thing on the way to a moment; answers whether there was one. */
  private next({ toMs, down }: ClockMove): boolean {
    const line = this.script[this.line]
    const due = nextDue(this.world)
    const lineMs = line && line.atMs <= toMs ? line.atMs : Infinity
    // While nothing runs people go on working, and what fell due waits until something runs again.
    const dueMs = due === null || due > toMs ? Infinity : down ? toMs : due
    if (lineMs === Infinity && dueMs === Infinity) return false
    if (line && lineMs <= dueMs) {
      this.world.atMs = Math.max(this.world.atMs, lineMs)
      this.line++
      this.act(line)
      if (!down) this.drain()
      return true
    }
    this.world.atMs = Math.max(this.world.atMs, dueMs)
    this.drain()
    this.world.atomically(() => workDue(this.world, this.matcher, PIECE))
    this.drain()
    return true
  }

  private act(given: ScriptLine & { readonly line: number }): void {
    const { object, id, does, values, linkTo = [], starts, task, activity, line } = given
    const refs: readonly RecordRef[] =
      id !== null ? [{ object, id }] : (this.order.only ?? []).filter((ref) => ref.object === object)
    const chain = (n: number) => ({ chainId: `script-${line}-${n}`, depth: 0 })
    if (does === 'create') {
      const made = this.world.create(object, values, linkTo, SOMEBODY, chain(0), ...(id === null ? [] : [id]))
      if (!made.ok) this.refused.push({ line, problems: made.problems })
      return
    }
    refs.forEach((ref, n) => {
      if (does === 'delete') this.world.remove(ref, SOMEBODY, chain(n))
      else if (does === 'link') for (const to of linkTo) this.world.link(ref, to)
      else if (does === 'unlink') for (const to of linkTo) this.world.unlink(ref, to)
      else if (does === 'finish') {
        for (const one of this.world.tasks)
          if (task && one.open && sameRef(one.ref, ref) && one.title.startsWith(task.title))
            this.finish(one, task, line)
      } else if (does === 'act') {
        if (activity) for (const who of this.doers(ref, activity.by)) this.world.act(who, activity)
      } else if (does === 'start') {
        if (starts) this.world.startByHand(ref, { ...starts, answers: values }, chain(n))
      } else {
        const written = this.world.write(ref, values, SOMEBODY, chain(n))
        if (!written.ok) this.refused.push({ line, problems: written.problems })
      }
    })
  }

  /** Somebody does a task; one that asks something is done with an answer that fits, and a call may be tried again. */
  private finish(task: OverlayTask, { outcome, answers = {} }: NonNullable<ScriptLine['task']>, line: number): void {
    if (!task.asks) return this.world.finishTask(task.id, outcome, SOMEBODY)
    const read = readAnswered(task.asks, answers, task.ref.object, this.world.catalogue())
    if ('problems' in read) {
      this.refused.push({ line, problems: read.problems })
      return
    }
    const { values, said } = read.answered
    if (task.asks.about === 'call') {
      const { asks } = task
      this.world.act(asks.contact, callActivity(task.title, values))
      const next = nextTry(asks, values.outcome as CallOutcome, this.world.atMs + asks.pauseMs)
      if (next) return this.world.askAgain(task.id, next)
    }
    this.world.finishTask(task.id, said, SOMEBODY, values)
  }

  /** Who does something that is said of a record: it by itself, or those of a kind that are linked to it. */
  private doers(ref: RecordRef, by: RecordKind | undefined): readonly RecordRef[] {
    if (by === undefined || by === ref.object) return [ref]
    return this.world.linked(ref, by).map(({ record: { id } }) => ({ object: by, id }))
  }

  /** Lets rules see every event that none has seen yet. */
  private drain(): void {
    for (let event = this.world.events[this.position]; event; event = this.world.events[this.position]) {
      this.position++
      processEvent(this.world, this.matcher, event)
      const { cause, ref, changes } = event
      if (cause.by === 'derived' && cause.of === null && !changes.some((change) => this.matcher.listens(ref, change)))
        this.world.forget(event.seq)
    }
  }
}
