import type { UsedBy } from '../../core/language/uses'
import type { RuleDocument } from '../../core/rules/document'
import type { StoredRule } from '../store/rules'
import type { Workspace } from './workspace'

/** Rules that name something, in their draft or in the version that runs; those in the archive hold nothing back. */
export const rulesWhere = (
  workspace: Pick<Workspace, 'store'>,
  names: (document: RuleDocument) => boolean,
): readonly StoredRule[] =>
  workspace.store.rules
    .all()
    .filter(
      (rule) => rule.state !== 'archived' && [rule.draft, ...(rule.version ? [rule.version.document] : [])].some(names),
    )

/**
 * What of rules keeps something from going: those that name it, else runs that still wait by a version that does,
 * whether it runs any more or not; `null` for nothing.
 */
export function ruleUse(
  workspace: Pick<Workspace, 'store'>,
  names: (document: RuleDocument) => boolean,
): UsedBy | null {
  const rules = rulesWhere(workspace, names)
  if (rules.length > 0) return { rules: rules.map((rule) => rule.draft.name) }
  const { store } = workspace
  const waiting = store.waits.versions().flatMap(({ ruleId, versionId, runs }) => {
    const version = store.rules.version(versionId)
    return version && names(version.document)
      ? [{ rule: store.rules.get(ruleId)?.draft.name ?? String(ruleId), version: version.number, runs }]
      : []
  })
  return waiting.length > 0 ? { waiting } : null
}
