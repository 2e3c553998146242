import { z } from 'zod'
import type { Outcome } from '../../../engine/outcome'
import { isEmpty, type Value } from '../../../language/value'
import { OBJECT_WORDS, OBJECTS, type ObjectKind, type RecordRef, aOne } from '../../../records/kinds'
import { LINKABLE } from '../../../records/record'
import { checkText, fillText, mergeParts } from '../../merge'
import {
  ALIKE_TYPES,
  besideWidget,
  isAlike,
  openBeside,
  sayAlike,
  sayBeside,
  zBeside,
  type Beside,
} from '../../open-beside'
import { defineStep, type StepProblem } from '../../step'
import { say, word, extra } from '../../../language/sentence'

interface Params {
  make: ObjectKind | null
  name: string
  /** For a deal: where it begins. */
  stage: string | null
  /** Whether another one that is linked already keeps a contact or company from being made. */
  again: boolean
  /** Which open deal keeps another one from being made; as `again` says of those that are linked, when left out. */
  beside?: Beside | undefined
  /** A field in which that one holds the same as the deal that the rule runs for; any counts, when left out. */
  alike?: string | null | undefined
}

const besideOf = ({ again, beside }: Params): Beside => beside ?? (again ? 'none' : 'either')

const NAME_MOST = 300

/**
 * The records that a new one is linked to: the one it is made for, and that one's main linked ones that fit as well.
 */
export function linksFor(make: ObjectKind, own: RecordRef, mains: readonly RecordRef[]): readonly RecordRef[] {
  const fits = (to: RecordRef) => LINKABLE.some((pair) => pair.from === make && pair.to === to.object)
  return [own, ...mains].filter(
    (one, i, all) => fits(one) && all.findIndex((other) => other.object === one.object) === i,
  )
}

