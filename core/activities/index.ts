import * as all from './all'
import type { ActivityKind } from './kind'

/** Everything that people can do. */

export type ActivityName = (typeof all)[keyof typeof all]['kind']

/** Every kind, by its name. */
export const ACTIVITIES = Object.fromEntries(Object.values(all).map((one) => [one.kind, one])) as unknown as {
  readonly [K in ActivityName]: ActivityKind<K>
}
export const ACTIVITY_NAMES = Object.keys(ACTIVITIES) as [ActivityName, ...ActivityName[]]
