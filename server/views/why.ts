import { capital } from '../../core/language/nouns'
import { compileRule } from '../../core/engine/matcher'
import { waysOf } from '../../core/engine/ways'
import { compileGroup, type Seen } from '../../core/conditions/compile'
import type { RuleDocument } from '../../core/rules/document'
import { sayTrigger } from '../../core/rules/describe'
import { isEmpty } from '../../core/language/value'
import { TRIGGERS } from '../../core/rules/triggers'
import { OBJECT_WORDS, type RecordRef } from '../../core/records/kinds'
import { askingRun, valuesBefore } from '../../core/records/subject'
import type { ChangeEvent, RecordSnapshot } from '../../core/records/record'
import type { Scope } from '../../core/access/scope'
import { derivationsOf } from '../../core/derived/derivations'
import type { Workspace } from '../engine/workspace'
import { momentAt } from '../../core/engine/moment'
import { endedQuietly } from '../../core/engine/world'
import { sayInstant } from '../../core/time/say'
import type { StoredRule } from '../store/rules'
import { journalPage, type JournalLine } from './journal'
import { noteOf } from './not-kept'
import { doerTeller, type Doer } from './words'
import { fieldWord, sayValue } from '../../core/fields/say-value'

/** So far back the changes of a record are gone through. */
const LOOKED_AT_MOST = 500
const RUNS_SHOWN = 5

/** Whether a rule ran for a record, and if not, the first reason why. */
export interface Why {
  readonly ruleId: number
  readonly ruleName: string
  readonly state: StoredRule['state']
  readonly ran: boolean
  /** The answer in one sentence. */
  readonly answer: string
  /** Its last runs for this record, newest first. */
  readonly runs: readonly JournalLine[]
  /** The conditions with the values they would see: of the moment at which it could have started, or of now. */
  readonly seen: readonly Seen[]
  readonly seenAt: number | null
  readonly mode: 'all' | 'any' | 'none'
  readonly holds: boolean
}

/** Every condition of a document with the value it sees on one record, unsaved edits included. */
export function seeRecord(
  workspace: Workspace,
  rule: RuleDocument,
  id: number,
): {
  readonly name: string
  readonly holds: boolean
  readonly seen: readonly Seen[]
  readonly ways: readonly string[]
} | null {
  const record = workspace.store.records.read({ object: rule.object, id })
  if (!record) return null
  const compiled = compileRule({ ruleId: 0, versionId: 0, order: 0, document: rule }, workspace.catalogue())
  const subject = workspace.subject(record)
  const moment = workspace.moment()
  return {
    name: String(record.values.name ?? ''),
    holds: compiled.conditions.test(subject, moment),
    seen: compiled.conditions.explain(subject, moment),
    ways: waysOf({ world: workspace.world, rule: compiled, own: record, moment, before: null, run: null }, record),
  }
}

/** The newest change of a record that would start a rule, with what the record held then. */
function lastStart(
  workspace: Workspace,
  rule: RuleDocument,
  record: RecordSnapshot,
): { readonly event: ChangeEvent; readonly then: RecordSnapshot; readonly because: string } | null {
  const names = { catalogue: workspace.catalogue(), object: rule.object }
  const triggers = rule.triggers.map((trigger) => ({
    trigger,
    test: TRIGGERS[trigger.kind].compile(trigger.params, names),
  }))
  let { values } = record
  for (const event of workspace.store.events.ofRecord(record, LOOKED_AT_MOST)) {
    const hit = triggers.find(({ test }) => test(event))
    if (hit)
      return {
        event,
        then: { ...record, values },
        because: TRIGGERS[hit.trigger.kind].because(hit.trigger.params, event, names),
      }
    values = valuesBefore(values, event.changes)
  }
  return null
}

