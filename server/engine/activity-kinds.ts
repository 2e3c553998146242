import { ACTIVITY_NAMES, zOwnActivityName, type OwnActivity } from '../../core/activities'
import { valuesProblem } from '../../core/activities/from-schema'
import type { ActivityKind, ActivityValue } from '../../core/activities/kind'
import type { UsedBy } from '../../core/language/uses'
import { foldText } from '../../core/language/value'
import { groupUsesActivity, usesActivity } from '../../core/rules/uses'
import { keyOf } from './fields'
import { ruleUse } from './rules-where'
import type { Workspace } from './workspace'
import { refuse } from './refuse'

/** Kinds of activities that a workspace makes for itself. */

const KINDS_MOST = 100

/** Its words, and what it may tell. */
export interface GivenKind extends Pick<ActivityKind, 'did' | 'does' | 'one' | 'many' | 'about' | 'data'> {
  readonly example?: ActivityKind['example'] | undefined
}

const all = (workspace: Workspace): readonly OwnActivity[] => workspace.catalogue().activities.own

/** One of the workspace’s own; `null` for those that come with the product, and for what is not there. */
export const ownActivity = (workspace: Workspace, kind: string): OwnActivity | null =>
  all(workspace).find((one) => one.kind === kind) ?? null

function check(workspace: Workspace, given: Partial<GivenKind>, but: OwnActivity | null): void {
  const { activities } = workspace.catalogue()
  for (const form of ['does', 'one'] as const) {
    const words = given[form]
    const same =
      words === undefined
        ? undefined
        : activities.names.find(
            (name) => name !== but?.kind && foldText(activities.words(name)[form]) === foldText(words),
          )
    if (same !== undefined) throw refuse(form, { code: 'activityThere', name: activities.words(same).one })
  }
  const problem = given.data ? valuesProblem(given.data) : null
  if (problem) throw refuse(problem.key === '' ? 'data' : `data.${problem.key}`, problem.problem)
}

/** What names a kind, or with a key one of its values; `null` when nothing does. */
export function activityUse(workspace: Workspace, kind: string, key?: string): UsedBy | null {
  const segment = workspace.store.segments
    .all()
    .find(({ filter, object }) => groupUsesActivity(filter, object, kind, key))
  if (segment) return { segment: segment.name }
  const card =
    key === undefined
      ? workspace
          .catalogue()
          .data.scorecards?.find(({ lines }) =>
            lines.some((line) => line.for.what === 'doing' && line.for.kind === kind),
          )
      : undefined
  if (card) return { scorecard: card.name }
  return ruleUse(workspace, (rule) => usesActivity(rule, kind, key))
}

const NO_EXAMPLE: ActivityKind['example'] = { about: '', data: {} }

/** Makes a kind. Refuses words that another one has; answers the name by which programs send it. */
export function makeActivityKind(workspace: Workspace, given: GivenKind): string {
  if (all(workspace).length >= KINDS_MOST)
    throw refuse('one', { code: 'noMoreThan', of: 'activityKind', most: KINDS_MOST })
  check(workspace, given, null)
  const taken = new Set<string>([...ACTIVITY_NAMES, ...all(workspace).map((one) => one.kind)])
  const plain = keyOf(given.one, taken)
  const kind = zOwnActivityName.safeParse(plain).success ? plain : keyOf(`own ${given.one}`, taken)
  workspace.db.atomically(() =>
    workspace.store.catalogue.addActivityKind({ ...given, kind, example: given.example ?? NO_EXAMPLE }),
  )
  workspace.tellCatalogue()
  return kind
}

/** A value that is there already keeps its type: what was told of it before would mean something else. */
function refuseRetyped(kind: OwnActivity, data: readonly ActivityValue[]): void {
  const other = data.find(({ key, type }) => kind.data.some((one) => one.key === key && one.type !== type))
  if (other) throw refuse(`data.${other.key}`, { code: 'keepsType', value: other.label })
}

/** Changes its words or what it tells. A value that a rule names stays. */
export function changeActivityKind(
  workspace: Workspace,
  kind: OwnActivity,
  change: Partial<GivenKind> & { readonly archived?: boolean },
): void {
  const { archived, example, ...words } = change
  check(workspace, words, kind)
  if (words.data) {
    refuseRetyped(kind, words.data)
    for (const { key, label } of kind.data) {
      const use = words.data.some((one) => one.key === key) ? null : activityUse(workspace, kind.kind, key)
      if (use) throw refuse(`data.${key}`, { code: 'inUse', name: label, cannot: 'removed', by: use })
    }
  }
  const use = archived === true ? activityUse(workspace, kind.kind) : null
  if (use) throw refuse('archived', { code: 'inUse', name: kind.one, cannot: 'archived', by: use })
  workspace.db.atomically(() =>
    workspace.store.catalogue.updateActivityKind(kind.id, {
      ...words,
      ...(example === undefined ? {} : { example }),
      ...(archived === undefined ? {} : { archived }),
    }),
  )
  workspace.tellCatalogue()
}
