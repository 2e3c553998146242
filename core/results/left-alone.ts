import type { RecordRef } from '../records/kinds'
import { stableShare } from './stable'

/**
 * Whether a rule leaves a record alone, to measure what happens without it: the same answer whenever it is asked.
 *
 * @param share of a hundred records, 0 to 50
 */
export const isLeftAlone = (ruleId: number, { object, id }: RecordRef, share: number): boolean =>
  share > 0 && stableShare(`${ruleId} ${object} ${id}`) * 100 < share
