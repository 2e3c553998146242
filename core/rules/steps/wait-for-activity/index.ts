import { activityIn } from '../../../signals/activity'
import {
  ACTIVITY,
  activitySignals,
  isActivity,
  sayActivity,
  toldBy,
  toldValues,
  type ActivityParams,
} from '../../activities'
import { defineAwait } from '../awaiting'

/** Lets time pass until somebody does something: answers, books, sends a form. */
export const waitForActivity = defineAwait<'waitForActivity', ActivityParams>({
  kind: 'waitForActivity',
  does: 'wait until someone does something',
  alsoCalled: ['activity', 'answer', 'visit', 'form', 'call', 'appointment', 'booking'],
  ...ACTIVITY,
  // Late or not: what counts is that it was done behind the beginning of the wait.
  signals: (params) => activitySignals(params, true),
  comes: (params, event) => event.kind === 'happened' && isActivity(params, event.changes),
  content: {
    gives: ({ kind }, { catalogue }) => toldBy(kind, catalogue),
    of({ changes }, names) {
      const found = activityIn(changes)
      return { gives: found ? toldValues(found) : {}, say: sayActivity(changes, names) }
    },
  },
  examples: [
    {
      say: 'waits two working days at most',
      params: {
        kind: 'message',
        by: 'contact',
        about: '',
        most: { count: 2, unit: 'workdays' },
        recheck: true,
      },
      expect: { go: 'wait', dueMs: Date.UTC(2026, 10, 26, 9, 12) },
    },
  ],
})
