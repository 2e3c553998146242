import { ruleFor, sayHabit } from '../../core/habits/as-rule'
import { sayRule } from '../../core/rules/describe'
import type { RecordKind } from '../../core/records/kinds'
import type { Workspace } from '../engine/workspace'

/** Fewer events than this tell nothing of habits. */
const ENOUGH = 200

/** What people do again and again, each with the rule that would do it and records that say so. */
export function suggestions(workspace: Workspace) {
  const { habits } = workspace.store
  const catalogue = workspace.catalogue()
  const search = habits.search()
  return {
    search: search && {
      state: search.state,
      begunAt: search.begunAt,
      endedAt: search.endedAt,
      looked: search.looked,
      total: search.total,
      asked: search.asked,
    },
    enough: search === null || search.total >= ENOUGH,
    suggestions: habits.open().flatMap(({ id, object, habit, past }) => {
      const says = sayHabit(habit, object, catalogue)
      const document = ruleFor(habit, object, catalogue)
      if (says === null || !document) return []
      const { when, onlyIf, then } = sayRule(document, catalogue)
      return [
        {
          id,
          object,
          says,
          rule: { when, onlyIf, then: then[0] ?? '' },
          of: habit.of,
          followed: habit.followed,
          lift: habit.lift,
          // Findings from before were counted.
          past: { ...past, rehearsed: past.rehearsed ?? false },
          on: named(workspace, object, habit.on),
          not: named(workspace, object, habit.not),
        },
      ]
    }),
  }
}

const named = (workspace: Workspace, object: RecordKind, ids: readonly number[]) =>
  ids.flatMap((id) => {
    const ref = { object, id }
    return workspace.store.records.read(ref) ? [{ ref, name: workspace.nameOf(ref) }] : []
  })
