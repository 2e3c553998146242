import type { Kept } from './kept'

/** What was written to contacts and what they answered: what is on its way stays. */
export const conversations: Kept = {
  kind: 'conversations',
  table: 'messages',
  key: 'id',
  gone: "one.state <> 'waiting' AND one.at_ms < @before",
  oldest: 'SELECT min(at_ms) AS at FROM messages',
  young: 'one.at_ms >= @before',
  tables: ['messages'],
}
