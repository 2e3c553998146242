import type { Values } from '../language/value'
import type { ObjectKind } from '../records/kinds'
import type { StepContext } from '../rules/step'
import { catalogue, moment } from './setting'

/** What a step may look at around a record that stands alone. */
export const nothingAround = (object: ObjectKind, values: Values, more: Partial<StepContext> = {}): StepContext => ({
  catalogue,
  moment,
  record: { object, id: 1, version: 1, values },
  related: () => null,
  linked: () => [],
  alike: () => [],
  setBy: () => null,
  openTask: () => null,
  linkedOf: () => [],
  activities: () => [],
  post: {
    addressFacts: () => ({ stopped: null, sent: [], toPerson: [], ofRule: [] }),
    lineOf: () => 'mobile',
  },
  ruleId: 1,
  firstSentTo: () => null,
  sentHere: () => [],
  turn: () => 0,
  due: false,
  openTasks: () => 0,
  ...more,
})