/** What came near to starting a rule, of the newest changes of a record: what it was, and what kept it from it. */
function nearlyWords(workspace: Workspace, rule: RuleDocument, record: RecordSnapshot): string {
  for (const event of workspace.store.events.ofRecord(record, LOOKED_AT_MOST))
    for (const { kind, params } of rule.triggers) {
      const words = TRIGGERS[kind].nearly(params, event, { catalogue: workspace.catalogue(), object: rule.object })
      if (words !== null) return ` ${capital(words)} (${sayInstant(event.atMs, workspace.catalogue().workspace.zone)}).`
    }
  return ''
}

/** For rules that go by the clock: when its moment comes for a record, or why it does not; empty for others. */
function momentWords(workspace: Workspace, rule: RuleDocument, record: RecordSnapshot): string {
  const { world } = workspace
  const catalogue = workspace.catalogue()
  const nowMs = workspace.clock.nowMs()
  const clocks = rule.triggers.flatMap(
    (one) => TRIGGERS[one.kind].clock(one.params, { catalogue, object: rule.object }, rule.conditions) ?? [],
  )
  if (clocks.length === 0) return ''
  const moments = clocks.flatMap((clock) => clock.momentOf(world, record, nowMs) ?? [])
  if (moments.length > 0) return ` It will run on ${sayInstant(Math.min(...moments), catalogue.workspace.zone)}.`
  const [field] = clocks.flatMap((clock) => catalogue.field(rule.object, clock.fields[0] ?? '') ?? [])
  if (!field) return ''
  return isEmpty(record.values[field.key] ?? null)
    ? ` ${field.label} is empty.`
    : ` The time was already past when the date was set or the rule was switched on (${fieldWord(field) ?? 'date'}: ${sayValue(record.values[field.key] ?? null, field, catalogue, record.values)}).`
}

const after = (note: string | null): string => (note === null ? '' : ` ${note}`)

/** Whether a rule ran for a record and what came of it; if it did not, the first thing that kept it from it. */
export function whyFor(workspace: Workspace, rule: StoredRule, ref: RecordRef): Why | null {
  const record = workspace.store.records.read(ref)
  if (!record) return null
  const document = rule.version?.document ?? rule.draft
  const catalogue = workspace.catalogue()
  const { lines } = journalPage(workspace, { ruleId: rule.id, object: ref.object, recordId: ref.id, limit: RUNS_SHOWN })
  const [last] = lines
  const say = (atMs: number) => `on ${sayInstant(atMs, catalogue.workspace.zone)}`
  const of = {
    ruleId: rule.id,
    ruleName: rule.draft.name,
    state: rule.state,
    runs: lines,
    mode: document.conditions.mode,
  }
  if (document.object !== ref.object)
    return {
      ...of,
      ran: false,
      answer: `This rule is for ${OBJECT_WORDS[document.object].many}.`,
      seen: [],
      seenAt: null,
      holds: false,
    }

  const group = compileGroup(document.conditions, document.object, catalogue)
  const nowSubject = workspace.subject(record)
  const now = {
    seen: group.explain(nowSubject, workspace.moment()),
    seenAt: null,
    holds: group.test(nowSubject, workspace.moment()),
  }
  if (last) {
    const run = workspace.store.runs.get(last.id)
    const kept = last.state === 'stopped' && endedQuietly(run?.stop)
    const at = say(last.atMs)
    return {
      ...of,
      ran: !kept,
      seen: run && run.seen.length > 0 ? run.seen : now.seen,
      seenAt: run && run.seen.length > 0 ? last.atMs : null,
      holds: !kept,
      answer: kept
        ? `Triggered ${at} (${last.because}), then stopped: ${last.outcome}.`
        : `Ran ${at}. Why: ${last.because}. Result: ${last.outcome || last.state}.`,
    }
  }
  const starts = document.triggers
    .map((trigger) => sayTrigger(trigger, { catalogue, object: document.object }))
    .join(', or ')
  if (!rule.version) return { ...of, ...now, ran: false, answer: 'This rule has never been switched on.' }
  const start = lastStart(workspace, document, record)
  if (!start)
    return {
      ...of,
      ...now,
      ran: false,
      answer: [
        `Its trigger has not happened: ${starts}.`,
        momentWords(workspace, document, record),
        nearlyWords(workspace, document, record),
        rule.state === 'on' ? '' : ` The rule is also ${rule.state}.`,
        after(noteOf(workspace, ref, 'changes')),
      ].join(''),
    }
  const { event, then, because } = start
  const subject = {
    ...workspace.subject(then),
    before: valuesBefore(then.values, event.changes),
    run: askingRun(event),
  }
  const moment = momentAt(event.atMs, catalogue.workspace)
  const seen = group.explain(subject, moment)
  const kept = { ...of, ran: false, seen, seenAt: event.atMs, holds: group.test(subject, moment) }
  const at = say(event.atMs)
  if (event.rulesOff)
    return {
      ...kept,
      answer: `The trigger happened ${at} (${because}), in a change made with rules off.`,
    }
  if (event.atMs < rule.version.publishedAt)
    return {
      ...kept,
      answer: `The trigger happened ${at} (${because}), before version ${rule.version.number} was published.`,
    }
  if (rule.state !== 'on')
    return { ...kept, answer: `The trigger happened ${at} (${because}), but the rule is ${rule.state}.` }
  const miss = seen.find((one) => !one.holds)
  return {
    ...kept,
    answer: `The trigger happened ${at} (${because}), but ${miss ? `${miss.text} was not true` : 'the rule was off then'}.`,
  }
}

