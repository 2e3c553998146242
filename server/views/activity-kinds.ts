import type { ActivityKind } from '../../core/activities/kind'
import { activitySchema, exampleOf } from '../../core/activities/data'
import { ownActivity } from '../engine/activity-kinds'
import type { Workspace } from '../engine/workspace'

/** Every kind of activity, with what it tells and how often it was kept. */
export function activityKinds(workspace: Workspace) {
  const { activities } = workspace.catalogue()
  const counts = workspace.store.activities.counts()
  const names = [...activities.names, ...activities.own.filter((one) => one.archived).map((one) => one.kind)]
  return names
    .map((name) => activities.get(name))
    .filter((one): one is ActivityKind => one !== null)
    .map((kind) => {
      const { kind: name, did, does, one, many, about, data } = kind
      const own = ownActivity(workspace, name)
      return {
        kind: name,
        own: own !== null,
        archived: own?.archived ?? false,
        did,
        does,
        one,
        many,
        about,
        data: data.map(({ choices, ...value }) => ({
          ...value,
          ...(choices ? { choices: choices.map((one) => ({ ...one })) } : {}),
        })),
        schema: { ...activitySchema(kind) },
        example: exampleOf(kind),
        kept: counts.get(name) ?? 0,
      }
    })
}
