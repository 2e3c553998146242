import { z } from 'zod'
import type { Effect } from '../../../effects'
import type { Outcome } from '../../../engine/outcome'
import { isEmpty, type Values } from '../../../language/value'
import { matchForm } from '../../../linking/link-by'
import { PUBLIC_MAIL_DOMAINS } from '../../../linking/public-mail'
import { checkText, fillText, mergeParts } from '../../merge'
import { defineStep, type StepProblem } from '../../step'
import { say, word, extra } from '../../../language/sentence'

interface Params {
  stage: string | null
  name: string
  /** Makes a company from the mail domain, for a contact that has none. */
  company: boolean
  /** Even if the contact has an open deal in that pipeline. */
  again: boolean
}

const NAME_MOST = 300

/** "lund.example" → "Lund". */
const nameOfDomain = (domain: string): string => {
  const [first = domain] = domain.split('.')
  return first.charAt(0).toUpperCase() + first.slice(1)
}

/** Makes a deal of a contact. */
export const qualify = defineStep<'qualify', Params>({
  kind: 'qualify',
  category: 'data',
  does: 'qualify the contact (create a deal)',
  alsoCalled: ['convert', 'lead', 'opportunity', 'new deal', 'promote'],
  objects: ['contact'],
  params: z.strictObject({
    stage: z.string().max(100).nullable(),
    name: z.string().max(NAME_MOST),
    company: z.boolean(),
    again: z.boolean(),
  }),
  form: {
    stage: { widget: 'stage' },
    name: { widget: 'mergeText', lines: 'one', most: NAME_MOST },
    company: {
      widget: 'toggle',
      on: 'creating a company from the email domain if needed',
      off: 'with its company, if any',
    },
    again: { widget: 'toggle', on: 'even if it has an open deal there', off: 'unless it has an open deal there' },
  },
  start: { stage: null, name: '{{contact.name}}', company: false, again: false },
  sentence({ stage, name, company, again }, names) {
    const found = stage === null ? null : names.catalogue.stage(stage)
    const pipeline = found && names.catalogue.pipeline(found.pipelineId)
    return [
      say('qualify the contact: create deal “'),
      ...mergeParts('name', name, word('name', null, 'name'), names),
      say('” in '),
      word('stage', found?.name ?? null, 'a stage'),
      say(pipeline ? ` (${pipeline.name}), ` : ', '),
      extra(
        'company',
        company ? 'creating a company from the email domain if needed' : 'with its company, if any',
        !company,
      ),
      say(', '),
      extra('again', again ? 'even if it has an open deal there' : 'unless it has an open deal there', !again),
    ]
  },
  check({ stage, name }, { catalogue, object }) {
    const problems: StepProblem[] = []
    if (stage === null || !catalogue.stage(stage))
      problems.push({ param: 'stage', problem: { code: 'missing', what: 'stage' } })
    if (name.trim() === '') problems.push({ param: 'name', problem: { code: 'missing', what: 'dealName' } })
    for (const problem of checkText(name, object, catalogue)) problems.push({ param: 'name', problem })
    return problems
  },
  gives: () => [{ key: 'name', label: 'name of the deal', type: 'text' }],
  run({ stage, name, company, again }, { catalogue, record, related, linked }): Outcome {
    const to = stage === null ? null : catalogue.stage(stage)
    if (!to) return { go: 'fail', reason: { code: 'unknownStage', stage: String(stage) } }
    const open = again
      ? undefined
      : linked('deal').find(({ record: deal }) => {
          const at = catalogue.stage(String(deal.values.stage))
          return at?.outcome === 'open' && at.pipelineId === to.pipelineId
        })
    if (open) return { go: 'skip', reason: { code: 'openThere', deal: String(open.record.values.name) } }
    const called = fillText(name, record, related, catalogue).trim().slice(0, NAME_MOST)
    const own = { object: 'contact' as const, id: record.id }
    const owner = record.values.owner ?? null
    const owned: Values = isEmpty(owner) ? {} : { owner }
    const firm = related('company')
    const email = catalogue.field('contact', 'email')
    const domain =
      email && !isEmpty(record.values.email) ? matchForm(record.values.email ?? null, email, 'domain', catalogue) : null
    const makes = !firm && company && domain !== null && !PUBLIC_MAIL_DOMAINS.has(domain)
    const effects: Effect[] = []
    if (makes)
      effects.push({
        effect: 'created',
        object: 'company',
        values: {
          name: nameOfDomain(domain),
          ...(catalogue.field('company', 'domain')?.type === 'text' ? { domain } : {}),
          ...(catalogue.field('company', 'owner') ? owned : {}),
        },
        linkTo: [],
        linkFrom: own,
        name: nameOfDomain(domain),
      })
    effects.push({
      effect: 'created',
      object: 'deal',
      values: { name: called, stage: to.id, ...owned },
      linkTo: firm ? [own, { object: 'company', id: firm.id }] : [own],
      ...(makes ? { linkToMade: true } : {}),
      linkFrom: null,
      name: called,
    })
    // What waited for the contact has had its time: a deal has come of it.
    effects.push({ effect: 'ended', ref: own, because: `the contact was qualified as deal “${called}”` })
    return { go: 'on', effects, gives: { name: called } }
  },
  examples: [
    {
      say: 'makes a deal with its owner',
      object: 'contact',
      params: { stage: 'enq-fresh', name: '{{contact.name}}', company: false, again: false },
      record: { name: 'Ana', owner: 'rosa', email: 'ana@lund.example' },
      expect: {
        go: 'on',
        effects: [
          {
            effect: 'created',
            object: 'deal',
            values: { name: 'Ana', stage: 'enq-fresh', owner: 'rosa' },
            linkTo: [{ object: 'contact', id: 1 }],
            linkFrom: null,
            name: 'Ana',
          },
          { effect: 'ended', ref: { object: 'contact', id: 1 }, because: 'the contact was qualified as deal “Ana”' },
        ],
      },
    },
    {
      say: 'makes its company too',
      object: 'contact',
      params: { stage: 'enq-fresh', name: '{{contact.name}}', company: true, again: false },
      record: { name: 'Ana', owner: null, email: 'ana@lund.example' },
      expect: {
        go: 'on',
        effects: [
          { effect: 'created', object: 'company', name: 'Lund' },
          { effect: 'created', object: 'deal', linkToMade: true },
          { effect: 'ended' },
        ] as never,
      },
    },
    {
      say: 'a stage that has gone',
      object: 'contact',
      params: { stage: 'gone', name: 'x', company: false, again: false },
      expect: { go: 'fail', reason: { code: 'unknownStage', stage: 'gone' } },
    },
  ],
})