export const createRecord = defineStep<'createRecord', Params>({
  kind: 'createRecord',
  category: 'data',
  does: 'create a record',
  alsoCalled: ['new deal', 'new contact', 'new company', 'add', 'insert', 'make'],
  objects: OBJECTS,
  params: z.strictObject({
    make: z.enum(OBJECTS).nullable(),
    name: z.string().max(NAME_MOST),
    stage: z.string().max(100).nullable(),
    again: z.boolean(),
    beside: zBeside.optional(),
    alike: z.string().max(100).nullable().optional(),
  }),
  form: {
    make: { widget: 'pick', options: OBJECTS.map((value) => ({ value, label: OBJECT_WORDS[value].one })) },
    name: { widget: 'mergeText', lines: 'one', most: NAME_MOST },
    stage: { widget: 'stage' },
    again: { widget: 'toggle', on: 'even if one is already linked', off: 'unless one is already linked' },
    beside: besideWidget,
    alike: { widget: 'field', writable: false, types: ALIKE_TYPES, label: 'Same value in', none: 'of any kind' },
  },
  start: { make: null, name: '', stage: null, again: false, beside: 'either', alike: null },
  sentence(params, names) {
    const { make, name, stage, again, alike = null } = params
    const beside = besideOf(params)
    const found = stage === null ? null : names.catalogue.stage(stage)
    const pipeline = found && names.catalogue.pipeline(found.pipelineId)
    return [
      say('create '),
      word('make', make && aOne(make), 'a record'),
      say(' named “'),
      ...mergeParts('name', name, word('name', null, 'name'), names),
      say('”'),
      ...(make === 'deal'
        ? [say(' in '), word('stage', found?.name ?? null, 'a stage'), say(pipeline ? ` (${pipeline.name})` : '')]
        : []),
      say(' and link it, '),
      ...(make === 'deal'
        ? [
            extra('beside', sayBeside(beside), beside === 'either' && alike === null),
            ...(beside === 'none' || names.object !== 'deal' ? [] : sayAlike(alike, 'deal', names.catalogue)),
          ]
        : [extra('again', again ? 'even if one is already linked' : 'unless one is already linked', !again)]),
    ]
  },
  check({ make, name, stage }, { catalogue, object }) {
    const problems: StepProblem[] = []
    if (make === null) problems.push({ param: 'make', problem: { code: 'missing', what: 'make' } })
    if (name.trim() === '') problems.push({ param: 'name', problem: { code: 'missing', what: 'name' } })
    for (const problem of checkText(name, object, catalogue)) problems.push({ param: 'name', problem })
    if (make === 'deal' && (stage === null || !catalogue.stage(stage)))
      problems.push({ param: 'stage', problem: { code: 'missing', what: 'stage' } })
    return problems
  },
  ways: {
    made: true,
    otherwise: false,
    single: false,
    object: ({ make }, object) => make ?? object,
    begin: (_params, _names, fresh) => [{ id: fresh('b'), steps: [] }],
    misfit: (branches, branch) =>
      branches.length !== 1
        ? 'A new record has exactly one path.'
        : branch.when !== undefined || branch.value !== undefined
          ? 'The path of a new record can’t have conditions or a value.'
          : null,
    label: (_branch, _index, _branches, { make }) => `for the new ${make === null ? 'record' : OBJECT_WORDS[make].one}`,
    check: () => [],
  },
  gives: () => [{ key: 'name', label: 'name of the new record', type: 'text' }],
  run(params, context): Outcome {
    const { make, name, stage, again, alike = null } = params
    const { catalogue, record, related, linked } = context
    if (make === null) return { go: 'fail', reason: { code: 'noRecordType' } }
    const own: RecordRef = { object: record.object, id: record.id }
    const there =
      make === 'deal'
        ? openBeside(
            besideOf(params),
            own,
            context,
            (deal) => record.object !== 'deal' || isAlike(deal, record, alike, catalogue),
          )
        : again || make === record.object
          ? null
          : (linked(make)[0]?.record ?? null)
    if (there) return { go: 'skip', reason: { code: 'linkedAlready', name: String(there.values.name) } }
    const mains = OBJECTS.flatMap((kind) => {
      const main = kind === record.object ? null : related(kind)
      return main ? [{ object: main.object, id: main.id }] : []
    })
    const called = fillText(name, record, related, catalogue).trim().slice(0, NAME_MOST)
    const owner = record.values.owner ?? null
    const values: Record<string, Value> = {
      name: called,
      ...(catalogue.field(make, 'owner') && !isEmpty(owner) ? { owner } : {}),
      ...(make === 'deal' ? { stage } : {}),
    }
    // A link is kept from the deal or the contact: a company that is made for one of these is linked from there.
    const from = LINKABLE.some((pair) => pair.from === record.object && pair.to === make) ? own : null
    return {
      go: 'on',
      effects: [
        { effect: 'created', object: make, values, linkTo: linksFor(make, own, mains), linkFrom: from, name: called },
      ],
      gives: { name: called },
      way: 0,
    }
  },
  examples: [
    {
      say: 'makes a deal for a company',
      object: 'company',
      params: { make: 'deal', name: 'Renewal, {{company.name}}', stage: 'ren-due', again: false },
      record: { name: 'Lund', owner: 'rosa' },
      expect: {
        go: 'on',
        effects: [
          {
            effect: 'created',
            object: 'deal',
            values: { name: 'Renewal, Lund', owner: 'rosa', stage: 'ren-due' },
            linkTo: [{ object: 'company', id: 1 }],
            linkFrom: null,
            name: 'Renewal, Lund',
          },
        ],
      },
    },
    {
      say: 'makes a company for a deal',
      params: { make: 'company', name: '{{deal.name}}', stage: null, again: false },
      record: { name: 'Lund', owner: null },
      expect: {
        go: 'on',
        effects: [
          {
            effect: 'created',
            object: 'company',
            values: { name: 'Lund' },
            linkTo: [],
            linkFrom: { object: 'deal', id: 1 },
            name: 'Lund',
          },
        ],
      },
    },
    {
      say: 'does not know what',
      params: { make: null, name: 'x', stage: null, again: false },
      expect: { go: 'fail', reason: { code: 'noRecordType' } },
    },
  ],
})
