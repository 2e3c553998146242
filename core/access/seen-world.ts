import { Asked, derivationsOf, type Derived, type DerivedWorld } from '../derived/derivations'
import { addGroup, nothing } from '../derived/depends'
import type { RollUp } from '../derived/making'
import { compileWhere, rollUp } from '../derived/roll-up'
import type { Group } from '../conditions/document'
import type { Moment } from '../conditions/moment'
import type { Subject } from '../conditions/subject'
import type { Catalogue } from '../fields/catalogue'
import type { Field } from '../fields/field'
import type { Value, Values } from '../language/value'
import type { Activity } from '../records/activity'
import type { ObjectKind, RecordRef } from '../records/kinds'
import type { RecordSnapshot } from '../records/record'
import { subjectOf, type LinkedRecord } from '../records/subject'
import { seesRecord, type Scope } from './scope'

/** What lies below: everything there is. */
export interface AllThereIs {
  linked(ref: RecordRef, object: ObjectKind): readonly LinkedRecord[]
  activities(ref: RecordRef): readonly Activity[]
}

/**
 * Records as somebody sees them who does not see all. What is hidden is linked to nothing: no question finds it, and
 * values that are worked out from linked records are worked out from those that may be seen. So no answer is another
 * one when something hidden is.
 */
export class SeenWorld implements DerivedWorld {
  constructor(
    private readonly below: AllThereIs,
    readonly scope: Exclude<Scope, null>,
    private readonly catalogue: Catalogue,
    private readonly moment: Moment,
  ) {}

  /** A record that may be seen, with the values that hang on others as they come to for whoever asks. */
  shown<R extends Pick<RecordSnapshot, 'object' | 'id' | 'values'>>(record: R): R {
    const veiled = derivationsOf(this.catalogue).overLinks(record.object)
    return veiled.length === 0 ? record : { ...record, values: this.valuesOf(record, veiled) }
  }

  linked = (ref: RecordRef, object: ObjectKind): readonly LinkedRecord[] =>
    this.below
      .linked(ref, object)
      .filter(({ record }) => seesRecord(this.scope, record.values))
      .map(({ record, ...how }) => ({ record: this.shown(record), ...how }))

  /** A record as conditions are asked of it. */
  subject(record: RecordSnapshot): Subject {
    return subjectOf(this.shown(record), this)
  }

  rollUp(ref: RecordRef, _field: Field, spec: RollUp, moment: Moment): Value {
    const where = compileWhere(spec, this.catalogue)
    return rollUp(spec, where, this.linked(ref, spec.over), this, moment, this.catalogue)
  }

  activities(ref: RecordRef): readonly Activity[] {
    return this.below.activities(ref)
  }

  /**
   * The values of a record, those that hang on others worked out when they are read: all of them at once would go from
   * record to record without end. A field never hangs on itself; one that did would be empty.
   */
  private valuesOf(
    { object, id, values }: Pick<RecordSnapshot, 'object' | 'id' | 'values'>,
    veiled: readonly Derived[],
  ) {
    const shown: { [key: string]: Value } = { ...values }
    for (const one of veiled) {
      let [known, busy]: [Value | undefined, boolean] = [undefined, false]
      Object.defineProperty(shown, one.field.key, {
        enumerable: true,
        get: (): Value => {
          if (known !== undefined || busy) return known ?? null
          busy = true
          known = one.value(new Asked(this, { object, id, values: shown }, this.moment))
          busy = false
          return known
        },
      })
    }
    return shown as Values
  }
}

/** Whether conditions, or an order, go by a value that is worked out from linked records, here or behind links. */
export function goesByVeiled(
  group: Group,
  object: ObjectKind,
  catalogue: Catalogue,
  also: readonly string[] = [],
): boolean {
  const depends = nothing()
  addGroup(depends, group, object, catalogue)
  const veiled = (of: ObjectKind, keys: Iterable<string>): boolean => {
    const known = new Set(
      derivationsOf(catalogue)
        .overLinks(of)
        .map(({ field }) => field.key),
    )
    return known.size > 0 && [...keys].some((key) => known.has(key))
  }
  return (
    veiled(object, [...depends.own, ...also]) ||
    depends.reaches.some(({ path, fields }) => veiled(path.at(-1) ?? object, fields))
  )
}

/** The conditions of a group, by their ids, whose answers tell of other records than the one asked. */
export function tellingOfOthers(group: Group, object: ObjectKind, catalogue: Catalogue): ReadonlySet<string> {
  const found = new Set<string>()
  const look = (one: Group): void => {
    for (const item of one.items) {
      if (item.kind === 'group') {
        look(item)
        continue
      }
      const alone: Group = { kind: 'group', id: 'alone', mode: 'all', items: [item] }
      const depends = nothing()
      addGroup(depends, alone, object, catalogue)
      if (depends.reaches.length > 0 || goesByVeiled(alone, object, catalogue)) found.add(item.id)
    }
  }
  look(group)
  return found
}
