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
