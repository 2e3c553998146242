import { LABEL_MOVE, movesLabel, type LabelMoveParams } from '../../labels'
import { defineAwait } from '../awaiting'

/** Lets time pass until somebody or another rule adds a label, or removes it. */
export const waitForLabel = defineAwait<'waitForLabel', LabelMoveParams>({
  kind: 'waitForLabel',
  does: 'wait until a label is added or removed',
  alsoCalled: ['tag', 'mark', 'label'],
  ...LABEL_MOVE,
  comes: (params, event) => movesLabel(params, event.changes, params.how),
  examples: [
    {
      say: 'waits three days at most',
      params: {
        labels: ['urgent'],
        how: 'added',
        field: 'labels',
        most: { count: 3, unit: 'days' },
        recheck: true,
      },
      expect: { go: 'wait', dueMs: Date.UTC(2026, 10, 27, 9, 12) },
    },
  ],
})
