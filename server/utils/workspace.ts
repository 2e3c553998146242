import type { Workspace } from '../engine/workspace'
import type { Bulk } from '../worker/bulk'

let open: Workspace | null = null

/** The workspace this process serves. Opened by the plugin at start. */
export function useWorkspace(): Workspace {
  if (!open) throw new Error('the workspace has not been opened yet')
  return open
}

export function setWorkspace(workspace: Workspace | null): void {
  open = workspace
}

let bulk: Bulk | null = null

/** The thread that works in bulk. */
export function useBulk(): Bulk {
  if (!bulk) throw new Error('the bulk worker is not running')
  return bulk
}

export function setBulk(given: Bulk | null): void {
  bulk = given
}
