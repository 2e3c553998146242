import type { Kept } from './kept'

/** What people did, as one was told of it, possibly long after: they lie in no order of their time. */
export const activities: Kept = {
  kind: 'activities',
  table: 'activities',
  key: 'id',
  gone: 'one.at_ms < @before',
  oldest: 'SELECT min(at_ms) AS at FROM activities',
  young: null,
  tables: ['activities'],
}
