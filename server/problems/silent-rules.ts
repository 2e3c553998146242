import { count } from '../../core/language/counts'
import { defineProblem } from './problem'

const DAY_MS = 86_400_000
/** It has not run for so long … */
const SILENT_DAYS = 21
/** … although it ran at least so often a week in the weeks before. */
const USUAL_WEEKS = 8
const USUAL_LEAST = 3

/** Rules that are on and have stopped running. */
export const silentRules = defineProblem({
  kind: 'silentRules',
  title: 'Rules that stopped running',
  fix: 'Look at its trigger: a stage, a field or a form that it waits for may have changed.',
  find(workspace) {
    const today = Math.floor(workspace.clock.nowMs() / DAY_MS)
    const { problems, rules } = workspace.store
    const before = problems.runsBetween(today - SILENT_DAYS - USUAL_WEEKS * 7, today - SILENT_DAYS)
    const lately = problems.runsBetween(today - SILENT_DAYS, today + 1)
    return rules.all().flatMap(({ id, state, version, draft, changedAt }) => {
      const week = Math.round((before.get(id) ?? 0) / USUAL_WEEKS)
      // Whoever changed it lately knows what they changed.
      const changed = changedAt > (today - SILENT_DAYS) * DAY_MS
      if (state !== 'on' || changed || week < USUAL_LEAST || (lately.get(id) ?? 0) > 0) return []
      return [
        {
          key: String(id),
          says: `“${version?.document.name ?? draft.name}” usually runs ${count(week, 'time')} a week, and has not for three weeks`,
          count: 1,
          ruleId: id,
          path: `/rules/${id}`,
        },
      ]
    })
  },
})
