import { z } from 'zod'
import { OBJECT_WORDS, OBJECTS, type ObjectKind } from '../../../records/kinds'
import { isEitherWayLinkable } from '../../../records/record'
import { defineStep } from '../../step'
import { say, word } from '../../../language/sentence'

/** So many linked records are gone through at the most; a rule on more than that is hardly ever meant. */
export const EACH_MOST = 1000

/** Does its steps on each record of a kind that is linked and fits. */
export const eachLinked = defineStep<'eachLinked', { to: ObjectKind | null }>({
  kind: 'eachLinked',
  hue: 'data',
  does: 'for each linked record that fits',
  alsoCalled: ['loop', 'every related', 'all its deals', 'all its contacts', 'related records', 'children'],
  objects: ['deal', 'contact', 'company'],
  params: z.strictObject({ to: z.enum(OBJECTS).nullable() }),
  form: { to: { widget: 'linkable' } },
  start: { to: null },
  sentence: ({ to }) => [
    say('for each linked '),
    word('to', to && OBJECT_WORDS[to].one, 'kind of record'),
    say(' that fits'),
  ],
  check: ({ to }, { object }) =>
    to === null
      ? [{ param: 'to', problem: { code: 'missing', what: 'the kind of record' } }]
      : isEitherWayLinkable(object, to)
        ? []
        : [{ param: 'to', problem: { code: 'shape', detail: `a ${object} is not linked to a ${to}` } }],
  ways: {
    otherwise: false,
    single: true,
    object: ({ to }, object) => to ?? object,
    begin: (_params, _names, fresh) => [
      { id: fresh('b'), when: { kind: 'group', id: fresh('c'), mode: 'all', items: [] }, steps: [] },
    ],
    misfit: (branches, branch) =>
      branches.length !== 1
        ? 'it has one way only'
        : branch.value !== undefined
          ? 'it has no value'
          : branch.when === undefined
            ? 'its conditions are missing'
            : null,
    label: (branch, _index, _branches, { to }) =>
      branch.when?.items.length ? 'only if' : `every one of its ${to ? OBJECT_WORDS[to].many : 'records'}`,
    check: () => [],
    choose({ to }, branches, context) {
      const [branch] = branches
      if (to === null || !branch) return { none: { code: 'own', say: 'it does not say which records' } }
      const linked = context.linked(to)
      const fitting = linked.map(({ record }) => record).filter((record) => context.holds(branch, record).holds)
      const records = fitting.slice(0, EACH_MOST)
      if (records.length === 0)
        return {
          none: {
            code: 'own',
            say:
              linked.length === 0
                ? `no ${to} is linked to it`
                : `none of the ${linked.length} linked ${linked.length === 1 ? to : OBJECT_WORDS[to].many} fitted`,
          },
        }
      return {
        branch,
        records,
        say: `${records.length} of ${linked.length} linked ${linked.length === 1 ? OBJECT_WORDS[to].one : OBJECT_WORDS[to].many}${fitting.length > records.length ? `; ${fitting.length - records.length} more fitted, which is more than one rule goes through` : ''}`,
        seen: [],
      }
    },
  },
  examples: [],
})
