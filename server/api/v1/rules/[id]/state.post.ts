import { checkRule } from '../../../../../core/rules/check'
import { placedSteps } from '../../../../../core/rules/tree'
import { addJob } from '../../../../engine/rule-jobs'
import { backfillOrder } from '../../../../engine/standing'
import { isUnpublished } from '../../../../views/rule-list'

/** Switches a rule on, off, or puts it away. Switching on publishes the draft, and refuses one that is not finished. */
export default defineRouteBehind(
  'POST /rules/:id/state',
  async ({ workspace, params: { id }, body: { state, anyway } }) => {
    const draft = workspace.store.rules.get(id)?.draft
    if (!draft || state !== 'on' || anyway || checkRule(draft, workspace.catalogue()).length > 0)
      return { asked: JSON.stringify(draft), wrong: [] }
    const cases = await useReader().ask('cases', { ruleId: id, document: draft })
    return { asked: JSON.stringify(draft), wrong: cases.filter((one) => one.wrong.length > 0) }
  },
  (
    { workspace, person, params: { id }, body: { state, note, backfill, again, passedDays, waiting, anyway } },
    { asked, wrong },
  ) => {
    const { rules } = workspace.store
    const rule = rules.get(id)
    if (!rule) throw notFound(`rule ${id}`)
    if (state === 'on' && !anyway && JSON.stringify(rule.draft) !== asked)
      throw new ProblemError({ code: 'ruleChangedMeanwhile' })
    if (state === 'on' && rule.draftProblem !== null)
      throw new ProblemError({ code: 'draftUnreadable', said: rule.draftProblem })
    const findings = state === 'on' ? checkRule(rule.draft, workspace.catalogue()) : []
    if (findings.length > 0) {
      throw new ProblemError(
        { code: 'unfinished', to: 'switchOn' },
        findings.map((finding) => ({
          path: `${finding.part} ${finding.id} ${finding.param}`.trim(),
          text: finding.text,
        })),
      )
    }
    if (state === 'on' && backfill && !backfillOrder(workspace, rule.draft, { passedDays, again }))
      throw new ProblemError({ code: 'noExisting' })
    if (wrong.length > 0)
      throw new ProblemError(
        { code: 'casesFailed', failed: wrong.length },
        wrong.map((one) => ({ path: one.name, text: one.wrong[0] ?? '' })),
      )
    workspace.db.atomically(() => {
      const publishes = state === 'on' && (rule.version === null || isUnpublished(rule))
      if (publishes) rules.publish(id, rule.draft, person.id, workspace.clock.nowMs(), note)
      rules.setState(id, state, person.id, workspace.clock.nowMs())
      const { waits } = workspace.store
      if (waiting === 'end' && (publishes || state !== 'on'))
        waits.endAllOf(
          id,
          {
            code: 'ended',
            say: publishes ? `${person.name} published another version` : `${person.name} switched the rule off`,
          },
          workspace.clock.nowMs(),
        )
      const versionId = rules.get(id)?.version?.id
      if (waiting === 'move' && publishes && versionId !== undefined)
        waits.moveAllOf(
          id,
          versionId,
          placedSteps(rule.draft).map(({ step }) => step.id),
        )
    })
    workspace.rulesChanged()
    workspace.live.tell({ about: 'ahead' })
    const document = rules.get(id)?.version?.document
    const order = document && backfillOrder(workspace, document, { passedDays, again })
    if (state !== 'on' || !backfill || !order)
      return { state, version: rules.get(id)?.version?.number ?? null, job: null }
    const job = addJob(workspace, id, order, person.id)
    workspace.db.afterwards(() => useBulk().job(job))
    return { state, version: rules.get(id)?.version?.number ?? null, job }
  },
)
