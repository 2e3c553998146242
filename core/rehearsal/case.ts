import '../language/refusals/of-server'
import { sayQueue } from '../records/task'
import type { Case } from './case-file'
import type { StopReason } from '../language/reasons'
import { asToldNow } from './old-words'
import type { ActiveRule } from '../engine/matcher'
import { Catalogue } from '../fields/catalogue'
import type { Field, Hours } from '../fields/field'
import { defineFields, type GivenField } from '../fields/define'
import { STARTER_FIELDS, STARTER_PIPELINE } from '../fields/starter'
import type { Value } from '../language/value'
import { bad, good, sayProblem, type Result } from '../language/problems'
import { OBJECTS, type ObjectKind, type RecordRef } from '../records/kinds'
import { isLinkable, type Link, type RecordSnapshot } from '../records/record'
import { planWrite } from '../records/plan-write'
import { checkRule } from '../rules/check'
import { localMinute, readInstant } from '../time/dates'
import { Memory } from '../world/memory'
import { Rehearsal, type ClockMove, type ScriptLine } from './rehearse'
import { resultOf, type RehearsalResult } from './result'

/** Runs a rehearsal that was read from a file, and says what came otherwise than expected. */

const refOf = (name: string): RecordRef => {
  const [object, id] = name.split(' ')
  return { object: object as ObjectKind, id: Number(id) }
}
const nameOf = ({ object, id }: RecordRef): string => `${object} ${id}`
const minute = (text: string): number => Number(text.split(':')[0]) * 60 + Number(text.split(':')[1])

const hour = (minutes: number): string => `${Math.floor(minutes / 60)}:${String(minutes % 60).padStart(2, '0')}`

/** Hours as a case tells them. */
const hoursTold = ({ workdays, opensAt, closesAt, holidays }: Hours) => ({
  workdays: [...workdays],
  hours: { opens: hour(opensAt), closes: hour(closesAt) },
  holidays: holidays.map((one) => one.date),
})
const hoursFrom = ({ workdays, hours, holidays }: Pick<Case, 'workdays' | 'hours' | 'holidays'>): Hours => ({
  workdays,
  opensAt: minute(hours.opens),
  closesAt: minute(hours.closes),
  holidays: holidays.map((date) => ({ date, name: '' })),
})

function catalogueOf(given: Case): Catalogue {
  const more = OBJECTS.flatMap((object) =>
    defineFields(
      object,
      Object.fromEntries(
        given.fields
          .filter((field) => field.object === object)
          .map(({ key, label, type, choices }): [string, GivenField] => [
            key,
            { label, type, ...(choices ? { choices } : {}) },
          ]),
      ),
    ),
  )
  const fields = [
    ...STARTER_FIELDS.filter((one) => !more.some((other) => other.object === one.object && other.key === one.key)),
    ...more,
  ]
  return new Catalogue({
    workspace: {
      name: given.name,
      zone: given.zone,
      locale: 'en-GB',
      currency: 'EUR',
      demo: false,
      ...hoursFrom(given),
      teams: (given.teams ?? []).map((one) => ({ team: one.team, ...hoursFrom(one) })),
    },
    people: given.people.map((person) => ({
      id: person.id,
      name: person.name ?? person.id,
      email: `${person.id}@case.example`,
      role: 'owner',
      team: person.team ?? '',
      title: '',
      awayFrom: person.awayFrom ?? null,
      awayTo: person.awayTo ?? null,
      deputyId: person.deputy ?? null,
      active: person.active ?? true,
      zone: person.zone ?? null,
    })),
    fields: fields.map((field, i): Field => {
      const text = given.fields.find((one) => one.object === field.object && one.key === field.key)?.formula
      return {
        ...field,
        id: i + 1,
        ...(text === undefined ? {} : { made: { by: 'formula', text }, keptBy: `calculated: ${text}` }),
      }
    }),
    pipelines: (given.pipelines ?? [STARTER_PIPELINE]).map(({ id, name, stages }) => ({
      id,
      name,
      stages: stages.map((stage, position) => ({ ...stage, position, probability: null, pipelineId: id })),
    })),
  })
}