/** Every value that a field of a record has held, newest first, each with who or what set it. */
export interface FieldPast {
  readonly label: string
  /** Said where earlier values were deleted with their age. */
  readonly note: string | null
  readonly changes: readonly {
    readonly seq: number
    readonly atMs: number
    readonly old: string
    readonly new: string
    readonly doer: Doer
    readonly created: boolean
  }[]
}

const PAST_MOST = 100

export function fieldPast(workspace: Workspace, ref: RecordRef, key: string, scope: Scope = null): FieldPast | null {
  const catalogue = workspace.catalogue()
  const field = catalogue.fieldOnce(ref.object, key)
  const record = workspace.store.records.read(ref)
  if (!field || !record) return null
  const tell = doerTeller(workspace, scope)
  if (
    scope !== null &&
    derivationsOf(catalogue)
      .overLinks(ref.object)
      .some((one) => one.field.key === key)
  )
    return {
      label: field.label,
      note: 'It is calculated from other records, some of which you may not see.',
      changes: [],
    }
  return {
    label: field.label,
    note: noteOf(workspace, ref, 'values'),
    changes: workspace.store.events.ofField(ref, field.id, PAST_MOST).flatMap((event) => {
      const change = event.changes.find((one) => one.field === key)
      const then = catalogue.asOf(event.atMs)
      const said = (value: Parameters<typeof sayValue>[0]) =>
        sayValue(value, then.fieldOnce(ref.object, key) ?? field, then, record.values)
      return change
        ? [
            {
              seq: event.seq,
              atMs: event.atMs,
              old: said(change.old),
              new: said(change.new),
              doer: tell(event.cause),
              created: event.kind === 'created',
            },
          ]
        : []
    }),
  }
}

/** One rule in the list of those that are about a record. */
export interface WhyLine {
  readonly ruleId: number
  readonly name: string
  readonly state: StoredRule['state']
  /** Its last run for the record. */
  readonly last: JournalLine | null
}

/** The rules about a kind of record, each with what it last did for this one; those that did something first. */
export function rulesFor(workspace: Workspace, ref: RecordRef): readonly WhyLine[] {
  return workspace.store.rules
    .all()
    .filter((rule) => rule.state !== 'archived' && (rule.version?.document ?? rule.draft).object === ref.object)
    .map((rule): WhyLine => ({
      ruleId: rule.id,
      name: rule.draft.name,
      state: rule.state,
      last:
        journalPage(workspace, { ruleId: rule.id, object: ref.object, recordId: ref.id, limit: 1 }).lines[0] ?? null,
    }))
    .sort((a, b) => (b.last?.atMs ?? 0) - (a.last?.atMs ?? 0))
}
