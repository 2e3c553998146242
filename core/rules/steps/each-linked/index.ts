import { figure, nounOf } from '../../../language/counts'
import { z } from 'zod'
import { OBJECT_WORDS, OBJECTS, type ObjectKind } from '../../../records/kinds'
import { checkLinkable } from '../../linkable'
import { defineStep } from '../../step'
import { say, word } from '../../../language/sentence'

/** Does its steps on each record of a kind that is linked and fits. */
export const eachLinked = defineStep<'eachLinked', { to: ObjectKind | null }>({
  kind: 'eachLinked',
  category: 'data',
  does: 'for each linked record that meets conditions',
  alsoCalled: ['loop', 'every related', 'all its deals', 'all its contacts', 'related records', 'children'],
  objects: OBJECTS,
  params: z.strictObject({ to: z.enum(OBJECTS).nullable() }),
  form: { to: { widget: 'linkable' } },
  start: { to: null },
  sentence: ({ to }) => [
    say('for each linked '),
    word('to', to && OBJECT_WORDS[to].one, 'record type'),
    say(' that meets the conditions'),
  ],
  check: ({ to }, names) => checkLinkable(to, names),
  // Between two pieces of very many nothing is asked again: they are one step.
  recheck: () => false,
  ways: {
    otherwise: false,
    single: true,
    object: ({ to }, object) => to ?? object,
    begin: (_params, _names, fresh) => [
      { id: fresh('b'), when: { kind: 'group', id: fresh('c'), mode: 'all', items: [] }, steps: [] },
    ],
    misfit: (branches, branch) =>
      branches.length !== 1
        ? '“For each” has exactly one path.'
        : branch.value !== undefined
          ? 'This path can’t have a value.'
          : branch.when === undefined
            ? 'This path has no conditions.'
            : null,
    label: (branch, _index, _branches, { to }) =>
      branch.when?.items.length ? 'only if' : `all of its ${to ? OBJECT_WORDS[to].many : 'records'}`,
    check: () => [],
    choose({ to }, branches, context) {
      const [branch] = branches
      if (to === null || !branch) return { none: { code: 'noRecordType' } }
      const linked = context.linked(to)
      const records = linked.map(({ record }) => record).filter((record) => context.holds(branch, record).holds)
      if (records.length === 0)
        return {
          none: {
            ...(linked.length === 0
              ? ({ code: 'noLinks', to } as const)
              : ({ code: 'noneMeets', to, count: linked.length } as const)),
          },
        }
      return {
        branch,
        records,
        say: `${figure(records.length)} of ${figure(linked.length)} linked ${nounOf(linked.length, to)}`,
        seen: [],
      }
    },
    examples: [
      {
        say: 'goes it once for each that fits',
        params: { to: 'contact' },
        linked: [4, 5, 6],
        branches: [{ id: 'b1', when: { kind: 'group', id: 'g1', mode: 'all', items: [] }, steps: [] }],
        holding: ['b1'],
        expect: { way: 'b1', records: 3 },
      },
      {
        say: 'goes it for none when none fits',
        params: { to: 'contact' },
        linked: [4],
        branches: [{ id: 'b1', when: { kind: 'group', id: 'g1', mode: 'all', items: [] }, steps: [] }],
        expect: { none: 'noneMeets' },
      },
      {
        say: 'goes it for none when none is linked',
        params: { to: 'contact' },
        branches: [{ id: 'b1', when: { kind: 'group', id: 'g1', mode: 'all', items: [] }, steps: [] }],
        expect: { none: 'noLinks' },
      },
    ],
  },
  examples: [],
})
