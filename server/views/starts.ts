import type { ObjectKind } from '../../core/records/kinds'
import type { RecordSnapshot } from '../../core/records/record'
import { factsOf, type Question } from '../../core/rules/questions'
import type { ByHandParams } from '../../core/rules/triggers/by-hand'
import { compileGroup } from '../../core/conditions/compile'
import { sayRule } from '../../core/rules/describe'
import type { Scope } from '../../core/access/scope'
import { shownTo } from '../engine/seen'
import type { Workspace } from '../engine/workspace'

/** A button that starts a rule, with what it shows and asks. */
export interface StartButton {
  readonly ruleId: number
  readonly ruleName: string
  readonly trigger: string
  readonly button: string
  readonly facts: readonly { readonly label: string; readonly value: string }[]
  readonly questions: readonly Question[]
  /** The condition that keeps the record out, if one does. */
  readonly keeps: string | null
}

/** The rules that can be started by hand for a kind of record; for one of them with its facts and what keeps it out. */
export function startButtons(
  workspace: Workspace,
  object: ObjectKind,
  record: RecordSnapshot | null,
  scope: Scope = null,
): readonly StartButton[] {
  const catalogue = workspace.catalogue()
  const moment = workspace.moment()
  const shown = record && shownTo(workspace, scope)(record)
  return workspace
    .activeRules()
    .filter((rule) => rule.document.object === object)
    .flatMap((rule) =>
      rule.document.triggers
        .filter((trigger) => trigger.kind === 'byHand')
        .map((trigger): StartButton => {
          const { button, facts, questions } = trigger.params as ByHandParams
          const subject = record && workspace.subject(record)
          const group = compileGroup(rule.document.conditions, object, catalogue)
          const missed =
            subject && !group.test(subject, moment)
              ? (group.explain(subject, moment).find((seen) => !seen.holds)?.text ?? 'its conditions do not hold')
              : null
          return {
            ruleId: rule.ruleId,
            ruleName: rule.document.name,
            trigger: trigger.id,
            button,
            questions,
            keeps: missed,
            facts: shown ? factsOf(facts, object, shown.values, catalogue) : [],
          }
        }),
    )
}

/** Rules that are on and have no button: somebody who builds rules may run them for a list all the same. */
export const otherStarts = (
  workspace: Workspace,
  object: ObjectKind,
): readonly { readonly ruleId: number; readonly ruleName: string; readonly when: string }[] =>
  workspace
    .activeRules()
    .filter(({ document }) => document.object === object && !document.triggers.some(({ kind }) => kind === 'byHand'))
    .map(({ ruleId, document }) => ({
      ruleId,
      ruleName: document.name,
      when: sayRule(document, workspace.catalogue()).when,
    }))
