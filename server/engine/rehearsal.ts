import { UNKNOWN_ADDRESS, type AddressFacts, type MessageChannel } from '../../core/messages/guards'
import type { Line } from '../../core/messages/letter'
import { segmentsWatched } from '../../core/rules/uses'
import { compileGroup, type CompiledGroup } from '../../core/conditions/compile'
import type { Group } from '../../core/conditions/document'
import type { ActiveRule } from '../../core/engine/matcher'
import type { RunIdentity, Wait } from '../../core/engine/world'
import { momentAt } from '../../core/engine/moment'
import { Catalogue, type NamedSegment } from '../../core/fields/catalogue'
import type { Value, Values } from '../../core/language/value'
import { matchForm, type MatchPart } from '../../core/linking/link-by'
import type { Activity } from '../../core/records/activity'
import type { ActivityName } from '../../core/activities'
import type { ObjectKind, RecordKind, RecordRef } from '../../core/records/kinds'
import type { Cause, ChangeEvent, RecordSnapshot } from '../../core/records/record'
import { Rehearsal, type RehearsalOrder, type ScriptLine } from '../../core/rehearsal/rehearse'
import type { RuleDocument } from '../../core/rules/document'
import { segmentKey } from '../../core/derived/segment-key'
import { activityIn } from '../../core/signals/activity'
import { subjectOf, type LinkedRecord, type LinkEnd } from '../../core/records/subject'
import { segmentField } from './segment-fields'
import { addDays, dateAt } from '../../core/time/dates'
import { instantAt } from '../../core/time/moments'
import { backfillIds, type BackfillOrder } from './standing'
import type { Workspace } from './workspace'
import type { Moment } from '../../core/conditions/moment'
import type { Base, WaitingBelow } from '../../core/world/base'

/** Rehearsals over the records of the workspace. Nothing is written and nothing leaves. */

export interface RuleToRehearse {
  readonly ruleId: number
  readonly document: RuleDocument
}

/** What is assumed to happen, on a day counted from the beginning. */
export interface Assumed {
  readonly day: number
  /** Minutes from midnight. */
  readonly minute: number
  /** A record; `null` for each that takes part. */
  readonly id: number | null
  readonly values: Readonly<Record<string, Value>>
  /** What is done, by the record or by those of a kind that are linked to it, in place of a change of values. */
  readonly does?: { readonly by: RecordKind; readonly kind: ActivityName; readonly about: string } | undefined
  /** A task of the record whose title begins so is done, with answers where it asks for something. */
  readonly finishes?: { readonly title: string; readonly outcome: string; readonly answers: Values } | undefined
}

export interface Wanted {
  readonly rules: readonly RuleToRehearse[]
  readonly object: ObjectKind
  /** The records that take part: some, those that match, or all. */
  readonly ids: readonly number[] | null
  readonly filter: Group | null
  /** Days forward from now, or back over what really happened. */
  readonly days: number
  readonly back: boolean
  readonly script: readonly Assumed[]
  /** For a forecast: what the rule is run for at once, as when it is switched on; and it ends sooner. */
  readonly forecast?: { readonly backfill: BackfillOrder | null }
}

/** So many records can be named one by one as those that take part. */
const NAMED_MOST = 50_000
const LATELY_MOST = 2000

/** The workspace as what lies below. `fresh` forgets what the rules did before: for going through the past again. */
class WorkspaceBase implements Base {
  readonly catalogue: Catalogue

  constructor(
    private readonly workspace: Workspace,
    private readonly fresh: boolean,
    rules: readonly RuleToRehearse[],
    private readonly startMs: number,
  ) {
    const own = workspace.catalogue()
    const named = new Set(rules.flatMap(({ document }) => segmentsWatched(document)))
    const missing = [...named].flatMap((id) => {
      const segment = own.segment(id)
      return segment && !own.field(segment.object, segmentKey(id)) ? [segment] : []
    })
    this.catalogue =
      missing.length === 0
        ? own
        : new Catalogue({ ...own.data, fields: [...own.data.fields, ...missing.map(segmentField)] })
    this.segments = missing.map((segment) => ({
      ...segment,
      group: compileGroup(segment.filter, segment.object, this.catalogue),
    }))
  }

  /** Segments that no rule goes by yet: who is in them when it begins. */
  private readonly segments: readonly (NamedSegment & { readonly group: CompiledGroup })[]

