import type { Person } from '../../core/fields/field'
import { foldText } from '../../core/language/value'
import type { GivenTemplate, Template } from '../../core/messages/template'
import { referencesOf } from '../../core/rules/references'
import { previewText } from './letter-text'
import { rulesWhere, ruleUse } from './rules-where'
import type { Workspace } from './workspace'
import { refuse } from './refuse'

/** Templates of messages. */

const TEMPLATES_MOST = 500
const names = (id: number) => (rule: Parameters<typeof referencesOf>[0]) =>
  referencesOf(rule).some(({ reference }) => reference.to === 'template' && reference.id === id)

/** The rules that use a template. */
export const rulesWith = (workspace: Workspace, id: number) =>
  rulesWhere(workspace, names(id)).map((rule) => ({ id: rule.id, name: rule.draft.name }))

function check(workspace: Workspace, given: GivenTemplate, but: number | null): void {
  const same = (workspace.catalogue().data.templates ?? []).find(
    (one) => one.id !== but && !one.archived && foldText(one.name) === foldText(given.name),
  )
  if (same) throw refuse('name', { code: 'sameName', of: 'template', name: same.name })
}

export function makeTemplate(workspace: Workspace, given: GivenTemplate, personId: string): number {
  if ((workspace.catalogue().data.templates ?? []).length >= TEMPLATES_MOST)
    throw refuse('name', { code: 'noMoreThan', of: 'template', most: TEMPLATES_MOST })
  check(workspace, given, null)
  const id = workspace.db.atomically(() => workspace.store.templates.add(given, personId, workspace.clock.nowMs()))
  workspace.tellCatalogue()
  return id
}

/** Changes its texts, or archives it: refused while rules use it. */
export function changeTemplate(
  workspace: Workspace,
  template: Template,
  change: { readonly template?: GivenTemplate | undefined; readonly archived?: boolean | undefined },
  personId: string,
): void {
  const { archived } = change
  if (change.template) check(workspace, change.template, template.id)
  if (change.template && change.template.channel !== template.channel) throw refuse('channel', { code: 'keepsChannel' })
  const use = archived === true ? ruleUse(workspace, names(template.id)) : null
  if (use) throw refuse('archived', { code: 'inUse', name: template.name, cannot: 'archived', by: use })
  workspace.db.atomically(() => {
    if (change.template)
      workspace.store.templates.change(template.id, change.template, personId, workspace.clock.nowMs())
    if (archived !== undefined) workspace.store.templates.setArchived(template.id, archived)
  })
  workspace.tellCatalogue()
}

/** Sends a template, as it would read for a contact, to whoever asks; the contact gets nothing. */
export function sendTest(
  workspace: Workspace,
  template: Template,
  { contactId, language }: { readonly contactId: number; readonly language: string },
  person: Person,
): string {
  const contact = workspace.store.records.read({ object: 'contact', id: contactId })
  if (!contact) throw refuse('contactId', { code: 'recordGone', object: 'contact', id: contactId })
  const variant = template.variants.find((one) => foldText(one.language) === foldText(language)) ?? template.variants[0]
  const { subject, text } = previewText(workspace, contact, variant ?? { subject: '', text: '' })
  const nowMs = workspace.clock.nowMs()
  workspace.db.inTurn(() =>
    workspace.store.outbox.add(
      {
        key: `test-${template.id}-${template.version}-${person.id}-${nowMs}`,
        channel: 'mail',
        recipient: person.email,
        subject: `Test: ${subject === '' ? template.name : subject}`,
        body: text,
        runId: null,
        more: null,
      },
      nowMs,
    ),
  )
  workspace.courier.wake()
  return person.email
}
