import fc from 'fast-check'
import type { Group, Item } from '../conditions/document'
import { OPERATORS } from '../conditions/operators'
import { OBJECTS, type ObjectKind } from '../records/kinds'
import { linkedKinds } from '../conditions/linked'
import { RULE_FORMAT, type Branch, type RuleDocument, type Step, type Trigger } from '../rules/document'
import { STEPS, STEP_NAMES, type StepName } from '../rules/steps'
import { TRIGGERS, TRIGGER_NAMES } from '../rules/triggers'
import { OPERATOR_NAMES } from '../conditions/operator-names'
import { catalogue } from './setting'

/**
 * Rules of every shape that the schema allows, for property tests: each kind of trigger, step and operator comes up.
 */

const text = fc.oneof(
  fc.string({ maxLength: 30 }),
  fc.constantFrom(
    'yes',
    'null',
    '1e3',
    '2026-11-24',
    '- a',
    '# b',
    'a: b',
    '{{deal.name}}',
    ' x ',
    'line\nbreak\n',
    '“ü” & <b>',
  ),
)

/** Numbers the parts of a rule, so that no id stands twice. */
class Ids {
  private n = 0
  next(letter: string): string {
    return `${letter}${++this.n}`
  }
}

type Make<T> = (ids: Ids, pick: fc.GeneratorValue) => T

function one<T>(pick: fc.GeneratorValue, list: readonly T[]): T {
  const found = list[pick(fc.nat, { max: list.length - 1 })]
  if (found === undefined) throw new Error('nothing to choose from')
  return found
}

const conditionOf =
  (object: ObjectKind): Make<Item> =>
  (ids, pick) => {
    const field = one(pick, catalogue.fields(object))
    const op = one(
      pick,
      OPERATOR_NAMES.filter((name) => OPERATORS[name].types.includes(field.type)),
    )
    const operator = OPERATORS[op]
    const example = operator.examples.length > 0 ? one(pick, operator.examples).params : operator.start
    return {
      kind: 'condition',
      id: ids.next('c'),
      field: field.key,
      op,
      not: pick(fc.boolean),
      params: example,
      ...(pick(fc.boolean) ? { at: 'before' as const } : {}),
    }
  }

const groupOf =
  (object: ObjectKind, depth: number): Make<Group> =>
  (ids, pick) => ({
    kind: 'group',
    id: ids.next('c'),
    mode: one(pick, ['all', 'any', 'none'] as const),
    items: Array.from({ length: pick(fc.integer, { min: 0, max: 3 }) }, (): Item => {
      const kind = pick(fc.integer, { min: 0, max: 5 })
      if (kind === 0 && depth > 0) return groupOf(object, depth - 1)(ids, pick)
      if (kind === 1 && depth > 1) {
        const other = one(pick, linkedKinds(object))
        return {
          kind: 'linked',
          id: ids.next('c'),
          object: other,
          how: one(pick, ['any', 'every', 'none', 'atLeast'] as const),
          count: pick(fc.integer, { min: 1, max: 9 }),
          group: groupOf(other, 0)(ids, pick),
        }
      }
      return conditionOf(object)(ids, pick)
    }),
  })

const stepsOf =
  (object: ObjectKind, depth: number, kinds: readonly StepName[]): Make<readonly Step[]> =>
  (ids, pick) =>
    Array.from({ length: pick(fc.integer, { min: 0, max: 3 }) }, (): Step => {
      const kind = STEPS[one(pick, kinds)]
      const id = ids.next('s')
      const params = kind.examples.length > 0 ? one(pick, kind.examples).params : kind.start
      if (!kind.ways) return { id, kind: kind.kind, params }
      if (depth === 0) return { id, kind: 'stop', params: { because: pick(() => text) } }
      const inside = kind.ways.object(params, object)
      const started = kind.ways.begin(params, { catalogue, object }, (letter) => ids.next(letter))
      return {
        id,
        kind: kind.kind,
        params,
        branches: started.map((branch): Branch => ({
          ...branch,
          ...(branch.when ? { when: groupOf(inside, 1)(ids, pick) } : {}),
          steps: stepsOf(inside, depth - 1, kinds)(ids, pick),
        })),
      }
    })

/**
 * Rules with steps of some kinds only. A number is drawn before each: `gen` draws from a copy of where the random
 * numbers stand and leaves that where it is, so that several in a row would all be the same one.
 */
export const randomRuleOf = (kinds: readonly StepName[]): fc.Arbitrary<RuleDocument> =>
  fc.nat().chain(() =>
    fc.gen().map((pick) => {
      const ids = new Ids()
      const object = one(pick, OBJECTS)
      const triggers = Array.from({ length: pick(fc.integer, { min: 0, max: 3 }) }, (): Trigger => {
        const kind = TRIGGERS[one(pick, TRIGGER_NAMES)]
        return { id: ids.next('t'), kind: kind.kind, params: one(pick, kind.examples).params }
      })
      return {
        format: RULE_FORMAT,
        name: pick(() => text.map((one) => one.trim() || 'x')),
        description: pick(() => text),
        object,
        triggers,
        conditions: groupOf(object, 2)(ids, pick),
        ...(pick(fc.boolean) ? { recheck: false, graceHours: 5 } : {}),
        ...(pick(fc.boolean)
          ? {
              repeats: one(pick, [
                { how: 'once' as const },
                { how: 'rest' as const, rest: { count: 3, unit: 'days' as const } },
              ]),
            }
          : {}),
        steps: stepsOf(object, 2, kinds)(ids, pick),
      }
    }),
  )

export const randomRule = randomRuleOf(STEP_NAMES)

/** The same with one thing wrong, or merely different, somewhere: a key gone, added or holding something else. */
export const spoiled = (rule: RuleDocument): fc.Arbitrary<unknown> =>
  fc.gen().map((pick) => {
    const copy = JSON.parse(JSON.stringify(rule)) as Record<string, unknown>
    const places: (readonly [Record<string, unknown>, string])[] = []
    const gather = (node: unknown): void => {
      if (typeof node !== 'object' || node === null) return
      for (const key of Object.keys(node)) {
        places.push([node as Record<string, unknown>, key])
        gather((node as Record<string, unknown>)[key])
      }
    }
    gather(copy)
    const [node, key] = one(pick, places)
    const how = pick(fc.integer, { min: 0, max: 2 })
    if (how === 0) Reflect.deleteProperty(node, key)
    else if (how === 1 && !Array.isArray(node)) node[`${key}x`] = node[key]
    else node[key] = one(pick, [false, 7, 'launch', [], {}, true, -1, 'x'.repeat(5000)])
    return copy
  })
