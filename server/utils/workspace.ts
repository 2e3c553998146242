import type { Workspace } from '../engine/workspace'
import type { Thread } from '../worker/thread'

let open: Workspace | null = null

/** The workspace this process serves. Opened by the plugin at start. */
export function useWorkspace(): Workspace {
  if (!open) throw new Error('the workspace has not been opened yet')
  return open
}

export function setWorkspace(workspace: Workspace | null): void {
  open = workspace
}

interface Threads {
  readonly bulk: Thread
  readonly reader: Thread
  readonly rehearsal: Thread
}
let threads: Threads | null = null

function useThread(which: keyof Threads): Thread {
  if (!threads) throw new Error('the workers are not running')
  return threads[which]
}

/** The thread that writes imports, and reads for them. */
export const useBulk = (): Thread => useThread('bulk')
/** The thread that answers what screens ask of many records. */
export const useReader = (): Thread => useThread('reader')

/** The thread that tries rules on a copy of the records. */
export const useRehearsals = (): Thread => useThread('rehearsal')

export function setThreads(given: Threads | null): void {
  threads = given
}
