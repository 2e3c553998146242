import type { Catalogue } from '../fields/catalogue'
import type { Field } from '../fields/field'
import { dayOf } from '../fields/types/date'
import type { Value, Values } from '../language/value'

/**
 * What amounts are worth in the workspace's currency: the form in which they meet. Open records by the newest rate,
 * closed ones by that of the day they were closed.
 */

/** Whether the amounts of a field may be in another currency than the workspace's. */
export const isForeign = ({ type, currencyKey }: Pick<Field, 'type' | 'currencyKey'>): boolean =>
  type === 'currency' && currencyKey !== null

const STAGE = 'stage'
const SINCE = 'stageSince'

/** The code of a currency as a choice holds it. */
const codeOf = (value: Value | undefined): string | null =>
  typeof value === 'string' && value !== '' ? value.toUpperCase() : null

/** The currency an amount of a record is in; the workspace's where none is named. */
export const currencyOf = (field: Field, values: Values, catalogue: Catalogue): string =>
  (field.currencyKey === null ? null : codeOf(values[field.currencyKey])) ?? catalogue.workspace.currency

/** The day a record was closed; `null` while it is open, or is of a kind that knows no stages. */
function closedOn(values: Values, catalogue: Catalogue): string | null {
  const stage = values[STAGE]
  const since = values[SINCE]
  if (typeof stage !== 'string' || typeof since !== 'number') return null
  const outcome = catalogue.stage(stage)?.outcome ?? 'open'
  return outcome === 'open' ? null : dayOf(since, catalogue.workspace.zone)
}

/**
 * The value of a field as it is compared, added up and put into formulas: an amount in the workspace's currency, `null`
 * where there is no rate for it; any other value as it is.
 */
export function worthIn(field: Field, catalogue: Catalogue): (values: Values) => Value {
  const { key, currencyKey } = field
  if (currencyKey === null || !isForeign(field)) return (values) => values[key] ?? null
  const { own } = catalogue.rates
  // Nearly all amounts are in the own currency, and this is asked for each of them.
  const plainly = own.toLowerCase()
  return (values) => {
    const amount = values[key]
    if (typeof amount !== 'number') return amount ?? null
    const code = values[currencyKey]
    if (code === null || code === undefined || code === plainly) return amount
    const said = currencyOf(field, values, catalogue)
    return said === own ? amount : worthNow(amount, said, values, catalogue)
  }
}

/** An amount of a record in the workspace's currency; `null` where there is no rate for it. */
export const worthNow = (amount: number, code: string, values: Values, catalogue: Catalogue): number | null =>
  catalogue.rates.toOwn(amount, code, closedOn(values, catalogue))

/**
 * A value in the workspace's currency as a field of a record holds it; `null` where there is no rate for that. What is
 * no amount of another currency stays as it is.
 */
export function heldAs(field: Field, catalogue: Catalogue, values: Values, value: Value): Value {
  if (!isForeign(field) || typeof value !== 'number') return value
  const code = currencyOf(field, values, catalogue)
  return catalogue.rates.fromOwn(value, code, closedOn(values, catalogue))
}

/** The fields that the worth of a field hangs on, itself among them. */
export const worthKeys = (field: Field): readonly string[] =>
  isForeign(field)
    ? [
        field.key,
        ...(field.currencyKey === null ? [] : [field.currencyKey]),
        ...(field.object === 'deal' ? [STAGE, SINCE] : []),
      ]
    : [field.key]
