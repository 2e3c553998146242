import type { Kept } from './kept'

const GONE = `one.state = 'stopped' AND one.started_at < @before AND coalesce(one.stop ->> '$.code', '') NOT IN ('noLonger', 'ended', 'leftAlone')
  AND NOT EXISTS (SELECT 1 FROM runs AS w WHERE w.chain_id = one.chain_id AND w.state = 'waiting')`

/** Runs that got to none of their steps. Those of a chain that goes on stay: a rule runs once in a chain. */
export const keptOutRuns: Kept = {
  kind: 'keptOutRuns',
  table: 'runs',
  key: 'id',
  gone: GONE,
  oldest: "SELECT min(started_at) AS at FROM runs WHERE state = 'stopped'",
  young: 'one.started_at >= @before',
  tables: ['runs', 'run_steps'],
  with: `DELETE FROM run_steps WHERE run_id IN (SELECT one.id FROM runs AS one WHERE one.id > @from AND one.id <= @to AND (${GONE}))`,
}