  /** A record with whether it is in those segments. */
  inSegments(record: RecordSnapshot): RecordSnapshot {
    const own = this.segments.filter((segment) => segment.object === record.object)
    if (own.length === 0) return record
    const linked = (ref: RecordRef, object: ObjectKind): readonly LinkedRecord[] =>
      this.linked(ref, object).flatMap(({ id, main, role }) => {
        const found = this.store.records.read({ object, id })
        return found ? [{ record: found, main, role }] : []
      })
    const moment = momentAt(this.startMs, this.catalogue.workspace)
    return {
      ...record,
      values: {
        ...record.values,
        ...Object.fromEntries(
          own.map(({ id, group }) => [
            segmentKey(id),
            group.test(subjectOf(record, { linked, activities: (ref) => this.activities(ref) }), moment),
          ]),
        ),
      },
    }
  }

  private get store() {
    return this.workspace.store
  }
  /** What was read last: all of a rehearsal sees the same records, and most are asked for several times in a row. */
  private readonly lately = new Map<string, RecordSnapshot | null>()
  read(ref: RecordRef): RecordSnapshot | null {
    const key = `${ref.object}:${ref.id}`
    const known = this.lately.get(key)
    if (known !== undefined) return known
    const record = this.store.records.read(ref)
    const found = record && this.inSegments(record)
    if (this.lately.size >= LATELY_MOST) this.lately.clear()
    this.lately.set(key, found)
    return found
  }

  linked(ref: RecordRef, object: ObjectKind): readonly LinkEnd[] {
    return this.store.links.linked(ref, object)
  }
  least(object: ObjectKind, field: string, from: string | number): string | number | null {
    return this.store.records.least(object, field, from)
  }
  holding(
    object: ObjectKind,
    field: string,
    values: readonly (string | number)[],
    afterId: number,
    limit: number,
  ): readonly RecordSnapshot[] {
    return this.store.records.holding(object, field, values, afterId, limit)
  }
  between(
    object: ObjectKind,
    field: string,
    from: number,
    to: number,
    afterId: number,
    limit: number,
  ): readonly RecordSnapshot[] {
    return this.store.records.between(object, field, from, to, afterId, limit)
  }
  matching(object: ObjectKind, group: Group, moment: Moment, afterId: number, limit: number): readonly number[] {
    return this.store.records.matchingAfter(
      object,
      this.store.records.where(group, object, this.catalogue, moment),
      afterId,
      limit,
    )
  }

  /** Every day goes through all records: which there are is read once, and stays so for this rehearsal. */
  ids(object: ObjectKind, afterId: number, limit: number): readonly number[] {
    let ids = this.idsOf.get(object)
    if (!ids) {
      const every = { test: { text: '1', bound: [] } }
      this.idsOf.set(object, (ids = this.store.records.matchingAfter(object, every, 0, Number.MAX_SAFE_INTEGER)))
    }
    let [low, high] = [0, ids.length]
    while (low < high) {
      const middle = (low + high) >>> 1
      if ((ids[middle] ?? 0) <= afterId) low = middle + 1
      else high = middle
    }
    return ids.slice(low, low + limit)
  }
  behind(object: ObjectKind, afterId: number, limit: number): readonly RecordSnapshot[] {
    const found = this.store.records.behind(object, afterId, limit).map((record) => this.inSegments(record))
    if (this.lately.size + found.length > LATELY_MOST) this.lately.clear()
    for (const record of found) this.lately.set(`${object}:${record.id}`, record)
    return found
  }
  private readonly idsOf = new Map<ObjectKind, readonly number[]>()

  alike(object: ObjectKind, key: string, part: MatchPart, form: string): readonly RecordSnapshot[] {
    const field = this.catalogue.field(object, key)
    return field
      ? this.store.records
          .alike(field, part, form)
          .filter((record) => matchForm(record.values[key] ?? null, field, part, this.catalogue) === form)
      : []
  }

  setBy(ref: RecordRef, key: string): Cause | null {
    const field = this.catalogue.field(ref.object, key)
    return field ? this.store.events.lastWriter(ref, field.id) : null
  }

