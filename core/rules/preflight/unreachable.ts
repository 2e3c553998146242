import { compileGroup } from '../../conditions/compile'
import { alone } from '../../conditions/subject'
import type { Step } from '../document'
import { removeBranch, removePart } from '../edit'
import { withResults } from '../results'
import { placedBranches, placedSteps } from '../tree'
import { definePreflight, noted } from './finding'
import { combinations, isStrict, necessary } from './possible'

/** Paths that those before them leave nothing to, and steps below one that stops. */
export const unreachable = definePreflight({
  kind: 'unreachable',
  look(rule, { catalogue: plain, moment }) {
    const { document } = rule
    const catalogue = withResults(document, plain)
    const placed = placedSteps(document)
    const labels = new Map(placed.map(({ step, label }) => [step.id, label]))
    const paths = placedBranches(document).flatMap(({ branch, of, object }) => {
      const branches = of.branches ?? []
      const at = branches.indexOf(branch)
      if (of.kind !== 'choosePath' || !branch.when || branch.when.items.length === 0) return []
      const must = necessary(branch.when, object, catalogue)
      // Only of those before it that can be gone through is it known what they take away.
      const before = branches
        .slice(0, at)
        .flatMap((one) =>
          one.when && one.when.items.length > 0 && isStrict(one.when, object, catalogue) ? [one.when] : [],
        )
      const all = combinations([must, ...before], object, catalogue, moment)
      if (!all) return []
      const [own, ...earlier] = [must, ...before].map((group) => compileGroup(group, object, catalogue))
      const reached = all.some(
        (values) => own?.test(alone(values), moment) && !earlier.some((group) => group.test(alone(values), moment)),
      )
      if (reached) return []
      return [
        noted('unreachable', rule, {
          severity: 'error',
          part: 'branch',
          id: branch.id,
          param: 'when',
          text: 'This path is never taken',
          why: all.some((values) => own?.test(alone(values), moment))
            ? 'An earlier path always comes first.'
            : 'Its conditions are never true together.',
          fix: { say: 'Remove this path', rule: removeBranch(document, branch.id) },
        }),
      ]
    })
    const below = (steps: readonly Step[]): readonly ReturnType<typeof noted>[] =>
      steps.flatMap((step, i) => [
        ...(step.branches ?? []).flatMap((branch) => below(branch.steps)),
        ...(step.kind === 'stop' && i < steps.length - 1
          ? [
              noted('unreachable', rule, {
                severity: 'error' as const,
                part: 'step' as const,
                id: steps[i + 1]?.id ?? '',
                param: 'kind',
                text: `Never reached: step ${labels.get(step.id) ?? ''} stops the rule`,
                why: 'Steps after “stop here” don’t run.',
                fix: { say: 'Remove the stop', rule: removePart(document, { part: 'step', id: step.id }) },
              }),
            ]
          : []),
      ])
    return [...paths, ...below(document.steps)]
  },
})
