import type { Kept } from './kept'

/** What visitors did of whom nobody said who they are. */
export const visitors: Kept = {
  kind: 'visitors',
  table: 'unknown_activities',
  key: 'id',
  gone: 'one.at_ms < @before',
  oldest: 'SELECT min(at_ms) AS at FROM unknown_activities',
  young: null,
  tables: ['unknown_activities'],
}
