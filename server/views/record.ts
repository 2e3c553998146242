import { isShown } from '../../core/fields/field'
import type { ActivityName } from '../../core/activities'
import { scoresOf, type ScoreShown } from '../engine/scorecards'
import { endedQuietly, type RunState } from '../../core/engine/world'
import { sayStop } from '../../core/language/reasons'
import type { Values } from '../../core/language/value'
import { sameRef, type RecordRef } from '../../core/records/kinds'
import { derivationsOf } from '../../core/derived/derivations'
import { seesRef, shownTo } from '../engine/seen'
import type { Scope } from '../../core/access/scope'
import type { ChangeEvent } from '../../core/records/record'
import { newest } from './newest'
import type { Workspace } from '../engine/workspace'
import type { TaskRow } from '../store/tasks'
import { aheadOf, type AheadLine } from './ahead'
import { journalPage, type JournalLine } from './journal'
import { noteOf } from './not-kept'
import { doerTeller, type Doer } from './words'
import { sayValue } from '../../core/fields/say-value'

/** So far ahead is looked on the page of a record; what should have come and has not yet stands there as well. */
const AHEAD_MS = 400 * 86_400_000
const WAITING_SINCE_MS = 30 * 86_400_000
const TIMELINE_MOST = 100
/** Told by what they were about: a run, a link, what happened, a task. */
const NOT_TOLD: readonly ChangeEvent['kind'][] = ['started', 'linked', 'happened', 'taskDone', 'replied']

export type TimelineEntry = { readonly atMs: number; readonly key: string } & (
  | {
      readonly what: 'change'
      readonly created: boolean
      readonly of: string | null
      readonly doer: Doer
      readonly changes: readonly { readonly label: string; readonly old: string; readonly new: string }[]
    }
  | {
      readonly what: 'task'
      readonly task: TaskRow
      readonly ruleName: string
      /** Who took back the run that made it, and when. */
      readonly undone: { readonly person: string; readonly atMs: number } | null
    }
  | { readonly what: 'activity'; readonly kind: ActivityName; readonly about: string }
  | { readonly what: 'done'; readonly task: TaskRow; readonly person: string }
  | {
      readonly what: 'link'
      readonly act: 'linked' | 'unlinked'
      readonly other: RecordRef
      readonly name: string
      readonly doer: Doer
    }
  /** It came back, or another record went into it or came out of it again: `of` names that one. */
  | {
      readonly what: 'went'
      readonly kind: 'deleted' | 'merged' | 'restored'
      readonly of: { readonly ref: RecordRef; readonly name: string; readonly canBringBack: boolean } | null
      readonly doer: Doer
    }
  | { readonly what: 'run'; readonly run: JournalLine; readonly text: string; readonly state: RunState }
)

export interface RecordPage {
  readonly ref: RecordRef
  readonly version: number
  readonly values: Values
  readonly links: readonly {
    readonly ref: RecordRef
    readonly name: string
    readonly role: string
    readonly main: boolean
  }[]
  readonly scores: readonly ScoreShown[]
  /** Who or what wrote each field last, by field key. */
  readonly writers: Readonly<Record<string, { readonly doer: Doer; readonly atMs: number }>>
  /** What rules will do with it, the soonest first. */
  readonly waiting: readonly AheadLine[]
  /** Open tasks, the soonest first. */
  readonly ahead: readonly TaskRow[]
  /** Said where earlier changes were deleted with their age. */
  readonly note: string | null
  /** Newest first. */
  readonly timeline: readonly TimelineEntry[]
}

/** The records a record is linked to, in both directions, main ones first; of those, the ones that may be seen. */
export const linksOf = (workspace: Workspace, ref: RecordRef, scope: Scope): RecordPage['links'] =>
  workspace.store.links.of(ref).flatMap((link) => {
    const other = sameRef(link.from, ref) ? link.to : link.from
    if (!seesRef(workspace, scope, other)) return []
    return [{ ref: other, name: workspace.nameOf(other), role: link.role, main: link.main && sameRef(link.from, ref) }]
  })

/** Who took a run back, and when; `null` when nobody did. */
function undoneOf(workspace: Workspace, runId: number): { readonly person: string; readonly atMs: number } | null {
  const run = workspace.store.runs.get(runId)
  return run === null || run.undoneAt === null
    ? null
    : { person: workspace.catalogue().person(run.undoneBy ?? '')?.name ?? '', atMs: run.undoneAt }
}