export interface CaseOutcome {
  readonly name: string
  readonly result: RehearsalResult
  /** The moments by the clock of the case, for reading. */
  readonly zone: string
  /** What was expected and did not come, or came and was not expected. */
  readonly wrong: readonly string[]
}

/**
 * Runs a case to its end; refuses records, rules and moments that do not fit, by name. With a catalogue, its fields,
 * pipelines, people and hours are those of the case; without, the file says what there is.
 */
export function runCase(given: Case, catalogue = catalogueOf(given)): Result<CaseOutcome> {
  const at = (text: string): number | null =>
    readInstant(
      text.replace('T', ' ').length > 16 && /[Z+]|-\d{2}:\d{2}$/.test(text.slice(16)) ? text : text.replace('T', ' '),
      given.zone,
      'dayFirst',
    )
  const startMs = at(given.start)
  if (startMs === null) return bad({ code: 'caseMoment', at: 'start', raw: given.start })
  const moves: ClockMove[] = []
  for (const { to, down } of given.clock ?? (given.until === undefined ? [] : [{ to: given.until, down: false }])) {
    const toMs = at(to)
    if (toMs === null) return bad({ code: 'caseMoment', at: 'clock', raw: to })
    moves.push({ toMs, down })
  }
  if (moves.length === 0) return bad({ code: 'caseEnd' })
  const records: RecordSnapshot[] = []
  for (const { record, values } of given.records) {
    const ref = refOf(record)
    const [kept, own] = [true, false].map((keeps) =>
      Object.fromEntries(
        Object.entries(values).filter(([key]) => (catalogue.field(ref.object, key)?.keptBy != null) === keeps),
      ),
    )
    const filled = {
      name: record,
      ...(ref.object === 'deal' ? { stage: catalogue.pipelines[0]?.stages[0]?.id ?? null } : {}),
      ...own,
    }
    const { changes, problems } = planWrite(ref.object, null, filled, startMs, catalogue)
    const [problem] = problems
    if (problem)
      return bad({ code: 'inCase', at: `records: ${record}, ${problem.path}`, said: sayProblem(problem.problem) })
    // What is kept by the system itself (since when a deal is in its stage) is as the case says.
    records.push({
      ...ref,
      version: 1,
      values: { ...Object.fromEntries(changes.map((change) => [change.field, change.new])), ...kept },
    })
  }
  const links: Link[] = []
  for (const { from, to, main } of given.links) {
    const link = { from: refOf(from), to: refOf(to), role: '', main }
    if (!isLinkable(link.from, link.to)) return bad({ code: 'caseLink', from, to })
    links.push(link)
  }
  const rules: ActiveRule[] = []
  for (const [i, document] of given.rules.entries()) {
    const [finding] = checkRule(document, catalogue)
    if (finding) return bad({ code: 'inCase', at: `rules: ${document.name}`, said: finding.text })
    rules.push({ ruleId: i + 1, versionId: i + 1, order: (i + 1) * 10, document })
  }
  const script: ScriptLine[] = []
  for (const [i, line] of given.script.entries()) {
    const { record, object = 'deal' } = line
    const atMs = at(line.at)
    if (atMs === null) return bad({ code: 'caseMoment', at: `script.${i}`, raw: line.at })
    const done = doneBy(line, rules)
    if (done === null) return bad({ code: 'caseStart', line: i, rule: line.start ?? '' })
    const all = records.filter((one) => one.object === object && (given.only?.includes(nameOf(one)) ?? true))
    const refs = record !== undefined ? [refOf(record)] : done.does === 'create' ? [] : all
    for (const ref of refs) script.push({ ...done, atMs, object: ref.object, id: ref.id })
    if (record === undefined && done.does === 'create') script.push({ ...done, atMs, object, id: null })
  }
  const rehearsal = new Rehearsal(new Memory(catalogue, records, links), {
    rules,
    fromMs: startMs,
    moves,
    script,
    only: given.only?.map(refOf) ?? null,
  })
  rehearsal.goOn(() => false)
  const result = resultOf(rehearsal, startMs)
  const [refused] = rehearsal.refused
  if (refused)
    return bad({
      code: 'inCase',
      at: `script.${refused.line}`,
      said: refused.problems.map(({ path, problem }) => `${path}: ${sayProblem(problem)}`).join('; '),
    })
  return good({ name: given.name, result, zone: given.zone, wrong: given.expect ? wrongOf(given, result, at) : [] })
}

