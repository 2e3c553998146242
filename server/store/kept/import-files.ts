import type { Kept } from './kept'

/** Files of imports that are done. What each brought, and which rows were rejected, stays. */
export const importFiles: Kept = {
  kind: 'importFiles',
  table: 'import_files',
  key: 'import_id',
  gone: `EXISTS (SELECT 1 FROM imports AS i WHERE i.id = one.import_id AND i.state = 'done' AND i.ended_at < @before)`,
  oldest: 'SELECT min(i.created_at) AS at FROM imports AS i JOIN import_files AS f ON f.import_id = i.id',
  young: null,
  tables: ['import_files'],
}
