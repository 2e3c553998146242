import { readSignedWith, signedWith, type Signed } from '../store/signature'
import type { Workspace } from './workspace'

/** What stands in a link for a record, so that nobody can make one for another. */
export const signed = (workspace: Workspace, what: Signed, id: number): string =>
  signedWith(workspace.store.websites.secret(), what, String(id))

/** The number of the record that such a link was made for; `null` for what was not made here. */
export function readSigned(workspace: Workspace, what: Signed, text: string): number | null {
  const id = readSignedWith(workspace.store.websites.secret(), what, text)
  return id !== null && /^\d{1,15}$/.test(id) ? Number(id) : null
}
