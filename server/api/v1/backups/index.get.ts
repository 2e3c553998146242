import { basename } from 'node:path'
import { listBackups } from '../../../engine/backup'

/** The backups that lie beside the database. */
export default defineRoute('GET /backups', ({ workspace }) => ({
  backups: listBackups(workspace.dbFile).map(({ file, ...rest }) => ({ name: basename(file), ...rest })),
}))
