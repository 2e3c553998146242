import { parentPort, workerData } from 'node:worker_threads'
import { readCsv } from '../../core/formats/csv/read'
import { refusedCsv } from '../../core/formats/csv/refused'
import { continueImport, previewImport, runImport, type ImportControl } from '../engine/import'
import { Gather } from '../engine/gather'
import { TurnTaker } from '../engine/turns'
import { Workspace } from '../engine/workspace'
import type { Ask, Told, WorkerSetting } from './protocol'

/** The thread that works in bulk: imports and their previews, over a connection of its own. */
const { dbFile, migrationsFolder, turns } = workerData as WorkerSetting
const taker = new TurnTaker(turns)
const workspace = new Workspace({ dbFile, migrationsFolder })
const tell = (told: Told): void => parentPort?.postMessage(told)
/** Open screens hear of bulk work twice a second. */
const TELL_EVERY_MS = 500
const gather = new Gather()
workspace.live.listen((message) => gather.add(message))
setInterval(() => {
  for (const message of gather.take()) tell({ told: 'live', message })
}, TELL_EVERY_MS)

/** Rows with something to say come first; the screen shows the rest in numbers. */
const PREVIEW_ROWS = 300

const pause = (ms: number): Promise<void> => new Promise((resolve) => setTimeout(resolve, ms))
const control: ImportControl = {
  awaited: () => taker.awaited(),
  nowMs: () => performance.now(),
  async pause() {
    do await pause(3)
    while (taker.awaited())
  },
}

/** Imports go one after the other: two at once would only hinder each other. */
let queue: Promise<void> = Promise.resolve()
function inTurn(id: number, work: () => Promise<void>): void {
  queue = queue.then(work).catch((error: unknown) => {
    tell({ told: 'trouble', text: `import ${id} stopped and goes on at the next start: ${error instanceof Error ? (error.stack ?? error.message) : String(error)}` })
  })
}

function preview(id: number) {
  const row = workspace.store.imports.get(id)
  if (!row) throw new Error(`there is no import ${id}`)
  const { rows, ...rest } = previewImport(workspace, row)
  const weight = { refused: 0, changed: 1, new: 2, same: 3 } as const
  return { ...rest, rows: [...rows].sort((a, b) => weight[a.verdict] - weight[b.verdict] || a.row - b.row).slice(0, PREVIEW_ROWS) }
}

/** Before an import is run its refused rows are those of its preview. */
function refused(id: number): string {
  const row = workspace.store.imports.get(id)
  if (!row) throw new Error(`there is no import ${id}`)
  const rows = row.state === 'ready' ? previewImport(workspace, row).rows.filter((one) => one.verdict === 'refused') : (row.refused ?? [])
  return refusedCsv(readCsv(row.content), rows)
}

parentPort?.on('message', (ask: Ask) => {
  workspace.keepUp()
  switch (ask.ask) {
    case 'preview': case 'refused':
      try {
        tell({ told: 'answer', n: ask.n, value: ask.ask === 'preview' ? preview(ask.id) : refused(ask.id) })
      } catch (error) {
        tell({ told: 'failed', n: ask.n, text: error instanceof Error ? error.message : String(error) })
      }
      return
    case 'import':
      inTurn(ask.id, async () => {
        if (workspace.store.imports.stateOf(ask.id) === 'ready') await runImport(workspace, ask.id, ask.rulesOn, control)
        else await continueImport(workspace, ask.id, control)
      })
      return
    case 'close':
      workspace.close()
      process.exit(0)
  }
})

if (workspace.catalogueOrNull()) for (const id of workspace.store.imports.running()) inTurn(id, () => continueImport(workspace, id, control))
tell({ told: 'ready' })
