import { count } from '../../core/language/counts'
import { defineProblem } from './problem'

/** Rules that were paused because they ran far more often than usual, or sent as many messages as they may. */
export const pausedRules = defineProblem({
  kind: 'pausedRules',
  title: 'Paused rules',
  fix: 'Open the rule, look at what it is about to do, and let it go on or switch it off.',
  find: (workspace) =>
    workspace.store.rules.all().flatMap(({ id, paused, version, draft }) =>
      paused === null
        ? []
        : [
            {
              key: String(id),
              says: `“${version?.document.name ?? draft.name}” is paused: ${
                paused.messages === undefined
                  ? `it started ${count(paused.starts, 'time')} in an hour`
                  : `it sent ${count(paused.messages, 'message')} in an hour`
              }`,
              count: 1,
              ruleId: id,
              path: `/rules/${id}`,
            },
          ],
    ),
})
