import type { Kept } from './kept'

/** What visitors did of whom nobody said who they are. */
export const visitors: Kept = {
  kind: 'visitors',
  table: 'unknown_happenings',
  key: 'id',
  gone: 'one.at_ms < @before',
  oldest: 'SELECT min(at_ms) AS at FROM unknown_happenings',
  young: null,
  tables: ['unknown_happenings'],
}
