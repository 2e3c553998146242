import { z } from 'zod'
import type { Effect } from '../../../engine/effects'
import { OBJECT_WORDS, OBJECTS, type ObjectKind, type RecordRef } from '../../../records/kinds'
import { isEitherWayLinkable, LINKABLE } from '../../../records/record'
import { defineStep } from '../../step'
import { say, word } from '../../../language/sentence'

interface Params {
  to: ObjectKind | null
  which: 'main' | 'all'
}

export const unlink = defineStep<'unlink', Params>({
  kind: 'unlink',
  hue: 'data',
  does: 'take a link away',
  alsoCalled: ['unlink', 'disconnect', 'detach', 'remove association'],
  objects: ['deal', 'contact', 'company'],
  params: z.strictObject({ to: z.enum(OBJECTS).nullable(), which: z.enum(['main', 'all']) }),
  form: {
    to: { widget: 'linkable' },
    which: {
      widget: 'pick',
      options: [
        { value: 'main', label: 'its main', hint: 'the first where none is marked' },
        { value: 'all', label: 'every' },
      ],
    },
  },
  start: { to: null, which: 'main' },
  sentence: ({ to, which }) => [
    say('take the link to '),
    word('which', which === 'main' ? 'its main' : 'every', ''),
    say(' '),
    word('to', to && OBJECT_WORDS[to].one, 'kind of record'),
    say(' away'),
  ],
  check: ({ to }, { object }) =>
    to === null
      ? [{ param: 'to', problem: { code: 'missing', what: 'the kind of record' } }]
      : isEitherWayLinkable(object, to)
        ? []
        : [{ param: 'to', problem: { code: 'shape', detail: `a ${object} is not linked to a ${to}` } }],
  run({ to, which }, { record, linked }) {
    if (to === null) return { go: 'fail', reason: { code: 'refused', reason: 'it does not say which links' } }
    const found = linked(to)
    const some =
      which === 'all' ? found : [found.find((one) => one.main) ?? found[0]].filter((one) => one !== undefined)
    if (some.length === 0) return { go: 'skip', reason: { code: 'own', say: `no ${to} is linked to it` } }
    const own: RecordRef = { object: record.object, id: record.id }
    const forward = LINKABLE.some((pair) => pair.from === own.object && pair.to === to)
    return {
      go: 'on',
      effects: some.map(({ record: other }): Effect => {
        const ref: RecordRef = { object: other.object, id: other.id }
        return {
          effect: 'unlink',
          from: forward ? own : ref,
          to: forward ? ref : own,
          name: String(other.values.name ?? ''),
        }
      }),
    }
  },
  examples: [
    {
      say: 'has nothing to take away',
      params: { to: 'company', which: 'all' },
      expect: { go: 'skip', reason: { code: 'own', say: 'no company is linked to it' } },
    },
  ],
})
