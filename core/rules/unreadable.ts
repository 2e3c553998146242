import { OBJECTS, type ObjectKind } from '../records/kinds'
import { blankRule, type RuleDocument } from './document'

const textAt = (given: unknown, key: string): string | null => {
  const value: unknown = typeof given === 'object' && given !== null ? Reflect.get(given, key) : null
  return typeof value === 'string' && value.trim() !== '' ? value : null
}

/**
 * What stands in for a stored rule that cannot be read: its name and its record type, as far as they can be told. It
 * starts on nothing and does nothing, so that lists and pages go on.
 */
export function standIn(given: unknown, id: number): RuleDocument {
  const object = textAt(given, 'object')
  const isKind = (value: string | null): value is ObjectKind => OBJECTS.some((one) => one === value)
  return blankRule(isKind(object) ? object : 'deal', textAt(given, 'name')?.slice(0, 200) ?? `Rule ${id}`)
}