/** What a line of a case assumes; `null` where it names a rule that is not there. */
function doneBy(
  {
    set,
    create,
    delete: gone,
    start,
    link,
    unlink,
    finish,
    outcome = '',
    does,
    about = '',
    data = {},
  }: Case['script'][number],
  rules: readonly ActiveRule[],
): Pick<ScriptLine, 'does' | 'values' | 'linkTo' | 'starts' | 'task' | 'activity'> | null {
  const values = (create ?? set ?? {}) as Record<string, Value>
  if (start !== undefined) {
    const rule = rules.find(({ document }) => document.name === start)
    const trigger = rule?.document.triggers.find(({ kind }) => kind === 'byHand')
    return rule ? { does: 'start', values, starts: { ruleId: rule.ruleId, triggerId: trigger?.id ?? null } } : null
  }
  if (finish !== undefined) return { does: 'finish', values: {}, task: { title: finish, outcome, answers: data } }
  if (does !== undefined) return { does: 'act', values: {}, activity: { kind: does, about, data } }
  if (link !== undefined) return { does: 'link', values: {}, linkTo: [refOf(link)] }
  if (unlink !== undefined) return { does: 'unlink', values: {}, linkTo: [refOf(unlink)] }
  return { does: gone ? 'delete' : create ? 'create' : 'set', values }
}

/** What a case came to, as what is expected of it from now on. */
export function expectationsOf({ rules }: Case, { result, zone }: CaseOutcome): NonNullable<Case['expect']> {
  const past = gotThrough(result)
  return {
    starts: past.map((run) => ({
      ...(rules.length > 1 ? { rule: run.ruleName } : {}),
      record: nameOf(run.ref),
      at: localMinute(run.atMs, zone),
    })),
    states: past.map((run) => run.stop ?? run.state),
    tasks: result.tasks.map((task) => ({
      record: nameOf(task.ref),
      title: task.title,
      at: localMinute(task.atMs, zone),
      due: task.due,
      ...(task.assigneeId === null ? {} : { who: task.assigneeId }),
    })),
  }
}

/** A case with everything of a workspace that it needs to be run by itself. */
export function withCatalogue(given: Case, { workspace, data, people, pipelines }: Catalogue): Case {
  return {
    ...given,
    zone: workspace.zone,
    ...hoursTold(workspace),
    ...(workspace.teams?.length
      ? { teams: workspace.teams.map((one) => ({ team: one.team, ...hoursTold(one) })) }
      : {}),
    people: people.map(({ id, name, team, zone, awayFrom, awayTo, deputyId, active }) => ({
      id,
      name,
      team,
      active,
      ...(zone === null ? {} : { zone }),
      ...(awayFrom === null ? {} : { awayFrom }),
      ...(awayTo === null ? {} : { awayTo }),
      ...(deputyId === null ? {} : { deputy: deputyId }),
    })),
    fields: data.fields
      .filter((field) => field.keptBy === null || field.made?.by === 'formula')
      .flatMap(({ object, key, label, type, choices, made }) =>
        object === 'none'
          ? []
          : [
              {
                object,
                key,
                label,
                type,
                ...(made?.by === 'formula' ? { formula: made.text } : {}),
                ...(choices.length > 0 ? { choices: choices.map(({ id, label: name }) => ({ id, label: name })) } : {}),
              },
            ],
      ),
    pipelines: pipelines.map(({ id, name, stages }) => ({
      id,
      name,
      stages: stages.map(({ id: stage, name: called, outcome }) => ({ id: stage, name: called, outcome })),
    })),
  }
}

/** Endings of runs that had got past their conditions, or whose moment had come. */
const PAST_CONDITIONS: ReadonlySet<StopReason['code']> = new Set(['ended', 'missed', 'noLonger'])
/** Runs that got past their conditions, whatever became of them. */
const gotThrough = (result: RehearsalResult): RehearsalResult['runs'] =>
  result.runs.filter((run) => run.state !== 'stopped' || run.stopCode === null || PAST_CONDITIONS.has(run.stopCode))

