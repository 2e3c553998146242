import { instantOf } from '../../core/time/dates'
import { OBJECTS, type ObjectKind, type RecordRef } from '../../core/records/kinds'
import { sees, type Scope } from '../../core/access/scope'
import { seesRef } from '../engine/seen'
import type { Workspace } from '../engine/workspace'
import type { TaskRow } from '../store/tasks'

export interface DayTask extends TaskRow {
  readonly ref: RecordRef
  readonly recordName: string
  /** Whether the record is not theirs to see who asks. */
  readonly hidden: boolean
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
  /** Open tasks of others that the person follows. */
  readonly followed: readonly DayTask[]
  /** What lies in the queue of the person's team, to be taken. */
  readonly queue: { readonly team: string; readonly tasks: readonly DayTask[] } | null
  /** Open tasks of every person within the scope, for changing between them. */
  readonly counts: readonly { readonly personId: string; readonly open: number }[]
}

/** What stands beside the record of a task. */
const BESIDE: readonly ObjectKind[] = ['company', 'contact']

const refOf = (task: TaskRow): RecordRef => ({ object: task.object, id: task.recordId })

/** A person's follow-ups in the order to do them. */
export function daySheet(workspace: Workspace, personId: string, scope: Scope = null): DaySheet {
  const { tasks, links, records } = workspace.store
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
    returned: 'Returned to the queue by',
    tried: 'Tried by',
  } as const
  const [open, done, queued, followed] = [
    tasks.openFor(personId, '9999-12-31'),
    tasks.doneBy(personId, instantOf(today, 0, 0, catalogue.workspace.zone)),
    team === '' ? [] : tasks.queued(team),
    tasks.followedBy(personId),
  ]
  // However many tasks there are, each kind of thing around them is asked for once.
  const all = [...open, ...done, ...queued, ...followed]
  const acts = tasks.actsOf(all.map((task) => task.id))
  const ruleNames = workspace.store.rules.names()
  const idsOf = (object: ObjectKind) => all.flatMap((task) => (task.object === object ? [task.recordId] : []))
  const mains = new Map<string, ReadonlyMap<number, number>>(
    OBJECTS.flatMap((object) =>
      BESIDE.map((to) => [`${object} ${to}`, links.mains(object, idsOf(object), to)] as const),
    ),
  )
  const mainOf = (ref: RecordRef, to: ObjectKind) => mains.get(`${ref.object} ${to}`)?.get(ref.id) ?? null
  const names = new Map<ObjectKind, ReadonlyMap<number, string>>(
    OBJECTS.map((object) => {
      const beside = BESIDE.includes(object) ? all.flatMap((task) => mainOf(refOf(task), object) ?? []) : []
      return [object, records.namesOf(object, [...new Set([...idsOf(object), ...beside])])] as const
    }),
  )
  // One that was deleted since is named by what it was.
  const nameOf = (ref: RecordRef) => names.get(ref.object)?.get(ref.id) ?? workspace.nameOf(ref)
  const toDay = (task: TaskRow): DayTask => {
    const ref = refOf(task)
    // A rule may give somebody a task about a record that is not theirs to see: what is to be done is said, no more.
    const hidden = !seesRef(workspace, scope, ref)
    return {
      ...task,
      ref,
      recordName: hidden ? '' : nameOf(ref),
      because: hidden ? '' : task.because,
      hidden,
      ruleName: ruleNames.get(task.ruleId) ?? `rule ${task.ruleId}`,
      beside: BESIDE.flatMap((object) => {
        const id = mainOf(ref, object)
        return id === null || hidden || !seesRef(workspace, scope, { object, id })
          ? []
          : [{ ref: { object, id }, name: nameOf({ object, id }) }]
      }),
      acts: (acts.get(task.id) ?? []).map((act) => ({
        atMs: act.atMs,
        text: `${actWords[act.act]} ${who(act.personId)}${act.detail === '' ? '' : `: ${act.act === 'handedOver' ? who(act.detail) : act.detail}`}`,
      })),
    }
  }
  return {
    personId,
    today,
    open: open.map(toDay),
    doneToday: done.map(toDay),
    followed: followed.map(toDay),
    queue: team === '' ? null : { team, tasks: queued.map(toDay) },
    counts: [...tasks.openCounts()].filter(([id]) => sees(scope, id)).map(([id, open]) => ({ personId: id, open })),
  }
}
