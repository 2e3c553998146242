import { readRuleText } from '../../../../core/formats/rule-text'
import { sayProblem } from '../../../../core/language/problems'

/** Begins a rule from a file, or puts the file into a draft. */
export default defineRoute('POST /rules/files', ({ workspace, person, body: { text, into, rev } }) => {
  const { rules } = workspace.store
  const read = readRuleText(text)
  if (!read.ok)
    throw new ProblemError(422, 'The file cannot be read', 'Nothing was changed.', [
      { path: 'text', text: sayProblem(read.problem) },
    ])
  const document = read.value
  const nowMs = workspace.clock.nowMs()
  if (into === undefined) {
    const id = rules.create(document, person.id, nowMs)
    workspace.rulesChanged()
    return { id, rev: 1, document }
  }
  const rule = rules.get(into)
  if (!rule) throw notFound(`rule ${into}`)
  if (rule.draft.object !== document.object && rule.version)
    throw new ProblemError(422, 'Refused', 'The kind of record of a rule that has run cannot change.')
  const next = rules.saveDraft(into, document, rev ?? rule.draftRev, person.id, nowMs)
  if (next === null)
    throw new ProblemError(
      409,
      'Somebody else saved',
      `${workspace.catalogue().person(rule.changedBy)?.name ?? rule.changedBy} has saved another edit of this rule since you opened it.`,
    )
  workspace.live.tell({ about: 'rules' })
  return { id: into, rev: next, document }
})
