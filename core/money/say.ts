import type { Catalogue } from '../fields/catalogue'
import type { Field } from '../fields/field'
import { sayValue } from '../fields/say-value'
import { isEmpty, type Values } from '../language/value'
import { isForeign, worthIn } from './worth'

/**
 * A value of a record in words: "€1,500", and "CA$1,500 (€1,020)" or "CA$1,500 (no rate)" for an amount that is in
 * another currency than the workspace's.
 */
export function sayWorth(field: Field, values: Values, catalogue: Catalogue): string {
  const own = values[field.key] ?? null
  const said = sayValue(own, field, catalogue, values)
  if (!isForeign(field) || isEmpty(own)) return said
  const worth = worthIn(field, catalogue)(values)
  if (worth === own) return said
  return `${said} (${isEmpty(worth) ? 'no rate' : sayValue(worth, { ...field, currencyKey: null }, catalogue)})`
}
