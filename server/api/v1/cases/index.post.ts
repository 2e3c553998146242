import { checkRule } from '../../../../core/rules/check'
import { keepCase } from '../../../engine/cases'

export default defineRoute('POST /cases', ({ workspace, person, body: { name, rules, ids, days, script } }) => {
  const documents = rules.map(({ rule }) => {
    const found = workspace.store.rules.get(rule)
    if (!found) throw notFound(`rule ${rule}`)
    return { ruleId: rule, document: found.draft }
  })
  const unfinished = documents.flatMap(({ ruleId, document }) =>
    checkRule(document, workspace.catalogue()).map((finding) => ({
      path: `rule ${ruleId} ${finding.part} ${finding.id} ${finding.param}`.trim(),
      text: finding.text,
    })),
  )
  if (unfinished.length > 0) throw new ProblemError({ code: 'unfinished', to: 'rehearse' }, unfinished)
  return { id: keepCase(workspace, { name, rules: documents, ids, days, script }, person.id) }
})
