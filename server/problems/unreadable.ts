import { defineProblem } from './problem'

/** Rules whose document cannot be read: they do nothing. */
export const unreadable = defineProblem({
  kind: 'unreadable',
  title: 'Rules that can’t be read',
  fix: 'Open the rule: it says which part can’t be read; bring an earlier version back or write it anew.',
  find: (workspace) =>
    workspace.store.rules.all().flatMap(({ id, version, draftProblem, draft }) => {
      const problem = version?.problem ?? draftProblem
      return problem === null || problem === undefined
        ? []
        : [
            {
              key: String(id),
              says: `“${version?.document.name ?? draft.name}” can’t be read: ${problem}`,
              count: 1,
              ruleId: id,
              path: `/rules/${id}`,
            },
          ]
    }),
})