/** A record with its links, what is ahead of it and what happened to it, each with who or what did it. */
export function recordPage(workspace: Workspace, ref: RecordRef, scope: Scope = null): RecordPage | null {
  const { records, tasks, events } = workspace.store
  const record = records.read(ref)
  if (!record) return null
  const catalogue = workspace.catalogue()
  const tell = doerTeller(workspace, scope)
  // How a value that hangs on others came about tells of those, the hidden ones among them.
  const veiled = new Set(
    scope === null
      ? []
      : derivationsOf(catalogue)
          .overLinks(ref.object)
          .map(({ field }) => field.key),
  )
  const linked = linksOf(workspace, ref, scope)
  const ofRecord = tasks.ofRecord(ref)
  // What went into it is told with it; names of those stand beside what happened to them.
  const went = new Map(workspace.store.gone.wentInto(ref).map((row) => [row.id, row]))
  const family: readonly RecordRef[] = [ref, ...[...went.keys()].map((id) => ({ object: ref.object, id }))]
  const ofName = (id: number): string | null => went.get(id)?.name ?? null
  const tells = ({ kind, changes }: ChangeEvent): boolean =>
    !NOT_TOLD.includes(kind) &&
    (kind !== 'changed' || veiled.size === 0 || changes.some((change) => !veiled.has(change.field)))
  const past = family.flatMap((one) =>
    newest(
      TIMELINE_MOST,
      (limit, before) => events.ofRecord(one, limit, before),
      ({ seq }) => seq,
      tells,
    ),
  )
  const bySeq = new Map(past.map((event) => [event.seq, event]))
  const writers = Object.fromEntries(
    [...events.lastWriters(ref)].flatMap(([fieldId, seq]) => {
      const field = catalogue.fields(ref.object).find((one) => one.id === fieldId)
      const event = bySeq.get(seq) ?? events.get(seq)
      return field && event && !veiled.has(field.key)
        ? [[field.key, { doer: tell(event.cause), atMs: event.atMs }]]
        : []
    }),
  )
  const timeline: TimelineEntry[] = [
    ...past.map((event): TimelineEntry =>
      event.kind === 'deleted' || event.kind === 'merged' || event.kind === 'restored'
        ? {
            what: 'went',
            key: `e${event.seq}`,
            atMs: event.atMs,
            kind: event.kind,
            doer: tell(event.cause),
            of:
              event.ref.id === ref.id
                ? null
                : {
                    ref: event.ref,
                    name: ofName(event.ref.id) ?? '',
                    canBringBack: event.kind === 'merged' && went.get(event.ref.id)?.intoId === ref.id,
                  },
          }
        : {
            what: 'change',
            of: ofName(event.ref.id),
            key: `e${event.seq}`,
            atMs: event.atMs,
            created: event.kind === 'created',
            doer: tell(event.cause),
            changes: event.changes.flatMap((change) => {
              const then = catalogue.asOf(event.atMs)
              const field = then.fieldOnce(ref.object, change.field)
              return !field || (field.keptBy && !field.made) || !isShown(field) || veiled.has(field.key)
                ? []
                : [
                    {
                      label: field.label,
                      old: sayValue(change.old, field, then, record.values),
                      new: sayValue(change.new, field, then, record.values),
                    },
                  ]
            }),
          },
    ),
    ...ofRecord.map((task): TimelineEntry => ({
      what: 'task',
      key: `t${task.id}`,
      atMs: task.createdAt,
      task,
      ruleName: workspace.store.rules.get(task.ruleId)?.draft.name ?? '',
      undone: task.state === 'withdrawn' ? undoneOf(workspace, task.runId) : null,
    })),
    ...family
      .flatMap((one) => workspace.store.activities.newest(one, TIMELINE_MOST))
      .map(({ id, kind, about, atMs }): TimelineEntry => ({ what: 'activity', key: `h${id}`, atMs, kind, about })),
    ...ofRecord.flatMap((task): TimelineEntry[] =>
      task.doneAt === null
        ? []
        : [
            {
              what: 'done',
              key: `d${task.id}`,
              atMs: task.doneAt,
              task,
              person: catalogue.person(task.doneBy ?? '')?.name ?? '',
            },
          ],
    ),
    ...family
      .flatMap((one) =>
        newest(
          TIMELINE_MOST,
          (limit, before) => workspace.store.links.acts(one, limit, before),
          ({ id }) => id,
          (act) => seesRef(workspace, scope, act.other),
        ),
      )
      .map((act): TimelineEntry => ({
        what: 'link',
        key: `l${act.id}`,
        atMs: act.atMs,
        act: act.act,
        other: act.other,
        name: workspace.nameOf(act.other),
        doer: tell(act.cause),
      })),
    ...family
      .flatMap(
        (one) => journalPage(workspace, { object: one.object, recordId: one.id, limit: TIMELINE_MOST }, scope).lines,
      )
      .flatMap((run): TimelineEntry[] => {
        if (run.state !== 'failed' && run.state !== 'stopped') return []
        const stop = workspace.store.runs.get(run.id)?.stop
        if (endedQuietly(stop)) return []
        return [
          {
            what: 'run',
            key: `r${run.id}`,
            atMs: run.lastMs,
            run,
            // What is shown in front of it says that it failed.
            text: stop ? sayStop(stop) : run.outcome.replace(/^failed: /, ''),
            state: run.state,
          },
        ]
      }),
  ]
  return {
    ref,
    version: record.version,
    values: shownTo(workspace, scope)(record).values,
    links: linked,
    writers,
    scores: scoresOf(workspace, ref, scope),
    waiting: aheadOf(workspace, {
      fromMs: workspace.clock.nowMs() - WAITING_SINCE_MS,
      toMs: workspace.clock.nowMs() + AHEAD_MS,
      ref,
      limit: 50,
      scope,
    }).lines,
    ahead: ofRecord
      .filter((task) => task.state === 'open')
      .sort((a, b) => (a.due < b.due ? -1 : a.due > b.due ? 1 : a.id - b.id)),
    note: noteOf(workspace, ref, 'changes'),
    timeline: timeline
      .sort((a, b) => b.atMs - a.atMs || b.key.localeCompare(a.key, 'en', { numeric: true }))
      .slice(0, TIMELINE_MOST),
  }
}
