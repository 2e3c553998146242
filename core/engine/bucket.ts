import { isEmpty, type Value, type Values } from '../language/value'
import type { Equality } from '../conditions/equalities'
import type { Field } from '../fields/field'

/**
 * Up to this many are asked one by one, and each that is kept out by a condition leaves a run that says so. Beyond it
 * that would bury the journal, and cost more than everything the event does.
 */
export const PLAIN_MOST = 32

export interface Listener {
  readonly equalities: readonly Equality[]
}

/**
 * What waits for one thing to happen. A large bucket is kept a second time by what the conditions need to be equal, so
 * that thousands of rules that wait for the same stage cost as much as those whose "is" the record meets.
 */
export class Bucket<L extends Listener> {
  private readonly all: L[] = []
  private index: {
    readonly fields: readonly Field[]
    readonly sub: ReadonlyMap<string, ReadonlyMap<string | number, readonly L[]>>
    readonly rest: readonly L[]
  } | null = null

  constructor(
    private readonly fieldOf: (key: string) => Field | null,
    private readonly compared: (field: Field, value: Value) => string | number,
  ) {}

  add(listener: L): void {
    this.all.push(listener)
    this.index = null
  }

  /** Whether some of its listeners are passed over because of what the record holds. */
  get looksAtValues(): boolean {
    return this.all.length > PLAIN_MOST
  }

  /** Those whose conditions can hold for the values; all of them when there are few or no values are given. */
  *candidates(values: Values | null): Generator<L> {
    if (!this.looksAtValues || values === null) {
      yield* this.all
      return
    }
    const { fields, sub, rest } = (this.index ??= this.build())
    yield* rest
    for (const field of fields) {
      const value = values[field.key]
      if (!isEmpty(value)) yield* sub.get(field.key)?.get(this.compared(field, value)) ?? []
    }
  }

  /** Each listener stands under that one of its fields which tells the bucket's listeners apart best. */
  private build() {
    const distinct = new Map<string, Set<string | number>>()
    for (const { equalities } of this.all) {
      for (const { field, keys } of equalities) {
        const known = distinct.get(field) ?? new Set()
        for (const key of keys) known.add(key)
        distinct.set(field, known)
      }
    }
    const sub = new Map<string, Map<string | number, L[]>>()
    const rest: L[] = []
    for (const listener of this.all) {
      const [best] = [...listener.equalities].sort(
        (a, b) =>
          (distinct.get(b.field)?.size ?? 0) / b.keys.length - (distinct.get(a.field)?.size ?? 0) / a.keys.length,
      )
      if (!best) {
        rest.push(listener)
        continue
      }
      const byKey = sub.get(best.field) ?? new Map<string | number, L[]>()
      sub.set(best.field, byKey)
      for (const key of new Set(best.keys)) {
        const there = byKey.get(key)
        if (there) there.push(listener)
        else byKey.set(key, [listener])
      }
    }
    return { fields: [...sub.keys()].flatMap((key) => this.fieldOf(key) ?? []), sub, rest }
  }
}
