import type { Missing } from '../../../language/missing'
import type { SkipReason } from '../../../language/reasons'
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
import { say, word, extra } from '../../../language/sentence'
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
  category: 'data',
  does: 'link records that match',
  alsoCalled: ['associate', 'connect', 'relate', 'mail domain', 'company of a contact', 'automatic link'],
  objects: OBJECTS,
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
    publicToo: { widget: 'toggle', on: 'use public email domains too', off: 'ignore public email domains' },
    leftOut: { widget: 'lines', of: 'Ignore these (one per line)' },
  },
  start: { to: null, theirField: null, part: 'whole', ownField: null, several: 'leave', publicToo: false, leftOut: [] },
  sentence({ to, theirField, part, ownField, several, publicToo, leftOut }, { catalogue, object }) {
    const [own, their] = [
      ownField === null ? null : catalogue.field(object, ownField),
      to === null || theirField === null ? null : catalogue.field(to, theirField),
    ]
    return [
      say('link it to the '),
      word('to', to && OBJECT_WORDS[to].one, 'record type'),
      say(' whose '),
      word('theirField', fieldWord(their) ?? theirField, 'field'),
      say(' matches '),
      { param: 'part', text: part === 'whole' ? 'the whole of' : `${MATCH_PART_WORDS[part]} of` },
      say(' its '),
      word('ownField', fieldWord(own) ?? ownField, 'field'),
      say('; '),
      extra('several', `if several match, ${SEVERAL_WORDS[several]}`, several === 'leave'),
      ...(part === 'domain'
        ? [
            say('; '),
            extra('publicToo', publicToo ? 'use public email domains too' : 'ignore public email domains', !publicToo),
          ]
        : []),
      say(leftOut.length > 0 ? '; also ignore ' : '; '),
      {
        param: 'leftOut',
        text:
          leftOut.length === 0
            ? 'ignore nothing else'
            : leftOut.length > 3
              ? `${leftOut.slice(0, 2).join(', ')} and ${leftOut.length - 2} more`
              : leftOut.join(', '),
        usual: leftOut.length === 0,
      },
    ]
  },
  check({ to, theirField, part, ownField }, { catalogue, object }) {
    const problems: StepProblem[] = []
    const missing = (param: string, what: Missing) => problems.push({ param, problem: { code: 'missing', what } })
    if (to === null) missing('to', 'linkTo')
    else if (!isEitherWayLinkable(object, to))
      problems.push({ param: 'to', problem: { code: 'notLinked', object, to } })
    const their = to === null || theirField === null ? null : catalogue.field(to, theirField)
    const own = ownField === null ? null : catalogue.field(object, ownField)
    if (theirField === null) missing('theirField', 'matchField')
    else if (to !== null && !their)
      problems.push({ param: 'theirField', problem: { code: 'unknownField', field: theirField } })
    if (ownField === null) missing('ownField', 'ownField')
    else if (!own) problems.push({ param: 'ownField', problem: { code: 'unknownField', field: ownField } })
    if (own && their && !partsFor(own, their).includes(part)) {
      const fit = partsFor(own, their)
      problems.push({
        param: fit.length === 0 ? 'ownField' : 'part',
        problem: {
          ...(fit.length === 0
            ? ({ code: 'notComparable', one: own.label, other: their.label } as const)
            : ({
                code: 'compareBy',
                one: own.label,
                other: their.label,
                by: fit.map((one) => MATCH_PART_WORDS[one]),
              } as const)),
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
    const skip = (reason: SkipReason) => ({ go: 'skip', reason }) as const
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
        return skip({ code: 'hasLink', to })
      case 'empty':
        return skip({ code: 'nothingToMatch', field: catalogue.field(record.object, ownField)?.label ?? ownField })
      case 'leftOut':
        return skip({ code: 'ignored', form: choice.form })
      case 'none':
        return skip({ code: 'noMatch', to, form: choice.form })
      case 'several':
        return skip({
          code: 'severalMatch',
          to,
          form: choice.form,
          count: choice.among.length,
          names: choice.among.slice(0, 3).map((other) => String(other.values.name ?? '')),
        })
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
      expect: { go: 'skip', reason: { code: 'nothingToMatch', field: 'Email' } },
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
      expect: { go: 'skip', reason: { code: 'noMatch', to: 'company', form: 'lund.example' } },
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
      expect: { go: 'skip', reason: { code: 'ignored', form: 'post.example' } },
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