  activities(ref: RecordRef): readonly Activity[] {
    return this.store.activities.of(ref)
  }
  past(ref: RecordRef, key: string): readonly Value[] {
    return this.workspace.world.past(ref, key, Number.MAX_SAFE_INTEGER)
  }
  ran({ ruleId, ref, occurrence }: RunIdentity): boolean {
    return !this.fresh && this.store.runs.has(ruleId, ref, occurrence)
  }
  lastRunAt(ruleId: number, ref: RecordRef): number | null {
    return this.fresh ? null : this.store.runs.lastAt(ruleId, ref, Number.MAX_SAFE_INTEGER)
  }
  openTask(ruleId: number, stepId: string, ref: RecordRef, personId?: string): string | null {
    return this.fresh ? null : this.store.tasks.openOf(ruleId, stepId, ref, personId)
  }
  addressFacts(channel: MessageChannel, address: string, who: RecordRef, ruleId: number): AddressFacts {
    const facts = this.workspace.world.addressFacts(channel, address, who, ruleId)
    return this.fresh ? { ...UNKNOWN_ADDRESS, stopped: facts.stopped } : facts
  }
  lineOf(number: string): Line {
    return this.workspace.world.lineOf(number)
  }
  firstSentTo(runId: number, who: RecordRef): number | null {
    return this.fresh ? null : this.workspace.world.firstSentTo(runId, who)
  }
  sentByStep(runId: number, stepId: string): readonly string[] {
    return this.fresh ? [] : this.workspace.world.sentByStep(runId, stepId)
  }
  openTasks(personId: string): number {
    return this.fresh ? 0 : this.store.tasks.openCount(personId)
  }
  /** What happened in the past is gone through from its beginning; forward, what waits goes on. */
  waiting(ruleIds: readonly number[]): readonly WaitingBelow[] {
    if (this.fresh) return []
    const { world } = this.workspace
    const found = new Map<number, WaitingBelow & { waits: Wait[] }>()
    for (const ruleId of ruleIds) {
      for (const wait of this.store.waits.allOf(ruleId)) {
        const known = found.get(wait.runId)
        if (known) known.waits.push(wait)
        else {
          const run = this.store.runs.get(wait.runId)
          const [open, rule] = [world.openRunOf(wait.runId), world.ruleOfRun(wait.runId)]
          if (run && open && rule)
            found.set(wait.runId, {
              run: {
                ruleId,
                ref: wait.ref,
                occurrence: run.occurrence,
                versionId: run.versionId,
                eventSeq: run.eventSeq,
                because: run.because,
                chainId: run.chainId,
                depth: run.depth,
              },
              atMs: run.startedAt,
              open,
              rule,
              waits: [wait],
            })
        }
      }
    }
    return [...found.values()]
  }

  turn(ruleId: number, stepId: string): number {
    return this.fresh ? 0 : this.store.notices.turn(ruleId, stepId)
  }
}

/** Sets a rehearsal up over the workspace as it is now. */
export function setUpRehearsal(workspace: Workspace, wanted: Wanted): Rehearsal {
  const { records } = workspace.store
  const { zone } = workspace.catalogue().workspace
  const nowMs = workspace.clock.nowMs()
  const rules = wanted.rules.map(({ ruleId, document }, i): ActiveRule => ({
    ruleId,
    versionId: ruleId,
    order: workspace.store.rules.get(ruleId)?.order ?? i,
    document,
  }))
  const ids =
    wanted.ids ??
    (wanted.filter
      ? records.matchingAfter(
          wanted.object,
          records.where(wanted.filter, wanted.object, workspace.catalogue(), workspace.moment()),
          0,
          NAMED_MOST,
        )
      : null)
  const only = ids && ids.map((id): RecordRef => ({ object: wanted.object, id }))
  const fromMs = wanted.back ? nowMs - wanted.days * 86_400_000 : nowMs
  const toMs = wanted.back ? nowMs : nowMs + wanted.days * 86_400_000
  const today = dateAt(fromMs, zone)
  const assumed = wanted.script.map(({ day, minute, id, values, does, finishes }): ScriptLine => ({
    atMs: Math.max(fromMs, instantAt(addDays(today, day), minute, zone)),
    object: wanted.object,
    id,
    values,
    ...(finishes
      ? { does: 'finish', task: finishes }
      : does
        ? { does: 'act', activity: { ...does, data: {} } }
        : { does: 'set' }),
  }))
  const base = new WorkspaceBase(workspace, wanted.back, wanted.rules, fromMs)
  const order: RehearsalOrder = {
    rules,
    fromMs,
    moves: [{ toMs, down: false }],
    only,
    script: [...(wanted.forecast?.backfill ? startsOf(workspace, rules, wanted.forecast.backfill) : []), ...assumed],
    ...(wanted.forecast ? { runsMost: FORECAST_RUNS_MOST } : {}),
  }
  if (!wanted.back) return new Rehearsal(base, order)
  const past = pastOf(
    workspace,
    fromMs,
    new Set(wanted.rules.map((rule) => rule.ruleId)),
    only && new Set(only.map(({ object, id }) => `${object}:${id}`)),
  )
  return new Rehearsal(
    base,
    { ...order, script: [...past.script, ...assumed] },
    past.before.map(({ ref, record }) => ({ ref, record: record && base.inSegments(record) })),
  )
}

