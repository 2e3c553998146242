import { figure } from '../../core/language/counts'
import { hasVariant, type Template } from '../../core/messages/template'
import { checkText, splitText } from '../../core/rules/merge'
import { sayProblem } from '../../core/language/problems'
import { rulesWith } from '../engine/templates'
import type { Workspace } from '../engine/workspace'

/** Templates with who uses them, and what is wrong with them or may be. */

/** What mail programs take for unwanted mail. */
const LOUD = /[A-Z]{12,}|!{3,}|\b(free money|act now|100% free|winner|click here)\b/

function languagesOf(workspace: Workspace): readonly string[] {
  return (workspace.catalogue().field('contact', 'language')?.choices ?? []).map(({ label }) => label)
}

function findingsOf(workspace: Workspace, template: Template, languages: readonly string[]): readonly string[] {
  const catalogue = workspace.catalogue()
  const found: string[] = []
  const add = (text: string): void => {
    if (!found.includes(text)) found.push(text)
  }
  const total = workspace.store.records.count('contact')
  for (const { language, subject, text } of template.variants) {
    const where = language === '' ? '' : ` (${language})`
    if (template.channel === 'mail' && subject.trim() === '') add(`No subject${where}`)
    if (text.trim() === '') add(`No text${where}`)
    if (/http:\/\//i.test(text)) add(`A link without https${where}`)
    if (LOUD.test(`${subject} ${text}`)) add(`Reads like unwanted mail${where}`)
    if (template.channel === 'text' && text.length > 320) add(`Longer than two text messages${where}`)
    for (const part of [...splitText(subject), ...splitText(text)]) {
      if (!('merge' in part)) continue
      const [of, key = ''] = part.merge.split('.')
      // Deals and companies are those of the rule that sends it.
      const problems = of === 'contact' ? checkText(`{{${part.merge}}}`, 'contact', catalogue) : []
      for (const problem of problems) add(`${sayProblem(problem)}${where}`)
      const field = of === 'contact' ? catalogue.field('contact', key) : null
      if (!field || part.or !== undefined || total === 0) continue
      const without = total - workspace.store.records.filled(field)
      if (without * 2 >= total)
        add(`${field.label} is empty for ${figure(without)} of ${figure(total)} contacts, and nothing is said for that`)
    }
  }
  const missing = languages.filter((one) => !hasVariant(template, one))
  if (template.variants.length > 1 && missing.length > 0) add(`No text of its own in ${missing.join(', ')}`)
  return found
}

export function templateSheets(workspace: Workspace) {
  const languages = languagesOf(workspace)
  const changes = workspace.store.templates.changes()
  return {
    templates: (workspace.catalogue().data.templates ?? []).map((template) => ({
      ...template,
      variants: template.variants.map((one) => ({ ...one })),
      changedBy: changes.get(template.id)?.by ?? null,
      changedAt: changes.get(template.id)?.atMs ?? 0,
      rules: rulesWith(workspace, template.id),
      findings: [...findingsOf(workspace, template, languages)],
    })),
    languages: [...languages],
  }
}
