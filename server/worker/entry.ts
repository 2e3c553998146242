import { parentPort, workerData } from 'node:worker_threads'
import { continueImport, type ImportControl } from '../engine/import'
import { planClock, turnClock, workClock } from '../engine/clockwork'
import { pickUpByThemselves } from '../engine/calls'
import { actByThemselves } from '../engine/simulated-messages'
import { workDerived } from '../engine/derived'
import { countResults, lookAtGoals } from '../engine/results'
import { lookForProblems } from '../problems'
import { searchHabits } from '../engine/habits'
import { tellOutside } from '../engine/tell-outside'
import { catchUpAll } from '../engine/put-off'
import { deliverRates } from '../engine/rates'
import { workRetention } from '../engine/retention'
import { hoursKey, replanWaits } from '../engine/replan'
import { workJob } from '../engine/rule-jobs'
import { Gather } from '../engine/gather'
import { TurnTaker } from '../engine/turns'
import { endRehearsal, rehearsing } from './rehearsals'
import { RefusedError, Workspace } from '../engine/workspace'
import { logRuns } from '../engine/log'
import { QUESTIONS, type Answer, type Given, type QuestionName } from './questions'
import type { Ask, Told, WorkerSetting } from './protocol'

/**
 * A thread beside the one that serves pages, over a connection of its own: imports, and questions about many records.
 */
const { role, dbFile, migrationsFolder, turns } = workerData as WorkerSetting
const taker = new TurnTaker(turns, false)
const counts: Record<string, number> = {}
const workspace = new Workspace({
  dbFile,
  migrationsFolder,
  turns: taker,
  trouble: (error) =>
    tell({ told: 'trouble', text: error instanceof Error ? (error.stack ?? error.message) : String(error) }),
  ran(reports) {
    logRuns(reports)
    for (const { state } of reports) counts[state] = (counts[state] ?? 0) + 1
  },
})
const tell = (told: Told): void => parentPort?.postMessage(told)
/** Open screens hear of bulk work twice a second. */
const TELL_EVERY_MS = 500
const gather = new Gather()
workspace.live.listen(({ message }) => gather.add(message))
setInterval(() => {
  for (const message of gather.take()) tell({ told: 'live', message })
  if (Object.keys(counts).length === 0) return
  tell({ told: 'ran', counts: { ...counts } })
  for (const state of Object.keys(counts)) Reflect.deleteProperty(counts, state)
}, TELL_EVERY_MS)

/** So long a batch takes at the least: a commit for each row while somebody always waits would get nowhere. */
const LEAST_MS = 5
let begun = 0
const control: ImportControl = {
  awaited: () => taker.awaited() && performance.now() - begun >= LEAST_MS,
  nowMs: () => performance.now(),
  async pause() {
    // Messages are heard in between; whoever waits for the turn gets it before the next batch begins.
    await new Promise((resolve) => setImmediate(resolve))
    begun = performance.now()
  },
}

/** Imports go one after the other: two at once would only hinder each other. */
let queue: Promise<void> = Promise.resolve()
function inTurn(id: number, work: () => Promise<void>): void {
  queue = queue.then(work).catch((error: unknown) => {
    tell({
      told: 'trouble',
      text: `Job ${id} stopped and will continue after a restart: ${error instanceof Error ? (error.stack ?? error.message) : String(error)}`,
    })
  })
}

function tellFailed(n: number, error: unknown): void {
  const problems = error instanceof RefusedError ? error.problems : null
  tell({ told: 'failed', n, text: error instanceof Error ? error.message : String(error), problems })
}

function answer<K extends QuestionName>(name: K, given: Given<K>): Answer<K> {
  const question = QUESTIONS[name] as (workspace: Workspace, given: Given<K>) => Answer<K>
  return question(workspace, given)
}

const { rehearse, load } = rehearsing(workspace, (told) => tell({ told: 'rehearsal', ...told }))

parentPort?.on('message', (ask: Ask) => {
  workspace.keepUp()
  switch (ask.ask) {
    case 'question':
      try {
        tell({ told: 'answer', n: ask.n, value: answer(ask.name, ask.given as Given<typeof ask.name>) })
      } catch (error) {
        tellFailed(ask.n, error)
      }
      return
    case 'load':
      load(ask.days).then(
        (value) => tell({ told: 'answer', n: ask.n, value }),
        (error: unknown) => tellFailed(ask.n, error),
      )
      return
    case 'import':
      inTurn(ask.id, async () => {
        await continueImport(workspace, ask.id, control)
        workspace.analyze()
      })
      return
    case 'job':
      inTurn(ask.id, () => workJob(workspace, ask.id, control))
      return
    case 'rehearse':
      void rehearse(ask.id, ask.wanted, ask.other)
      return
    case 'endRehearsal':
      endRehearsal(ask.id)
      return
    case 'turn':
      inTurn(0, () => turnClock(workspace, ask.toMs, control))
      return
    case 'close':
      void workspace.courier.stop().then(() => {
        workspace.close()
        process.exit(0)
      })
  }
})

if (role === 'bulk' && workspace.catalogueOrNull())
  for (const id of workspace.store.imports.running()) inTurn(id, () => continueImport(workspace, id, control))
if (role === 'bulk' && workspace.catalogueOrNull())
  for (const id of workspace.store.ruleJobs.running()) inTurn(id, () => workJob(workspace, id, control))
if (role === 'bulk' && workspace.catalogueOrNull()) workspace.analyze()
/** What is due is looked for this often. */
const CLOCK_EVERY_MS = 500
let planned = ''
/** The hours by which everything that waits was counted last. */
let hours = ''
/** One look at the clock at a time, and none beside other work in bulk: that one takes its turn in between. */
let looking = false
async function lookAtClock(): Promise<void> {
  workspace.keepUp()
  if (looking || !workspace.catalogueOrNull()) return
  looking = true
  try {
    const { rules, catalogue } = workspace.store.revisions.now()
    if (planned !== `${rules} ${catalogue}`) {
      planClock(workspace)
      planned = `${rules} ${catalogue}`
    }
    const key = hoursKey(workspace.catalogue())
    if (key !== hours) await replanWaits(workspace, control)
    hours = key
    deliverRates(workspace)
    await workDerived(workspace, control)
    await catchUpAll(workspace, control)
    await workClock(workspace, control)
    actByThemselves(workspace)
    pickUpByThemselves(workspace)
    await countResults(workspace, control)
    lookAtGoals(workspace)
    lookForProblems(workspace)
    tellOutside(workspace)
    // It takes long, a piece at a time: nothing that is due waits for it.
    searchHabits(workspace, control).catch((error: unknown) =>
      tell({ told: 'trouble', text: error instanceof Error ? (error.stack ?? error.message) : String(error) }),
    )
    await workRetention(workspace, control)
  } catch (error) {
    tell({
      told: 'trouble',
      text: `The scheduler stopped and will retry: ${error instanceof Error ? (error.stack ?? error.message) : String(error)}`,
    })
  }
  looking = false
}
if (role === 'bulk') setInterval(() => void lookAtClock(), CLOCK_EVERY_MS)
tell({ told: 'ready' })
