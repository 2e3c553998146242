import { z } from 'zod'
import * as all from './all'
import type { ActivityKind } from './kind'

/** Everything that people can do. */

/** What comes with the product; a workspace may have kinds of its own beside it. */
export type BuiltInActivity = (typeof all)[keyof typeof all]['kind']

/** The name of any kind, also of one of a workspace’s own. */
export type ActivityName = string

/** Every kind that comes with the product, by its name. */
export const ACTIVITIES = Object.fromEntries(Object.values(all).map((one) => [one.kind, one])) as unknown as {
  readonly [K in BuiltInActivity]: ActivityKind<K>
}
export const ACTIVITY_NAMES = Object.keys(ACTIVITIES) as [BuiltInActivity, ...BuiltInActivity[]]

/** A name as kinds of one’s own have it. It is no name of a step’s or trigger’s results, as `s2` or `t1`. */
export const zOwnActivityName = z
  .string()
  .regex(/^[a-z][A-Za-z]{2,}[A-Za-z0-9]*$/, 'Use letters and digits, beginning with three letters.')
  .max(40)

/** The name of any kind. Whether there is one is asked of the catalogue. */
export const zActivityName = z
  .string()
  .regex(/^[a-z][A-Za-z0-9]*$/, 'Use letters and digits only, beginning with a small letter.')
  .max(40)

/** A kind that a workspace made for itself. */
export interface OwnActivity extends ActivityKind {
  readonly id: number
  /** Nothing names it any more, but what was done can still be told. */
  readonly archived: boolean
}

/** All kinds of a workspace: those that come with the product first. */
export class ActivityTable {
  private readonly byName: ReadonlyMap<ActivityName, ActivityKind>
  /** Those that can be chosen. */
  readonly names: readonly ActivityName[]

  constructor(readonly own: readonly OwnActivity[] = []) {
    this.byName = new Map<string, ActivityKind>([
      ...Object.values(ACTIVITIES).map((one) => [one.kind, one] as const),
      ...own.map((one) => [one.kind, one] as const),
    ])
    this.names = [...ACTIVITY_NAMES, ...own.filter((one) => !one.archived).map((one) => one.kind)]
  }

  get(name: ActivityName): ActivityKind | null {
    return this.byName.get(name) ?? null
  }

  /** One that can be chosen; `null` also for an archived one. */
  active(name: ActivityName): ActivityKind | null {
    return this.names.includes(name) ? this.get(name) : null
  }

  /** Its words; for one that is not there, of another workspace for example, its name stands for them. */
  words(name: ActivityName): Pick<ActivityKind, 'did' | 'does' | 'one' | 'many' | 'about'> {
    return this.get(name) ?? { did: name, does: name, one: name, many: name, about: 'text' }
  }

  /** For lists to choose from, by the form of their words that fits there. */
  options(form: 'does' | 'one' | 'did'): readonly { readonly value: ActivityName; readonly label: string }[] {
    return this.names.map((value) => ({ value, label: this.words(value)[form] }))
  }
}
