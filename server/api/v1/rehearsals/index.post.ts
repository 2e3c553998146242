import { checkRule } from '../../../../core/rules/check'
import { refuseTooFarBack } from '../../../engine/retention'
import type { Wanted } from '../../../engine/rehearsal'

export default defineRoute('POST /rehearsals', ({ workspace, person, body }) => {
  const documentOf = (id: number, given: Wanted['rules'][number]['document'] | undefined) => {
    const rule = workspace.store.rules.get(id)
    if (!rule) throw notFound(`rule ${id}`)
    return given ?? rule.draft
  }
  const rules = body.rules.map(({ rule, document }) => ({ ruleId: rule, document: documentOf(rule, document) }))
  const unfinished = rules.flatMap(({ ruleId, document }) =>
    checkRule(document, workspace.catalogue()).map((finding) => ({
      path: `rule ${ruleId} ${finding.part} ${finding.id} ${finding.param}`.trim(),
      text: finding.text,
    })),
  )
  if (unfinished.length > 0) throw new ProblemError({ code: 'unfinished', to: 'rehearse' }, unfinished)
  const object = rules[0]?.document.object ?? 'deal'
  if (body.back) refuseTooFarBack(workspace, body.days)
  if (body.filter) fitting(body.filter, object)
  const wanted: Wanted = {
    rules,
    object,
    ids: body.ids ?? null,
    filter: body.filter ?? null,
    days: body.days,
    back: body.back,
    script: body.script,
  }
  const other = body.compare
    ? {
        ...wanted,
        rules: rules.map(({ ruleId }) => {
          const version = workspace.store.rules.get(ruleId)?.version
          if (!version) throw new ProblemError({ code: 'nothingToCompare', rule: ruleId })
          return { ruleId, document: version.document }
        }),
      }
    : null
  const begun = beginRehearsal(person.id, rules.map((rule) => rule.document.name).join(', '))
  useRehearsals().rehearse(begun.id, other ?? wanted, other ? wanted : null)
  return { id: begun.id }
})
