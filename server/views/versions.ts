import { diffRules, sayChange } from '../../core/rules/diff'
import type { Workspace } from '../engine/workspace'
import type { StoredRule } from '../store/rules'

export interface VersionLine {
  readonly number: number
  readonly atMs: number
  readonly person: string
  readonly note: string
  /** Whether it is the one that runs, or would. */
  readonly running: boolean
  /** What it says differently from the one before, in words. */
  readonly changes: readonly string[]
  /** Why it cannot be read; `null` when it can. */
  readonly problem: string | null
}

/** The versions of a rule, the newest first, and what its draft says differently from the newest. */
export function ruleVersions(
  workspace: Workspace,
  rule: StoredRule,
): { readonly draft: readonly string[]; readonly draftDiffers: boolean; readonly versions: readonly VersionLine[] } {
  const catalogue = workspace.catalogue()
  const versions = workspace.store.rules.versions(rule.id)
  const [newest] = versions
  const draft =
    newest?.problem === null && rule.draftProblem === null
      ? diffRules(newest.document, rule.draft, catalogue).map(sayChange)
      : []
  return {
    draft,
    draftDiffers: draft.length > 0 || rule.draftProblem !== null,
    versions: versions.map((version, i) => {
      const before = versions[i + 1]
      return {
        number: version.number,
        atMs: version.publishedAt,
        person: catalogue.person(version.publishedBy)?.name ?? version.publishedBy,
        note: version.note,
        running: rule.version?.id === version.id,
        problem: version.problem,
        changes:
          before && version.problem === null && before.problem === null
            ? diffRules(before.document, version.document, catalogue).map(sayChange)
            : [],
      }
    }),
  }
}
