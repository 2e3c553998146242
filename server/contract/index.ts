import type { RouteName } from '../utils/acts'
import { activities } from './activities'
import { appointments } from './appointments'
import { account } from './account'
import { ahead } from './ahead'
import { fields } from './fields'
import { imports } from './imports'
import { messages } from './messages'
import { proof } from './proof'
import { rehearsals } from './rehearsals'
import { results } from './results'
import { runs } from './runs'
import { segments } from './segments'
import type { Contract } from './contract'
import { derived } from './derived'
import { records } from './records'
import { rules } from './rules'
import { web } from './web'
import { work } from './work'

/** What every route takes and gives. A route without its contract does not compile. */
export const CONTRACTS = {
  ...records,
  ...segments,
  ...fields,
  ...rules,
  ...ahead,
  ...rehearsals,
  ...runs,
  ...results,
  ...proof,
  ...work,
  ...imports,
  ...derived,
  ...activities,
  ...appointments,
  ...messages,
  ...web,
  ...account,
} as const satisfies {
  readonly [R in RouteName]: Contract
}
