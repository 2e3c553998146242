import type { Kept } from './kept'

/** What people were told in the app, read or not. */
export const notices: Kept = {
  kind: 'notices',
  table: 'notices',
  key: 'id',
  gone: 'one.at_ms < @before',
  oldest: 'SELECT min(at_ms) AS at FROM notices',
  young: 'one.at_ms >= @before',
  tables: ['notices'],
}