/** A task by its title and what else is asked of it: “Call back” for Lund Bakery due 2026-12-04 to rosa. */
function sayTask(
  title: string,
  asked: Readonly<Record<'for' | 'at' | 'due' | 'to', string | null | undefined>>,
): string {
  const { for: record, at, due, to } = asked
  const rest = Object.entries({ for: record, at, due, to }).flatMap(([word, said]) => (said ? [`${word} ${said}`] : []))
  return [`“${title}”`, ...rest].join(' ')
}

function wrongOf(
  { expect = {}, zone, rules }: Case,
  result: RehearsalResult,
  at: (text: string) => number | null,
): readonly string[] {
  const wrong: string[] = []
  const say = (atMs: number): string => localMinute(atMs, zone)
  const compare = (what: string, expected: readonly string[], came: readonly string[]): void => {
    for (let i = 0; i < Math.max(expected.length, came.length); i++) {
      if (expected[i] !== came[i])
        wrong.push(`${what} ${i + 1}: expected ${expected[i] ?? 'nothing'}, got ${came[i] ?? 'nothing'}`)
    }
  }
  const past = gotThrough(result)
  if (expect.starts) {
    const named = rules.length > 1
    compare(
      'start',
      expect.starts.map((one) => `${named && one.rule ? `${one.rule}: ` : ''}${one.record} at ${say(at(one.at) ?? 0)}`),
      past.map(
        (run, i) =>
          `${named && expect.starts?.[i]?.rule ? `${run.ruleName}: ` : ''}${nameOf(run.ref)} at ${say(run.atMs)}`,
      ),
    )
  }
  if (expect.states)
    compare(
      'state',
      expect.states.map(asToldNow),
      past.map((run) => run.stop ?? run.state),
    )
  if (expect.tasks) {
    const { tasks } = expect
    compare(
      'task',
      tasks.map(({ title, record, at: when, due, who }) =>
        sayTask(title, { for: record, at: when && say(at(when) ?? 0), due, to: who }),
      ),
      result.tasks.map((task, i) =>
        // Only what is expected of one is told of it.
        sayTask(task.title, {
          for: tasks[i]?.record && nameOf(task.ref),
          at: tasks[i]?.at && say(task.atMs),
          due: tasks[i]?.due && task.due,
          to: tasks[i]?.who && (task.assigneeId ?? sayQueue(task.queue)),
        }),
      ),
    )
  }
  return wrong
}

/** The outcome with its moments by the clock of the case, as the command line prints it. */
export function printable({ name, result, zone, wrong }: CaseOutcome): object {
  const say = (atMs: number): string => localMinute(atMs, zone)
  return {
    name,
    zone,
    from: say(result.fromMs),
    to: say(result.endMs),
    cut: result.cut,
    keptOut: result.keptOut,
    runs: result.runs.map(({ id, ruleName, ref, atMs, because, state, stop, steps }) => ({
      run: id,
      rule: ruleName,
      record: nameOf(ref),
      at: say(atMs),
      utc: new Date(atMs).toISOString(),
      because,
      state,
      stop,
      steps: steps.map((step) => ({ step: step.label, at: say(step.atMs), state: step.state, says: step.say })),
    })),
    writes: result.writes.map(({ atMs, runId, ref, changes }) => ({
      run: runId,
      at: say(atMs),
      record: nameOf(ref),
      changes,
    })),
    tasks: result.tasks.map((task) => ({
      run: task.runId,
      at: say(task.atMs),
      record: nameOf(task.ref),
      title: task.title,
      notes: task.notes,
      due: task.due,
      who: task.assigneeId,
      queue: task.queue,
    })),
    sends: result.sends.map(({ atMs, runId, ...send }) => ({ run: runId, at: say(atMs), ...send })),
    notices: result.notices.map(({ atMs, runId, ...notice }) => ({ run: runId, at: say(atMs), ...notice })),
    warnings: result.warnings.map((warning) => warning.text),
    wrong,
  }
}
