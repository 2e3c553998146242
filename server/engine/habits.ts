import { doesSame, ruleFor } from '../../core/habits/as-rule'
import { habitName, HabitReview, type Acts, type History, type Moment } from '../../core/habits/habit'
import { momentOf } from '../../core/habits/reading'
import { HabitSearch, USUAL_SEARCH } from '../../core/habits/search'
import { OBJECTS, type RecordKind } from '../../core/records/kinds'
import type { ImportControl } from './import'
import { rehearseBack } from './rehearse-back'
import type { Workspace } from './workspace'

/** The search for what people do again and again, in the log of the last months: a piece at a time, and stoppable. */

const DAY_MS = 86_400_000
/** So far it looks back; further back people may have worked otherwise. */
export const LOOK_BACK_DAYS = 180
/** What a rule would have done is told for so many days. */
export const REVIEW_DAYS = 90
/** Events that are read in one piece: others get their turn behind it. */
const PIECE = 2000
/** It is searched again by itself when so much time has gone by. */
const EVERY_MS = DAY_MS

const under = new WeakSet<Workspace>()

/** Whether a search is due: somebody asked for one, or the last one is of another day. */
function isDue(workspace: Workspace): boolean {
  const search = workspace.store.habits.search()
  if (!search) return true
  if (search.asked !== null) return search.asked === 'begin'
  // One that a crash broke off is begun anew.
  return search.state === 'running' || workspace.clock.nowMs() >= search.begunAt + EVERY_MS
}

/** Goes through the histories of records of a kind; answers whether it came to the end. */
async function eachHistory(
  workspace: Workspace,
  object: RecordKind,
  control: ImportControl,
  hear: (history: History) => void,
  read: (events: number) => boolean,
): Promise<boolean> {
  const { store, clock } = workspace
  const since = clock.nowMs() - LOOK_BACK_DAYS * DAY_MS
  let at = { recordId: 0, seq: 0 }
  /** The record that is being read; none yet. */
  let open: { readonly id: number; readonly moments: Moment[] } = { id: 0, moments: [] }
  for (;;) {
    const rows = store.habits.log(object, at, since, PIECE)
    const catalogue = workspace.catalogue()
    for (const { recordId, ...row } of rows) {
      if (open.id !== recordId) {
        if (open.id !== 0) hear(open)
        open = { id: recordId, moments: [] }
      }
      const moment = momentOf({ ...row, ref: { object, id: recordId } }, catalogue)
      if (moment) open.moments.push(moment)
    }
    const last = rows.at(-1)
    if (!last || rows.length < PIECE) {
      if (open.id !== 0) hear(open)
      return read(rows.length)
    }
    at = { recordId: last.recordId, seq: last.seq }
    if (!read(rows.length)) return false
    await control.pause()
  }
}

/** Searches when one is due, unless one is under way; never holds up what else the thread does. */
export async function searchHabits(workspace: Workspace, control: ImportControl): Promise<void> {
  if (under.has(workspace) || !isDue(workspace)) return
  under.add(workspace)
  try {
    await search(workspace, control)
  } finally {
    under.delete(workspace)
  }
}

async function search(workspace: Workspace, control: ImportControl): Promise<void> {
  const { db, store, clock, live } = workspace
  const begunMs = clock.nowMs()
  const total = store.habits.countLog(begunMs - LOOK_BACK_DAYS * DAY_MS)
  db.inTurn(() => store.habits.begin(begunMs, total))
  let looked = 0
  const read = (events: number): boolean => {
    looked += events
    db.inTurn(() => store.habits.progress(Math.min(looked, total)))
    return store.habits.search()?.asked !== 'stop'
  }
  for (const object of OBJECTS) {
    const one = new HabitSearch({ ...USUAL_SEARCH, nowMs: begunMs })
    if (!(await eachHistory(workspace, object, control, (history) => one.add(history), read))) return stop(workspace)
    const catalogue = workspace.catalogue()
    const active = store.rules.active()
    const found = one
      .found()
      .filter(
        (habit) =>
          ruleFor(habit, object, catalogue) !== null &&
          !active.some(({ document }) => doesSame(document, habit, object, catalogue)),
      )
    const acts: (Acts | null)[] = []
    for (const habit of found) {
      const document = ruleFor(habit, object, catalogue)
      acts.push(document && (await rehearseBack(workspace, document, REVIEW_DAYS, control)))
      if (store.habits.search()?.asked === 'stop') return stop(workspace)
    }
    const review = new HabitReview(found, acts, begunMs - REVIEW_DAYS * DAY_MS, begunMs)
    // Only where something was found it is gone through once more.
    const ended =
      found.length === 0 ||
      (await eachHistory(
        workspace,
        object,
        control,
        (history) => review.add(history),
        () => store.habits.search()?.asked !== 'stop',
      ))
    if (!ended) return stop(workspace)
    const past = review.past(REVIEW_DAYS)
    db.inTurn(() =>
      db.atomically(() =>
        store.habits.put(
          object,
          found.flatMap((habit, i) => {
            const beside = past[i]
            return beside ? [{ name: habitName(habit), habit, past: beside }] : []
          }),
          begunMs,
        ),
      ),
    )
  }
  db.inTurn(() => store.habits.end('done', clock.nowMs()))
  live.tell({ about: 'problems' })
}

function stop(workspace: Workspace): void {
  workspace.db.inTurn(() => workspace.store.habits.end('stopped', workspace.clock.nowMs()))
  workspace.live.tell({ about: 'problems' })
}
