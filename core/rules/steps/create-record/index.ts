import { z } from 'zod'
import type { Outcome } from '../../../engine/outcome'
import { isEmpty, type Value } from '../../../language/value'
import { OBJECT_WORDS, OBJECTS, type ObjectKind, type RecordRef, aOne } from '../../../records/kinds'
import { LINKABLE } from '../../../records/record'
import { checkText, fillText, mergeParts } from '../../merge'
import { defineStep, type StepProblem } from '../../step'
import { say, word, extra } from '../../../language/sentence'

interface Params {
  make: ObjectKind | null
  name: string
  /** For a deal: where it begins. */
  stage: string | null
  /** Whether another open one that is linked already keeps it from being made. */
  again: boolean
}

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
  hue: 'data',
  does: 'create a record',
  alsoCalled: ['new deal', 'new contact', 'new company', 'add', 'insert', 'make'],
  objects: ['deal', 'contact', 'company'],
  params: z.strictObject({
    make: z.enum(OBJECTS).nullable(),
    name: z.string().max(NAME_MOST),
    stage: z.string().max(100).nullable(),
    again: z.boolean(),
  }),
  form: {
    make: { widget: 'pick', options: OBJECTS.map((value) => ({ value, label: OBJECT_WORDS[value].one })) },
    name: { widget: 'mergeText', lines: 'one', most: NAME_MOST },
    stage: { widget: 'stage' },
    again: { widget: 'toggle', on: 'even if one is already linked', off: 'unless one is already linked' },
  },
  start: { make: null, name: '', stage: null, again: false },
  sentence({ make, name, stage, again }, names) {
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
      extra(
        'again',
        again
          ? 'even if one is already linked'
          : make === 'deal'
            ? 'unless an open one is already linked'
            : 'unless one is already linked',
        !again,
      ),
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
  gives: () => [{ key: 'name', label: 'name of the new record', type: 'text' }],
  run({ make, name, stage, again }, { catalogue, record, related, linked }): Outcome {
    if (make === null) return { go: 'fail', reason: { code: 'noRecordType' } }
    const own: RecordRef = { object: record.object, id: record.id }
    if (!again && make !== record.object) {
      const there = linked(make).find(
        ({ record: other }) => make !== 'deal' || catalogue.stage(String(other.values.stage))?.outcome === 'open',
      )
      if (there)
        return {
          go: 'skip',
          reason: { code: 'linkedAlready', name: String(there.record.values.name) },
        }
    }
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
