import { count, plural } from '../../core/language/counts'
import { placedSteps } from '../../core/rules/tree'
import { emptyIn } from './records'
import { defineProblem } from './problem'

/** Contacts of whom nobody knows where they live, while rules write to contacts or call them at decent hours. */
export const zonesUnknown = defineProblem({
  kind: 'zonesUnknown',
  title: 'Time zones unknown',
  fix: 'Fill in the time zone of contacts; until then the workspace’s is taken for them.',
  find(workspace) {
    const writes = workspace.store.rules
      .active()
      .some(({ document }) =>
        placedSteps(document).some(({ step }) => step.kind === 'sendMessage' || step.kind === 'makeCall'),
      )
    const found = writes ? emptyIn(workspace, 'contact', 'zone') : null
    return !found || found.count === 0
      ? []
      : [
          {
            key: 'contact',
            says: `${count(found.count, 'contact')} ${plural(found.count, 'has', 'have')} no time zone, and rules write to contacts`,
            count: found.count,
            path: found.path,
            ...(found.first === null ? {} : { ref: { object: 'contact' as const, id: found.first } }),
          },
        ]
  },
})
