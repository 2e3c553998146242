import { seesRecord, type Scope } from '../../core/access/scope'
import { contextOf } from '../../core/engine/ways'
import { momentAt } from '../../core/engine/moment'
import { UNKNOWN_ADDRESS } from '../../core/messages/guards'
import type { Letter } from '../../core/messages/letter'
import type { RecordRef } from '../../core/records/kinds'
import type { RecordSnapshot } from '../../core/records/record'
import type { StepContext } from '../../core/rules/step'
import { STEPS } from '../../core/rules/steps'
import { recipientsOf, variantOf, type ForWhom } from '../../core/rules/steps/send-message/recipients'
import { saySkip } from '../../core/language/reasons'
import { htmlOf } from '../channels/mail/formatted'
import type { Workspace } from '../engine/workspace'
import { previewText } from '../engine/letter-text'
import { refuse } from '../engine/refuse'

/** How a message step would read for a record: to whom, when, and what would hold it back. Nothing is sent. */

const SHOWN = 20

export function previewLetters(workspace: Workspace, ref: RecordRef, given: object, scope: Scope) {
  const step = STEPS.sendMessage
  const read = step.params.safeParse({ ...step.start, ...given })
  if (!read.success) {
    const [issue] = read.error.issues
    const path = `params.${issue?.path.join('.') ?? ''}`
    throw refuse(path, { code: 'shape', at: '', said: issue?.message ?? 'is not valid' })
  }
  const params = read.data as typeof step.start & ForWhom & { template: number | null; channel: string }
  const record = workspace.store.records.read(ref)
  if (!record || !seesRecord(scope, record.values)) throw refuse('ref', { code: 'thisRecordGone' })
  const catalogue = workspace.catalogue()
  const moment = momentAt(workspace.clock.nowMs(), catalogue.workspace)
  const context = contextOf(
    { world: workspace.world, rule: { ruleId: 0, results: null }, moment },
    { id: 'preview', kind: 'sendMessage', params },
    record,
  )
  const recipients = recipientsOf(params, context).slice(0, SHOWN)
  const letters = recipients.map((contact) => letterTo(contact, params, context, workspace, record))
  return {
    letters,
    says: letters.length === 0 ? `${String(record.values.name ?? 'The record')} has no contact.` : '',
  }
}

/** One of them: by the step itself, with only that contact to write to; its text even where it would not go. */
function letterTo(
  contact: RecordSnapshot,
  params: object & { template: number | null },
  context: StepContext,
  workspace: Workspace,
  record: RecordSnapshot,
) {
  const only: StepContext = {
    ...context,
    related: (object) => (object === 'contact' ? contact : context.related(object)),
  }
  const one = { ...params, to: 'main' }
  const outcome = STEPS.sendMessage.run(one, only)
  const free = STEPS.sendMessage.run(
    { ...one, urgent: 'preview' },
    { ...only, post: { ...context.post, addressFacts: () => UNKNOWN_ADDRESS } },
  )
  const sent = [outcome, free].flatMap((each) =>
    each.go === 'on' ? each.effects.flatMap((effect) => (effect.effect === 'letter' ? [effect.letter] : [])) : [],
  )[0] as Letter | undefined
  const template = params.template === null ? null : workspace.catalogue().template(params.template)
  const own = params as { readonly subject?: string; readonly body?: string }
  const variant = template
    ? variantOf(template, contact, workspace.catalogue())
    : { language: '', subject: own.subject ?? '', text: own.body ?? '' }
  const text = sent ?? { ...previewText(workspace, record, variant, contact), from: null, address: null }
  return {
    contact: String(contact.values.name ?? ''),
    address: sent?.address ?? null,
    from: sent?.from.name ?? null,
    subject: text.subject,
    text: text.text,
    html: htmlOf(text.text),
    language: variant.language,
    goes: outcome.go === 'on' ? ('now' as const) : outcome.go === 'hold' ? ('later' as const) : ('never' as const),
    says:
      outcome.go === 'on'
        ? 'It would go now.'
        : outcome.go === 'hold'
          ? `Put off: ${outcome.say}.`
          : outcome.go === 'skip'
            ? `Not sent: ${saySkip(outcome.reason)}.`
            : 'Not sent.',
  }
}
