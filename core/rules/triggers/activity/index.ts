import { OBJECTS } from '../../../records/kinds'
import { z } from 'zod'
import { activityChange, activityIn, type ActivityDone } from '../../../signals/activity'
import { say, word } from '../../../language/sentence'
import {
  ACTIVITY,
  activitySignals,
  isActivity,
  sayActivity,
  toldBy,
  toldValues,
  type ActivityParams,
} from '../../activities'
import { defineTrigger } from '../../trigger'

interface Params extends ActivityParams {
  /** Whether it counts also when it is received more than an hour after it was done. */
  late: boolean
}

const priced: Params = { kind: 'visit', by: 'contact', about: 'price', late: false }
const did = (change: Partial<ActivityDone>) => ({
  kind: 'happened' as const,
  changes: [
    activityChange({
      kind: 'visit',
      by: 'contact',
      late: false,
      about: '/prices',
      data: {},
      who: 'Ada Lind',
      atMs: Date.UTC(2026, 10, 24, 9),
      ...change,
    }),
  ],
})

export const activity = defineTrigger<'activity', Params>({
  kind: 'activity',
  does: 'someone does something',
  hint: 'A contact visits a page, sends a form, answers a message or books an appointment, for example. For a deal or company, its contacts count too.',
  objects: OBJECTS,
  params: ACTIVITY.params.extend({ late: z.boolean() }),
  form: {
    ...ACTIVITY.form,
    late: { widget: 'toggle', on: 'even if received late', off: 'received within an hour' },
  },
  start: { ...ACTIVITY.start, late: false },
  sentence: (params, names) => [
    ...ACTIVITY.sentence(params, names),
    say(', '),
    word('late', params.late ? 'even if received late' : 'received within an hour', ''),
  ],
  check: (params, names) => ACTIVITY.check(params, names),
  listen: (params) => activitySignals(params, params.late),
  compile: (params) => (event) =>
    event.kind === 'happened' &&
    isActivity(params, event.changes) &&
    (params.late || activityIn(event.changes)?.late === false),
  nearly: (params, { changes }, names) =>
    !params.late && isActivity(params, changes) && activityIn(changes)?.late === true
      ? `${sayActivity(changes, names)}, but it was received more than an hour later`
      : null,
  because: (_params, event, names) => sayActivity(event.changes, names),
  gives: ({ kind }, { catalogue }) => toldBy(kind, catalogue),
  given(params, { changes }) {
    const found = activityIn(changes)
    if (!found || !isActivity(params, changes)) return {}
    return toldValues(found)
  },
  examples: [
    { say: 'opens such a page', object: 'deal', params: priced, event: did({ about: '/PRICES?size=2' }), starts: true },
    { say: 'opens another page', object: 'deal', params: priced, event: did({ about: '/about' }), starts: false },
    {
      say: 'sends a form of that name',
      object: 'deal',
      params: priced,
      event: did({ kind: 'form', about: 'Prices' }),
      starts: false,
    },
    { say: 'is told of late', object: 'contact', params: priced, event: did({ late: true }), starts: false },
    {
      say: 'is told of late, and may be',
      object: 'contact',
      params: { ...priced, about: '', late: true },
      event: did({ late: true, about: '' }),
      starts: true,
    },
    {
      say: 'is of the company itself',
      object: 'company',
      params: priced,
      event: did({ by: 'company' }),
      starts: false,
    },
  ],
})
