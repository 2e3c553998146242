import { instantOf } from '../../core/time/dates'
import type { RecordRef } from '../../core/records/kinds'
import { sees, type Scope } from '../../core/access/scope'
import type { Workspace } from '../engine/workspace'
import type { TaskRow } from '../store/tasks'

export interface DayTask extends TaskRow {
  readonly ref: RecordRef
  readonly recordName: string
  /** The rule that made it; why it did stands in `because`. */ readonly ruleName: string
  /** The main company and contact of a deal, by name. */
  readonly beside: readonly { readonly ref: RecordRef; readonly name: string }[]
  readonly acts: readonly { readonly atMs: number; readonly text: string }[]
}

export interface DaySheet {
  readonly personId: string
  readonly today: string
  /** In the order in which to do them. */
  readonly open: readonly DayTask[]
  readonly doneToday: readonly DayTask[]
  /** What lies in the queue of the person's team, to be taken. */
  readonly queue: { readonly team: string; readonly tasks: readonly DayTask[] } | null
  /** Open tasks of every person within the scope, for changing between them. */
  readonly counts: readonly { readonly personId: string; readonly open: number }[]
}

/** A person's follow-ups in the order to do them. */
export function daySheet(workspace: Workspace, personId: string, scope: Scope = null): DaySheet {
  const { tasks, links } = workspace.store
  const catalogue = workspace.catalogue()
  const today = workspace.today()
  const team = catalogue.person(personId)?.team ?? ''
  const who = (id: string) => catalogue.person(id)?.name ?? id
  const actWords = {
    done: 'Done by',
    reopened: 'Reopened by',
    postponed: 'Postponed by',
    handedOver: 'Handed over by',
    withdrawn: 'Withdrawn by',
    pulled: 'Taken from the queue by',
    putBack: 'Returned to the queue by',
  } as const
  const toDay = (task: TaskRow): DayTask => {
    const ref: RecordRef = { object: task.object, id: task.recordId }
    const beside = (['company', 'contact'] as const).flatMap((object) => {
      const id = links.main(ref, object)
      return id === null ? [] : [{ ref: { object, id }, name: workspace.nameOf({ object, id }) }]
    })
    return {
      ...task,
      ref,
      recordName: workspace.nameOf(ref),
      ruleName: workspace.store.rules.get(task.ruleId)?.draft.name ?? `rule ${task.ruleId}`,
      beside,
      acts: tasks.acts(task.id).map((act) => ({
        atMs: act.atMs,
        text: `${actWords[act.act]} ${who(act.personId)}${act.detail === '' ? '' : `: ${act.act === 'handedOver' ? who(act.detail) : act.detail}`}`,
      })),
    }
  }
  return {
    personId,
    today,
    open: tasks.openFor(personId, '9999-12-31').map(toDay),
    doneToday: tasks.doneBy(personId, instantOf(today, 0, 0, catalogue.workspace.zone)).map(toDay),
    queue: team === '' ? null : { team, tasks: tasks.queued(team).map(toDay) },
    counts: [...tasks.openCounts()].filter(([id]) => sees(scope, id)).map(([id, open]) => ({ personId: id, open })),
  }
}
