import type { CallAsks, CallOutcome } from '../../core/asks/call'
import { callActivity, nextTry } from '../../core/asks/call'
import type { Cause } from '../../core/records/record'
import { nextDecent } from '../../core/messages/hours'
import { decentFor } from '../../core/rules/clock'
import type { Answered } from '../../core/rules/answered'
import { answerChanges, onTask, taskChange } from '../../core/signals/task'
import { dateAt } from '../../core/time/dates'
import { sayInstant } from '../../core/time/say'
import type { TaskRow } from '../store/tasks'
import { callKey, placeCall } from './place-call'
import { newChain } from './live-records'
import type { Workspace } from './workspace'

type Place = Pick<Workspace, 'db' | 'store' | 'world' | 'clock' | 'drain' | 'catalogue' | 'live' | 'courier'>

/** Nobody in person: the dialler. */
const DIALLER: Cause = { by: 'person', personId: '' }

/**
 * Somebody has done what was to be done, or answered what was asked. Who follows it is told, and a run that waits for
 * it goes on; where none does, nothing is left behind but the task itself. A call in vain that has tries left stays
 * open, for later. What the run then did has been committed when this returns.
 *
 * @param personId who did it; `null` for the dialler
 */
export function finishTask(
  workspace: Place,
  task: TaskRow,
  personId: string | null,
  outcome: string,
  answered: Answered | null = null,
): void {
  const { db, store, world } = workspace
  const nowMs = workspace.clock.nowMs()
  const ref = { object: task.object, id: task.recordId }
  const { signal, key } = onTask(task.id)
  const said = answered?.said ?? outcome
  const goesOn = db.together(() => {
    if (task.asks?.about === 'call' && answered) {
      const { contact, attempt } = task.asks
      world.keepActivity(contact, {
        ...callActivity(task.title, answered.values),
        atMs: nowMs,
        key: callKey(task.id, attempt),
      })
      if (triesAgain(workspace, task, task.asks, answered, personId)) return true
    }
    if (personId === null) store.tasks.finishAlone(task.id, said, nowMs)
    else store.tasks.finish(task.id, personId, said, nowMs)
    const who = personId === null ? 'The dialler' : (workspace.catalogue().person(personId)?.name ?? personId)
    for (const follower of store.tasks.followers(task.id).filter((id) => id !== personId)) {
      store.notices.add(
        follower,
        {
          ref,
          ruleId: task.ruleId,
          runId: task.runId,
          stepId: task.stepId,
          subject: `${who} completed “${task.title}”`,
          body: said,
        },
        nowMs,
      )
      db.afterwards(() => workspace.live.tell({ about: 'notices', people: [follower] }))
    }
    const wanted = store.waits
      .of(ref)
      .some(({ signals }) => signals.some((one) => one.signal === signal && one.key === key))
    if (wanted)
      world.log(
        ref,
        'taskDone',
        [taskChange(task.id, said), ...answerChanges(answered?.values ?? {})],
        personId === null ? DIALLER : { by: 'person', personId },
        newChain(),
        false,
        nowMs,
      )
    return wanted || answered !== null
  })
  if (goesOn) workspace.drain()
}

/** Leaves a call that reached nobody for a later try, where there is one; answers whether there is. */
function triesAgain(
  workspace: Place,
  task: TaskRow,
  asks: CallAsks,
  { values, said }: Answered,
  personId: string | null,
): boolean {
  const { store, world } = workspace
  const nowMs = workspace.clock.nowMs()
  const catalogue = workspace.catalogue()
  const contact = world.read(asks.contact)
  const company = contact && world.related(contact, 'company')
  const { zone, hours } = decentFor(
    contact?.values ?? {},
    company?.values ?? {},
    catalogue.messaging,
    catalogue.workspace.zone,
  )
  const next = nextTry(asks, values.outcome as CallOutcome, nextDecent(nowMs + asks.pauseMs, zone, hours))
  if (!next) return false
  const atMs = next.notBeforeMs ?? nowMs
  const day = dateAt(atMs, catalogue.workspace.zone)
  const due = day > task.due ? day : task.due
  const words = `${said}; again ${sayInstant(atMs, catalogue.workspace.zone)}`
  store.tasks.tryAgain(task.id, personId, next, due, asks.automatic ? null : atMs, words, nowMs)
  if (asks.automatic) placeCall(store, task.id, task.runId, next, nowMs, atMs)
  return true
}
