import { z } from 'zod'
import { say, word } from '../../../language/sentence'
import { aOne, OBJECT_WORDS, OBJECTS, oneOf, type ObjectKind } from '../../../records/kinds'
import { checkLinkable } from '../../linkable'
import { linkChange, linkedTo, onLink, type LinkMove } from '../../../signals/link'
import { defineTrigger } from '../../trigger'

interface Params {
  to: ObjectKind | null
  how: LinkMove
}

const HOW_WORDS: { readonly [M in LinkMove]: string } = { added: 'is linked to', removed: 'is no longer linked to' }

/** A contact comes to a deal, a deal goes to another company. */
export const linked = defineTrigger<'linked', Params>({
  kind: 'linked',
  does: 'a record is linked or unlinked',
  hint: 'A contact is added to a deal, for example. A record that is created with its links doesn’t count; the record it is linked to does.',
  objects: OBJECTS,
  params: z.strictObject({ to: z.enum(OBJECTS).nullable(), how: z.enum(['added', 'removed']) }),
  form: {
    to: { widget: 'linkable' },
    how: {
      widget: 'pick',
      options: [
        { value: 'added', label: HOW_WORDS.added },
        { value: 'removed', label: HOW_WORDS.removed },
      ],
    },
  },
  start: { to: null, how: 'added' },
  sentence: ({ to, how }, { object }) => [
    word('to', to && aOne(to), 'a record type'),
    say(' '),
    word('how', HOW_WORDS[how], ''),
    say(` the ${oneOf(object)}`),
  ],
  check: ({ to }, names) => checkLinkable(to, names),
  listen: ({ to, how }) => (to === null ? [] : [onLink(to, how)]),
  compile:
    ({ to, how }) =>
    (event) =>
      event.kind === 'linked' &&
      event.changes.some((change) => linkedTo(change) === to && (how === 'added') === (change.new !== null)),
  because: ({ to, how }, _event, { object }) =>
    `${to ? aOne(to) : 'a record'} ${how === 'added' ? 'was linked to' : 'is no longer linked to'} the ${OBJECT_WORDS[object].one}`,
  examples: [
    {
      say: 'a contact is added',
      object: 'deal',
      params: { to: 'contact', how: 'added' },
      event: { kind: 'linked', changes: [linkChange('contact', 7, 'added')] },
      starts: true,
    },
    {
      say: 'a company is added',
      object: 'deal',
      params: { to: 'contact', how: 'added' },
      event: { kind: 'linked', changes: [linkChange('company', 7, 'added')] },
      starts: false,
    },
    {
      say: 'a contact is unlinked',
      object: 'deal',
      params: { to: 'contact', how: 'added' },
      event: { kind: 'linked', changes: [linkChange('contact', 7, 'removed')] },
      starts: false,
    },
    {
      say: 'a deal is unlinked from a company',
      object: 'company',
      params: { to: 'deal', how: 'removed' },
      event: { kind: 'linked', changes: [linkChange('deal', 7, 'removed')] },
      starts: true,
    },
  ],
})
