import { count, listOf } from '../../core/language/counts'
import { ownedBy, RECORD_OBJECTS } from './records'
import { defineProblem, type Found } from './problem'

/** People who have left and still own records or have open tasks. */
export const peopleLeft = defineProblem({
  kind: 'peopleLeft',
  title: 'People who left',
  fix: 'Hand their records and tasks over to someone else.',
  find(workspace) {
    const open = workspace.store.tasks.openCounts()
    return workspace.catalogue().data.people.flatMap((person): Found[] => {
      if (person.active) return []
      const owned = RECORD_OBJECTS.map((object) => ({ object, found: ownedBy(workspace, object, person.id) }))
      const tasks = open.get(person.id) ?? 0
      const parts = [
        ...owned.flatMap(({ object, found }) => (found.count > 0 ? [count(found.count, object)] : [])),
        ...(tasks > 0 ? [count(tasks, 'task')] : []),
      ]
      if (parts.length === 0) return []
      return [
        {
          key: person.id,
          says: `${person.name} has left and still has ${listOf(parts)}`,
          count: owned.reduce((sum, { found }) => sum + found.count, tasks),
          path: owned.find(({ found }) => found.count > 0)?.found.path ?? `/day-sheet?person=${person.id}`,
        },
      ]
    })
  },
})
