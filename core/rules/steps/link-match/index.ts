import { z } from 'zod'
import {
  chooseLink,
  linkEnds,
  MATCH_PART_WORDS,
  MATCH_PARTS,
  partsFor,
  SEVERAL,
  SEVERAL_WORDS,
  type MatchPart,
  type Several,
} from '../../../linking/link-by'
import { OBJECT_WORDS, OBJECTS, type ObjectKind } from '../../../records/kinds'
import { isEitherWayLinkable } from '../../../records/record'
import { defineStep, type StepProblem } from '../../step'
import { say, word } from '../../../language/sentence'
import { fieldWord } from '../../../fields/say-value'

interface Params {
  to: ObjectKind | null
  theirField: string | null
  part: MatchPart
  ownField: string | null
  several: Several
  publicToo: boolean
  leftOut: string[]
}

const pick = <T extends string>(all: readonly T[], words: { readonly [K in T]: string }) =>
  all.map((value) => ({ value, label: words[value] }))

export const linkMatch = defineStep<'linkMatch', Params>({
  kind: 'linkMatch',
  hue: 'data',
  does: 'link it to what matches',
  alsoCalled: ['associate', 'connect', 'relate', 'mail domain', 'company of a contact', 'automatic link'],
  objects: ['deal', 'contact', 'company'],
  params: z.strictObject({
    to: z.enum(OBJECTS).nullable(),
    theirField: z.string().max(100).nullable(),
    part: z.enum(MATCH_PARTS),
    ownField: z.string().max(100).nullable(),
    several: z.enum(SEVERAL),
    publicToo: z.boolean(),
    leftOut: z.array(z.string().max(200)).max(500),
  }),
  form: {
    to: { widget: 'linkable' },
    theirField: { widget: 'field', writable: false, object: 'to' },
    part: { widget: 'pick', options: pick(MATCH_PARTS, MATCH_PART_WORDS) },
    ownField: { widget: 'field', writable: false },
    several: { widget: 'pick', options: pick(SEVERAL, SEVERAL_WORDS) },
    publicToo: { widget: 'toggle', on: 'public mail domains count too', off: 'public mail domains do not count' },
    leftOut: { widget: 'lines', of: 'what shall not count, one a line' },
  },
  start: { to: null, theirField: null, part: 'whole', ownField: null, several: 'leave', publicToo: false, leftOut: [] },
  sentence({ to, theirField, part, ownField, several, publicToo, leftOut }, { catalogue, object }) {
    const [own, their] = [
      ownField === null ? null : catalogue.field(object, ownField),
      to === null || theirField === null ? null : catalogue.field(to, theirField),
    ]
    return [
      say('link it to the '),
      word('to', to && OBJECT_WORDS[to].one, 'kind of record'),
      say(' whose '),
      word('theirField', fieldWord(their) ?? theirField, 'field'),
      say(' matches '),
      { param: 'part', text: MATCH_PART_WORDS[part] },
      say(' its '),
      word('ownField', fieldWord(own) ?? ownField, 'field'),
      say('; when several do, '),
      { param: 'several', text: SEVERAL_WORDS[several] },
      ...(part === 'domain'
        ? [
            say('; '),
            {
              param: 'publicToo',
              text: publicToo ? 'public mail domains count too' : 'public mail domains do not count',
            },
          ]
        : []),
      say(leftOut.length > 0 ? ', nor does ' : ', '),
      {
        param: 'leftOut',
        text:
          leftOut.length === 0
            ? 'except …'
            : leftOut.length > 3
              ? `${leftOut.slice(0, 2).join(', ')} and ${leftOut.length - 2} more`
              : leftOut.join(', '),
        soft: leftOut.length === 0,
      },
    ]
  },
  check({ to, theirField, part, ownField }, { catalogue, object }) {
    const problems: StepProblem[] = []
    const missing = (param: string, what: string) => problems.push({ param, problem: { code: 'missing', what } })
    if (to === null) missing('to', 'what it is linked to')
    else if (!isEitherWayLinkable(object, to))
      problems.push({ param: 'to', problem: { code: 'shape', detail: `a ${object} cannot be linked to a ${to}` } })
    const their = to === null || theirField === null ? null : catalogue.field(to, theirField)
    const own = ownField === null ? null : catalogue.field(object, ownField)
    if (theirField === null) missing('theirField', 'the field it is found by')
    else if (to !== null && !their)
      problems.push({ param: 'theirField', problem: { code: 'unknownField', field: theirField } })
    if (ownField === null) missing('ownField', 'its own field')
    else if (!own) problems.push({ param: 'ownField', problem: { code: 'unknownField', field: ownField } })
    if (own && their && !partsFor(own, their).includes(part)) {
      const fit = partsFor(own, their)
      problems.push({
        param: fit.length === 0 ? 'ownField' : 'part',
        problem: {
          code: 'shape',
          detail:
            fit.length === 0
              ? `${own.label} and ${their.label} hold different things`
              : `${own.label} and ${their.label} can be compared by ${fit.map((one) => MATCH_PART_WORDS[one]).join(' or ')} them`,
        },
      })
    }
    return problems
  },
  run({ to, theirField, ownField, ...rest }, { catalogue, record, linked, alike }) {
    if (to === null || theirField === null || ownField === null)
      return { go: 'fail', reason: { code: 'unknownField', field: theirField ?? ownField ?? '' } }
    const their = catalogue.field(to, theirField)
    if (!their || !catalogue.field(record.object, ownField))
      return { go: 'fail', reason: { code: 'unknownField', field: their ? ownField : theirField } }
    const choice = chooseLink({ ...rest, to, theirField, ownField }, record, {
      catalogue,
      alike: (form) => alike(to, theirField, rest.part, form),
      linkedTo: () => linked(to).map((one) => one.record.id),
      taken: () => false,
    })
    const { one, many } = OBJECT_WORDS[to]
    const skip = (text: string) => ({ go: 'skip', reason: { code: 'own', say: text } }) as const
    switch (choice.is) {
      case 'link':
        return {
          go: 'on',
          effects: choice.to.map((other) => ({
            effect: 'link',
            ...linkEnds({ object: record.object, id: record.id }, { object: to, id: other.id }),
            name: String(other.values.name ?? ''),
          })),
        }
      case 'linked':
        return skip(`it is linked to a ${one} already`)
      case 'empty':
        return skip(`${catalogue.field(record.object, ownField)?.label ?? ownField} holds nothing to match by`)
      case 'leftOut':
        return skip(`${choice.form} does not count`)
      case 'none':
        return skip(`no ${one} matches ${choice.form}`)
      case 'several':
        return skip(
          `${choice.among.length} ${many} match ${choice.form}: ${choice.among
            .slice(0, 3)
            .map((other) => String(other.values.name ?? ''))
            .join(', ')}`,
        )
    }
  },
  examples: [
    {
      say: 'nothing to match by',
      object: 'contact',
      params: {
        to: 'company',
        theirField: 'domain',
        part: 'domain',
        ownField: 'email',
        several: 'leave',
        publicToo: false,
        leftOut: [],
      },
      record: { email: null },
      expect: { go: 'skip', reason: { code: 'own', say: 'Email holds nothing to match by' } },
    },
    {
      say: 'nothing matches',
      object: 'contact',
      params: {
        to: 'company',
        theirField: 'domain',
        part: 'domain',
        ownField: 'email',
        several: 'leave',
        publicToo: false,
        leftOut: [],
      },
      record: { email: 'ada@lund.example' },
      expect: { go: 'skip', reason: { code: 'own', say: 'no company matches lund.example' } },
    },
    {
      say: 'a public mail domain',
      object: 'contact',
      params: {
        to: 'company',
        theirField: 'domain',
        part: 'domain',
        ownField: 'email',
        several: 'leave',
        publicToo: false,
        leftOut: ['post.example'],
      },
      record: { email: 'ada@post.example' },
      expect: { go: 'skip', reason: { code: 'own', say: 'post.example does not count' } },
    },
    {
      say: 'a field that has gone',
      object: 'contact',
      params: {
        to: 'company',
        theirField: 'gone',
        part: 'whole',
        ownField: 'email',
        several: 'leave',
        publicToo: false,
        leftOut: [],
      },
      expect: { go: 'fail', reason: { code: 'unknownField', field: 'gone' } },
    },
  ],
})
