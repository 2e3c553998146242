import { ACTS } from '../../core/access/acts'
import type { Person } from '../../core/fields/field'
import { addDays, dateAt, startOfDate } from '../../core/time/dates'
import type { Workspace } from '../engine/workspace'
import { isUnpublished } from './rule-list'
import { problemPage } from './problems'
import { allResults } from './results'

/** The first page of who builds rules, and of who looks after them: what needs somebody, and what came of it. */

const DAY_MS = 86_400_000
const SHOWN = 5
const PULSE_DAYS = 30

export function overview(workspace: Workspace, person: Person) {
  const { store, clock } = workspace
  const nowMs = clock.nowMs()
  const { zone } = workspace.catalogue().workspace
  const today = dateAt(nowMs, zone)
  const builds = ACTS[person.role].includes('build')
  const all = store.rules.all()
  const names = new Map(all.map(({ id, version, draft }) => [id, version?.document.name ?? draft.name]))
  const ruleOf = (id: number) => ({ id, name: names.get(id) ?? `rule ${id}` })

  const due = store.waits.dueByRule(startOfDate(addDays(today, 1), zone), startOfDate(addDays(today, 8), zone))
  const people = workspace.catalogue().data.people.filter(({ active }) => active)
  const loads = people.map(({ id }) => store.taskLoad.of(id, today, addDays(today, 7), nowMs - 7 * DAY_MS))
  const sum = (of: 'late' | 'today' | 'soon'): number => loads.reduce((n, load) => n + load[of], 0)

  const lastDay = Math.floor(nowMs / DAY_MS)
  const pulses = store.runs.pulses(lastDay - PULSE_DAYS + 1)
  const on = all.filter(({ state }) => state === 'on')
  const byRuns = on
    .map(({ id }) => ({ ...ruleOf(id), runs: pulses.get(id)?.runs ?? 0 }))
    .sort((a, b) => b.runs - a.runs || a.id - b.id)
  const beforeMs = store.visits.before(person.id, nowMs)
  const sinceDay = beforeMs === null ? lastDay - 6 : Math.floor(beforeMs / DAY_MS)
  const since = [...store.runs.pulses(sinceDay)]
    .map(([id, { runs, failed }]) => ({ ...ruleOf(id), runs, failed }))
    .sort((a, b) => b.runs - a.runs)

  const { open, kinds } = problemPage(workspace)
  return {
    problems: {
      open,
      first: kinds
        .flatMap(({ title, unit, problems }) =>
          problems
            .filter(({ acceptedUntil }) => acceptedUntil === null)
            .map(({ id, says, count, path, sinceMs, personId }) => ({
              id,
              title,
              unit,
              says,
              count,
              path,
              sinceMs,
              personId,
            })),
        )
        .slice(0, SHOWN),
    },
    ahead: {
      today: due.reduce((n, { first }) => n + first, 0),
      week: due.reduce((n, { all: many }) => n + many, 0),
      rules: due
        .map(({ ruleId, first, all: many }) => ({ ...ruleOf(ruleId), today: first, week: many }))
        .sort((a, b) => b.week - a.week)
        .slice(0, SHOWN),
      tasks: { late: sum('late'), today: sum('today'), week: sum('soon') },
    },
    since: {
      /** When they were here the last time; the last week, where they never were. */
      beforeMs,
      fromMs: sinceDay * DAY_MS,
      runs: since.reduce((n, { runs }) => n + runs, 0),
      failed: since.reduce((n, { failed }) => n + failed, 0),
      rules: since.slice(0, SHOWN),
      more: Math.max(0, since.length - SHOWN),
    },
    most: byRuns.filter(({ runs }) => runs > 0).slice(0, SHOWN),
    /** Of those that are on and did something, and those that did nothing. */
    least: [...byRuns].reverse().slice(0, SHOWN),
    on: on.length,
    drafts: builds
      ? all
          .filter((rule) => rule.state === 'draft' || isUnpublished(rule))
          .sort((a, b) => b.changedAt - a.changedAt)
          .slice(0, SHOWN)
          .map((rule) => ({
            id: rule.id,
            name: rule.draft.name,
            state: rule.state === 'draft' ? ('draft' as const) : ('unpublished' as const),
            changedAt: rule.changedAt,
          }))
      : [],
    results: allResults(workspace)
      .flatMap(({ id, name, story, target }) =>
        story !== null && target && target.done.of > 0
          ? [
              {
                id,
                name,
                story,
                tells: target.difference !== null && (target.difference.low > 0 || target.difference.high < 0),
              },
            ]
          : [],
      )
      .sort((a, b) => Number(b.tells) - Number(a.tells))
      .slice(0, 3),
    suggestions: builds ? store.habits.open().length : 0,
  }
}
