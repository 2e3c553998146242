import { sayProblem } from '../../../../core/language/problems'

/** Begins a rule from a file, or puts the file into a draft. */
export default defineRouteBehind(
  'POST /rules/files',
  ({ body: { text } }) => useReader().ask('ruleText', text),
  ({ workspace, person, body: { into, rev } }, read) => {
    const { rules } = workspace.store
    if (!read.ok) throw new ProblemError({ code: 'fileNotImported', said: sayProblem(read.problem) })
    const document = read.value
    const nowMs = workspace.clock.nowMs()
    if (into === undefined) {
      const id = rules.create(document, person.id, nowMs)
      workspace.rulesChanged()
      return { id, rev: 1, document }
    }
    const rule = rules.get(into)
    if (!rule) throw notFound(`rule ${into}`)
    if (rule.draft.object !== document.object && rule.version) throw new ProblemError({ code: 'recordTypeFixed' })
    const next = rules.saveDraft(into, document, rev ?? rule.draftRev, person.id, nowMs)
    if (next === null)
      throw new ProblemError({
        code: 'ruleChanged',
        who: workspace.catalogue().person(rule.changedBy)?.name ?? rule.changedBy,
      })
    workspace.live.tell({ about: 'rules' })
    return { id: into, rev: next, document }
  },
)
