import { EMPTY_GROUP, type Group } from '../../core/conditions/document'
import { count } from '../../core/language/counts'
import { OBJECTS } from '../../core/records/kinds'
import { referencesOf } from '../../core/rules/references'
import { rulesWhere } from '../engine/rules-where'
import type { Workspace } from '../engine/workspace'

/** What is planned for somebody, in lines to be read before they leave; and who gets what comes later. */
export interface PlannedFor {
  readonly lines: readonly string[]
  /** Where new tasks for them go. */
  readonly then: string
}

const WAITS_MOST = 5000

/** What somebody has to do, owns and covers, and which rules name them. Looks at all of their records. */
export function plannedFor(workspace: Workspace, personId: string): PlannedFor {
  const { store } = workspace
  const catalogue = workspace.catalogue()
  const owned = (object: (typeof OBJECTS)[number]): number => {
    const filter: Group = {
      ...EMPTY_GROUP,
      items: [{ kind: 'condition', id: 'c1', field: 'owner', op: 'is', not: false, params: { value: personId } }],
    }
    return store.records.counted(object, store.records.where(filter, object, catalogue, workspace.moment())).count
  }
  const waiting = new Set(
    store.waits
      .list({ limit: WAITS_MOST })
      .filter(({ object, recordId }) => store.records.read({ object, id: recordId })?.values.owner === personId)
      .map((wait) => wait.runId),
  ).size
  const open = store.tasks.openCount(personId)
  const territories = (catalogue.data.territories ?? []).filter((one) => one.personId === personId)
  const rules = rulesWhere(workspace, (document) =>
    referencesOf(document).some(({ reference }) => reference.to === 'person' && reference.id === personId),
  )
  const deputyOf = catalogue.people.filter((one) => one.active && one.deputyId === personId)
  const deputy = catalogue.person(catalogue.person(personId)?.deputyId ?? '')
  return {
    lines: [
      ...(open > 0 ? [`${count(open, 'openTask')}, which stay until someone hands them over`] : []),
      ...OBJECTS.flatMap((object) => {
        const n = owned(object)
        return n > 0 ? [`owner of ${count(n, object)}`] : []
      }),
      ...(waiting > 0 ? [`${count(waiting, 'waitingRun')} on those records`] : []),
      ...territories.map((one) => `territory ${one.name}`),
      ...rules.map((rule) => `named in rule “${rule.draft.name}”`),
      ...deputyOf.map((one) => `deputy of ${one.name}`),
    ],
    then: deputy?.active
      ? `New tasks go to ${deputy.name}, the deputy.`
      : 'New tasks go to no one: there is no active deputy, so rules skip those steps and say so.',
  }
}
