import type { Kept } from './kept'

/**
 * What fields held. A row may go where a newer one of its field still stands: so it can always be said who set what a
 * record holds now, and taking a run back finds what it has to compare with.
 */
export const history: Kept = {
  kind: 'history',
  table: 'history',
  key: 'event_seq',
  gone: `one.event_seq <= (SELECT coalesce(max(seq), 0) FROM events WHERE at_ms < @before)
    AND EXISTS (SELECT 1 FROM history AS n JOIN events AS e ON e.seq = n.event_seq LEFT JOIN runs AS r ON r.id = e.cause ->> '$.runId'
      WHERE n.object = one.object AND n.record_id = one.record_id AND n.field_id = one.field_id AND n.event_seq > one.event_seq
        AND e.cause ->> '$.undoes' IS NULL AND r.undone_at IS NULL)`,
  oldest: 'SELECT at_ms AS at FROM events WHERE seq = (SELECT min(event_seq) FROM history)',
  young: 'one.event_seq > (SELECT coalesce(max(seq), 0) FROM events WHERE at_ms < @before)',
  tables: ['history'],
}