/** A forecast ends when it has come to so many runs: nobody needs more to see that they are too many. */
const FORECAST_RUNS_MOST = 20_000

/** The existing records for which a rule runs when it is switched on, as what somebody wants at once. */
function startsOf(workspace: Workspace, rules: readonly ActiveRule[], backfill: BackfillOrder): readonly ScriptLine[] {
  const { object, again } = backfill
  return rules.flatMap(({ ruleId }) => {
    const went = again ? new Set<number>() : workspace.store.runs.wentThrough(ruleId, object, null)
    return backfillIds(workspace, backfill, 0, FORECAST_RUNS_MOST + went.size)
      .filter((id) => !went.has(id))
      .map((id): ScriptLine => ({
        atMs: workspace.clock.nowMs(),
        object,
        id,
        does: 'start',
        values: {},
        starts: { ruleId, triggerId: null },
      }))
  })
}

/**
 * What really happened since an instant, as something to go through again, and the records as they were then. What the
 * rules themselves did is left out: they do it again. Links are those of today.
 */
function pastOf(
  workspace: Workspace,
  fromMs: number,
  rules: ReadonlySet<number>,
  only: ReadonlySet<string> | null,
): {
  readonly script: readonly ScriptLine[]
  readonly before: readonly { readonly ref: RecordRef; readonly record: RecordSnapshot | null }[]
} {
  const { events, records } = workspace.store
  const catalogue = workspace.catalogue()
  const now = new Map<string, { ref: RecordRef; values: Record<string, Value> | null }>()
  const script: ScriptLine[] = []
  const all: ChangeEvent[] = [...events.from(fromMs)]
  const standing = (ref: RecordRef): { ref: RecordRef; values: Record<string, Value> | null } => {
    const key = `${ref.object}:${ref.id}`
    let found = now.get(key)
    if (!found) now.set(key, (found = { ref, values: { ...records.read(ref)?.values } }))
    return found
  }
  for (const event of all.toReversed()) {
    const at = standing(event.ref)
    if (event.kind === 'created') at.values = null
    else if (event.kind === 'changed' || event.kind === 'deleted')
      for (const { field, old } of event.changes) at.values = { ...at.values, [field]: old }
  }
  // Of a kind that does not take part, each may do something that those hear of which do.
  const takesPart = (ref: RecordRef): boolean =>
    only === null || only.has(`${ref.object}:${ref.id}`) || ![...only].some((one) => one.startsWith(`${ref.object}:`))
  for (const { kind, ref, changes, cause, atMs } of all) {
    if (cause.by === 'rule' && rules.has(cause.ruleId)) continue
    const done = kind === 'happened' ? activityIn(changes) : null
    // Those it is linked to hear of it by their links.
    if (done?.by === ref.object && takesPart(ref))
      script.push({
        atMs,
        object: ref.object,
        id: ref.id,
        does: 'act',
        values: {},
        activity: { kind: done.kind, about: done.about, data: done.data, doneMs: done.atMs },
      })
    if (only && ref.object !== 'company' && !only.has(`${ref.object}:${ref.id}`) && kind !== 'created') continue
    if (kind !== 'created' && kind !== 'changed' && kind !== 'deleted') continue
    const values = Object.fromEntries(
      changes.flatMap(({ field, new: value }) => {
        const known = catalogue.field(ref.object, field)
        return known && !known.keptBy && !(kind === 'created' && value === null) ? [[field, value]] : []
      }),
    )
    script.push({
      atMs,
      object: ref.object,
      id: ref.id,
      does: kind === 'created' ? 'create' : kind === 'deleted' ? 'delete' : 'set',
      values,
      linkTo: [],
    })
  }
  return {
    script,
    before: [...now.values()].map(({ ref, values }) => ({ ref, record: values && { ...ref, version: 1, values } })),
  }
}
