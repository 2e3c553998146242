import { OBJECTS } from '../../../records/kinds'
import { z } from 'zod'
import { sayGroup } from '../../../conditions/compile'
import type { BranchOf } from '../../parts'
import { defineStep } from '../../step'
import { say } from '../../../language/sentence'

const emptyGroup = (id: string) => ({ kind: 'group', id, mode: 'all', items: [] }) as const
/** A way with conditions that are still to be written. */
export const newPath = (fresh: (letter: 'b' | 'c') => string): BranchOf<never> => ({
  id: fresh('b'),
  when: emptyGroup(fresh('c')),
  steps: [],
})

/** Goes the first way whose conditions hold, and the last one when none of them do. */
export const choosePath = defineStep<'choosePath', Record<never, never>>({
  kind: 'choosePath',
  category: 'data',
  does: 'choose a path by conditions',
  alsoCalled: ['if', 'else', 'otherwise', 'branch', 'split', 'depending on', 'either or', 'case'],
  objects: OBJECTS,
  params: z.strictObject({}),
  form: {},
  start: {},
  sentence: () => [say('take the first path whose conditions are true')],
  check: () => [],
  ways: {
    otherwise: true,
    single: false,
    object: (_params, object) => object,
    begin: (_params, _names, fresh) => [newPath(fresh), { id: fresh('b'), steps: [] }],
    misfit(branches, branch) {
      if (branch.value !== undefined) return 'A path by conditions can’t have a value.'
      const last = branch === branches.at(-1)
      return last === (branch.when === undefined)
        ? null
        : last
          ? 'The last path can’t have conditions.'
          : 'This path has no conditions.'
    },
    label: (branch, _index, _branches, _params, { catalogue, object }) =>
      branch.when ? `if ${branch.when.items.length > 0 ? sayGroup(branch.when, object, catalogue) : '…'}` : 'otherwise',
    check: (branch) => (branch.when?.items.length === 0 ? [{ code: 'missing', what: 'pathCondition' }] : []),
    choose(_params, branches, context) {
      for (const branch of branches) {
        if (!branch.when) return { branch, records: [context.record], say: 'no earlier path was true', seen: [] }
        const { holds, seen } = context.holds(branch)
        if (holds)
          return {
            branch,
            records: [context.record],
            say: seen.map((one) => (one.linked ? one.text : `${one.text} (then ${one.value})`)).join('; '),
            seen,
          }
      }
      return { none: { code: 'noPath' } }
    },
    examples: [
      {
        say: 'goes the first whose conditions hold',
        params: {},
        branches: [
          { id: 'b1', when: emptyGroup('g1'), steps: [] },
          { id: 'b2', when: emptyGroup('g2'), steps: [] },
          { id: 'b3', steps: [] },
        ],
        holding: ['b2'],
        expect: { way: 'b2', records: 1 },
      },
      {
        say: 'goes the last when none does',
        params: {},
        branches: [
          { id: 'b1', when: emptyGroup('g1'), steps: [] },
          { id: 'b2', steps: [] },
        ],
        expect: { way: 'b2', records: 1 },
      },
      {
        say: 'goes none where there is no last one',
        params: {},
        branches: [{ id: 'b1', when: emptyGroup('g1'), steps: [] }],
        expect: { none: 'noPath' },
      },
    ],
  },
  examples: [],
})
