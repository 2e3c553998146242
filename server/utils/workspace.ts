import type { Workspace } from '../engine/workspace'

let open: Workspace | null = null

/** The workspace this process serves. Opened by the plugin at start. */
export function useWorkspace(): Workspace {
  if (!open) throw new Error('the workspace has not been opened yet')
  return open
}

export function setWorkspace(workspace: Workspace | null): void {
  open = workspace
}
