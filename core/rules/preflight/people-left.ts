import { placedConditions } from '../../conditions/document'
import type { Person } from '../../fields/field'
import { setWord } from '../edit'
import type { RuleDocument } from '../document'
import { groupsOf, placedSteps } from '../tree'
import { definePreflight, noted, type Noted } from './finding'

/** The path of params to each id of a person that is named in them. */
function named(
  params: object,
  gone: ReadonlyMap<string, Person>,
): readonly { readonly param: string; readonly person: Person }[] {
  const holds = (part: unknown): Person | null =>
    typeof part === 'string'
      ? (gone.get(part) ?? null)
      : typeof part === 'object' && part !== null
        ? Object.values(part).reduce<Person | null>((found, one) => found ?? holds(one), null)
        : null
  return Object.entries(params).flatMap(([param, value]) => {
    const person = holds(value)
    return person ? [{ param, person }] : []
  })
}

const replaced = (value: unknown, from: string, to: string): unknown =>
  value === from
    ? to
    : Array.isArray(value)
      ? value.map((one) => replaced(one, from, to))
      : typeof value === 'object' && value !== null
        ? Object.fromEntries(Object.entries(value).map(([key, one]) => [key, replaced(one, from, to)]))
        : value

/** Somebody who has left is named. */
export const peopleLeft = definePreflight({
  kind: 'peopleLeft',
  look(rule, { catalogue }) {
    const gone = new Map(catalogue.people.filter((person) => !person.active).map((person) => [person.id, person]))
    if (gone.size === 0) return []
    const { document } = rule
    const found: Noted[] = []
    const add = (
      part: 'step' | 'condition',
      id: string,
      params: object,
      set: (param: string, value: unknown) => RuleDocument,
    ) => {
      for (const { param, person } of named(params, gone)) {
        const deputy = person.deputyId === null ? null : catalogue.person(person.deputyId)
        const value = (params as Readonly<Record<string, unknown>>)[param]
        found.push(
          noted('peopleLeft', rule, {
            severity: part === 'step' ? 'error' : 'warning',
            part,
            id,
            param,
            about: person.id,
            text: `${person.name} has left`,
            why:
              part === 'step'
                ? deputy?.active
                  ? `Goes to ${deputy.name}, the deputy.`
                  : `${person.name} has no deputy, so the step is skipped.`
                : 'This condition asks for records of someone who has left.',
            fix: deputy?.active
              ? { say: `Replace with ${deputy.name}`, rule: set(param, replaced(value, person.id, deputy.id)) }
              : null,
          }),
        )
      }
    }
    for (const { step } of placedSteps(document))
      add('step', step.id, step.params, (param, value) =>
        setWord(document, { part: 'step', id: step.id }, param, value, catalogue),
      )
    for (const { group, object } of groupsOf(document)) {
      for (const { condition } of placedConditions(group, object))
        add('condition', condition.id, condition.params, (param, value) =>
          setWord(document, { part: 'condition', id: condition.id }, param, value, catalogue),
        )
    }
    return found
  },
})
