import { z } from 'zod'
import type { Effect } from '../../../effects'
import { OBJECT_WORDS, OBJECTS, type ObjectKind, type RecordRef } from '../../../records/kinds'
import { checkLinkable } from '../../linkable'
import { LINKABLE } from '../../../records/record'
import { defineStep } from '../../step'
import { say, word } from '../../../language/sentence'

interface Params {
  to: ObjectKind | null
  which: 'main' | 'all'
}

export const unlink = defineStep<'unlink', Params>({
  kind: 'unlink',
  category: 'data',
  does: 'remove a link',
  alsoCalled: ['unlink', 'disconnect', 'detach', 'remove association'],
  objects: OBJECTS,
  params: z.strictObject({ to: z.enum(OBJECTS).nullable(), which: z.enum(['main', 'all']) }),
  form: {
    to: { widget: 'linkable' },
    which: {
      widget: 'pick',
      options: [
        { value: 'main', label: 'the main', hint: 'the first where none is marked' },
        { value: 'all', label: 'all' },
      ],
    },
  },
  start: { to: null, which: 'main' },
  sentence: ({ to, which }) => [
    say(which === 'main' ? 'remove the link to ' : 'remove '),
    word('which', which === 'main' ? 'the main' : 'all', ''),
    say(which === 'main' ? ' ' : ' links to '),
    word('to', to && (which === 'main' ? OBJECT_WORDS[to].one : OBJECT_WORDS[to].many), 'record type'),
  ],
  check: ({ to }, names) => checkLinkable(to, names),
  run({ to, which }, { record, linked }) {
    if (to === null) return { go: 'fail', reason: { code: 'noRecordType' } }
    const found = linked(to)
    const some =
      which === 'all' ? found : [found.find((one) => one.main) ?? found[0]].filter((one) => one !== undefined)
    if (some.length === 0) return { go: 'skip', reason: { code: 'noLinks', to } }
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
      say: 'has nothing to unlink',
      params: { to: 'company', which: 'all' },
      expect: { go: 'skip', reason: { code: 'noLinks', to: 'company' } },
    },
  ],
})
