import type { RouteName } from '../utils/acts'
import { account } from './account'
import type { Contract } from './contract'
import { derived } from './derived'
import { records } from './records'
import { rules } from './rules'
import { work } from './work'

/** What every route takes and gives. A route without its contract does not compile. */
export const CONTRACTS = { ...records, ...rules, ...work, ...derived, ...account } as const satisfies {
  readonly [R in RouteName]: Contract
}
