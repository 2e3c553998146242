import type { Step } from '../document'
import { placedSteps } from '../tree'
import { definePreflight, noted } from './finding'

/** What a path does, whatever its parts are called inside. */
const deed = (steps: readonly Step[]): string =>
  JSON.stringify(
    steps.map(({ kind, params, branches }) => [
      kind,
      params,
      branches?.map((one) => [one.when ?? null, deed(one.steps)]),
    ]),
  )

/** Paths of one step that all do the same: then it makes no difference which is taken. */
export const samePaths = definePreflight({
  kind: 'samePaths',
  look: (rule) =>
    placedSteps(rule.document).flatMap(({ step }) => {
      const deeds = (step.branches ?? []).map((branch) => deed(branch.steps))
      const [first] = deeds
      if (deeds.length < 2 || first === '[]' || deeds.some((one) => one !== first)) return []
      return [
        noted('samePaths', rule, {
          severity: 'warning',
          part: 'step',
          id: step.id,
          param: 'branches',
          text: deeds.length === 2 ? 'Both paths do the same' : `All ${deeds.length} paths do the same`,
          why: 'It makes no difference which path is taken. Was one of them meant to do something else?',
        }),
      ]
    }),
})
