import { z } from 'zod'
import { count } from '../language/counts'
import type { RecordRef } from '../records/kinds'
import { defineEffect } from './effect'

interface Want {
  readonly ref: RecordRef
  readonly because: string
}

/** Whatever waits for a record, in other runs than this one, is ended. */
export const ended = defineEffect({
  kind: 'ended',
  category: 'time',
  left: z.object({ runs: z.number(), because: z.string() }),
  needs: () => [],
  apply({ endWaits }, { ref, because }: Want) {
    const runs = endWaits(ref, because)
    return runs === 0 ? null : { runs, because }
  },
  describe: ({ runs, because }) => `ended ${count(runs, 'waitingRun')}: ${because}`,
  undo: ({ because }, { left }) => void left.push(`waiting runs were ended: ${because}`),
  summarise: () => ({ ahead: true }),
})
