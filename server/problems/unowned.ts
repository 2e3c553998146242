import { count, plural } from '../../core/language/counts'
import { emptyIn, RECORD_OBJECTS } from './records'
import { defineProblem, type Found } from './problem'

/** Records that nobody owns: no task of a rule reaches anybody. */
export const unowned = defineProblem({
  kind: 'unowned',
  title: 'Records without an owner',
  fix: 'Give them owners: by hand, in bulk, or by a rule that goes by territory.',
  find: (workspace) =>
    RECORD_OBJECTS.flatMap((object): Found[] => {
      const found = emptyIn(workspace, object, 'owner')
      if (!found || found.count === 0) return []
      return [
        {
          key: object,
          says: `${count(found.count, object)} ${plural(found.count, 'has', 'have')} no owner`,
          count: found.count,
          path: found.path,
          ...(found.first === null ? {} : { ref: { object, id: found.first } }),
        },
      ]
    }),
})
