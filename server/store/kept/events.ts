import type { Kept } from './kept'

/**
 * The log of changes. An event stays while anything that is kept names it: a run that it started, the last value of a
 * field, a record that can be restored. Those that rules have not seen yet stay, and the newest of all, whose number
 * says where the log has come to.
 */
export const events: Kept = {
  kind: 'events',
  table: 'events',
  key: 'seq',
  gone: `one.at_ms < @before AND one.kind IN ('changed', 'linked', 'started', 'happened', 'taskDone', 'replied')
    AND one.seq < (SELECT max(seq) FROM events) AND one.seq <= (SELECT coalesce(min(seq), 0) FROM event_positions)
    AND NOT EXISTS (SELECT 1 FROM history AS h WHERE h.event_seq = one.seq)
    AND NOT EXISTS (SELECT 1 FROM runs AS r WHERE r.event_seq = one.seq)
    AND one.seq NOT IN (SELECT event_seq FROM held_starts)
    AND one.seq NOT IN (SELECT seq FROM gone_records)
    AND one.seq NOT IN (SELECT into_seq FROM gone_records WHERE into_seq IS NOT NULL)`,
  oldest: 'SELECT min(at_ms) AS at FROM events',
  young: 'one.at_ms >= @before',
  tables: ['events'],
}
