import type { Kept } from './kept'

/** What was sent, and what was given up: what is on its way stays. */
export const messages: Kept = {
  kind: 'messages',
  table: 'outbox',
  key: 'id',
  gone: "one.state IN ('delivered', 'givenUp') AND one.created_at < @before",
  oldest: 'SELECT min(created_at) AS at FROM outbox',
  young: 'one.created_at >= @before',
  tables: ['outbox'],
}
