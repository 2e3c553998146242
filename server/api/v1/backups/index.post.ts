import { basename } from 'node:path'
import { makeBackup } from '../../../engine/backup'

/** Copies the database as it is now, while everything goes on; answers when the copy has been checked. */
export default defineRouteAwaiting('POST /backups', async ({ workspace }) => {
  const { file, ...rest } = await makeBackup(workspace.dbFile, workspace.clock.nowMs())
  return { name: basename(file), ...rest }
})
