import { compileGroup } from '../conditions/compile'
import type { Subject } from '../conditions/subject'
import type { Catalogue } from '../fields/catalogue'
import type { Field } from '../fields/field'
import { sameValue, type Value, type Values } from '../language/value'
import { fitted } from '../formulas/fit'
import { compileFormula, type Formula } from '../formulas/formula'
import type { Activity } from '../records/activity'
import { OBJECTS, type ObjectKind, type RecordRef } from '../records/kinds'
import { subjectOf, type LinkedRecord } from '../records/subject'
import { compileCard, fades, type CompiledCard, type Score } from '../scoring/scorecard'
import { addFormula, addGroup, addWorth, nothing, reachOf, type Depends } from './depends'
import type { RollUp } from './making'
import type { Moment } from '../conditions/moment'
import { heldAs } from '../money/worth'

/** What a value that is worked out needs of a world. */
export interface DerivedWorld {
  linked(ref: RecordRef, object: ObjectKind): readonly LinkedRecord[]
  /** What a roll-up comes to for a record now. */
  rollUp(ref: RecordRef, field: Field, spec: RollUp, moment: Moment): Value
  activities(ref: RecordRef): readonly Activity[]
}

/** One field whose value is worked out. */
export interface Derived {
  readonly field: Field
  readonly depends: Depends
  /** Whether it hangs on its own record alone, so that it is worked out in the same write. */
  readonly near: boolean
  value(of: Asked): Value
}

/** A record for which values are worked out, with what was found for it already. */
export class Asked {
  readonly subject: Subject
  private scores: Map<number, Score> | null = null

  constructor(
    readonly world: DerivedWorld | null,
    readonly record: { readonly object: ObjectKind; readonly id: number; readonly values: Values },
    public moment: Moment,
  ) {
    const { world: from } = this
    this.subject = subjectOf(
      { ...record, version: 0 },
      {
        linked: (ref, object) => from?.linked(ref, object) ?? [],
        activities: (ref) => from?.activities(ref) ?? [],
      },
    )
  }

  get ref(): RecordRef {
    return { object: this.record.object, id: this.record.id }
  }

  /** The same record at another moment. */
  turnTo(moment: Moment): void {
    this.moment = moment
    this.forget()
  }

  /** What was found with values that are others now is not answered again. */
  forget(): void {
    this.scores = null
  }

  /** The linked records as formulas look at them. */
  linked = (object: ObjectKind): readonly { readonly values: Values }[] =>
    this.world?.linked(this.ref, object).map(({ record }) => record) ?? []

  score({ card, score }: CompiledCard): Score {
    const scores = (this.scores ??= new Map())
    let found = scores.get(card.id)
    if (!found) {
      const { world } = this
      const activities = (from: ObjectKind | null): readonly Activity[] =>
        world === null
          ? []
          : from === null
            ? world.activities(this.ref)
            : world.linked(this.ref, from).flatMap(({ record }) => world.activities(record))
      scores.set(card.id, (found = score({ subject: this.subject, activities }, this.moment)))
    }
    return found
  }
}

/**
 * Everything that is worked out in a workspace, compiled once for its catalogue, in an order in which each comes behind
 * what it hangs on.
 */
export class Derivations {
  readonly all: readonly Derived[]
  private readonly nearOf = new Map<ObjectKind, readonly Derived[]>()
  private readonly farOf = new Map<ObjectKind, readonly Derived[]>()
  private readonly cards = new Map<number, CompiledCard>()
  /** Kinds of records at whose links something hangs. */
  readonly byLinks: ReadonlySet<ObjectKind>
  /** Fields that can be other values on another day. */
  readonly byDay: readonly Derived[]

  constructor(private readonly catalogue: Catalogue) {
    for (const card of catalogue.data.scorecards ?? []) this.cards.set(card.id, compileCard(card, catalogue))
    const made = OBJECTS.flatMap((object) => catalogue.everyField(object)).flatMap((field) => this.derived(field) ?? [])
    this.all = inOrder(made).order
    for (const object of OBJECTS) {
      this.nearOf.set(
        object,
        this.all.filter((one) => one.near && one.field.object === object),
      )
      this.farOf.set(
        object,
        this.all.filter((one) => !one.near && one.field.object === object),
      )
    }
    this.byDay = this.all.filter((one) => one.depends.byDay)
    this.byLinks = new Set(
      this.all.flatMap(({ field, depends }) => depends.reaches.flatMap(({ path }) => [field.object, ...path])),
    )
  }

  near(object: ObjectKind): readonly Derived[] {
    return this.nearOf.get(object) ?? []
  }

  far(object: ObjectKind): readonly Derived[] {
    return this.farOf.get(object) ?? []
  }

  card(id: number): CompiledCard | null {
    return this.cards.get(id) ?? null
  }

  /** The fields that hang on some fields, those that hang on them in turn included, in their order. */
  behind(fields: readonly Pick<Field, 'object' | 'key'>[]): readonly Derived[] {
    const touched = new Set(fields.map(({ object, key }) => `${object}.${key}`))
    return this.all.filter(({ field, depends }) => {
      const hangs =
        touched.has(`${field.object}.${field.key}`) || namesOf(field.object, depends).some((name) => touched.has(name))
      if (hangs) touched.add(`${field.object}.${field.key}`)
      return hangs
    })
  }

  /** The fields of a kind that hang on other records, be it by what they hang on; in their order. */
  overLinks(object: ObjectKind): readonly Derived[] {
    return (this.linksOf ??= this.behind(
      this.all.filter(({ depends }) => depends.reaches.length > 0).map(({ field }) => field),
    )).filter(({ field }) => field.object === object)
  }
  private linksOf: readonly Derived[] | null = null

  /**
   * What the day moves when it moves some fields of a kind of records, in its order; `null` where that reaches beyond
   * the record itself, or hangs on what the day moves in others.
   */
  dayAlone(fields: readonly Derived[]): readonly Derived[] | null {
    const moved = this.behind(fields.map((one) => one.field))
    const own = new Set(moved.map(({ field }) => `${field.object}.${field.key}`))
    const others = new Set(
      this.behind(this.byDay.map((one) => one.field))
        .map(({ field }) => `${field.object}.${field.key}`)
        .filter((name) => !own.has(name)),
    )
    const alone = moved.every(
      ({ field, depends }) =>
        field.object === fields[0]?.field.object &&
        !namesOf(field.object, depends).some((name) => others.has(name)) &&
        !depends.reaches.some(({ path, fields: keys }) =>
          [...keys].some((key) => own.has(`${path.at(-1) ?? field.object}.${key}`)),
        ),
    )
    return alone && moved.length > 0 ? moved : null
  }

  /** The fields that are worked out from a field, whatever record it is of. */
  hungOn({ object, key }: Pick<Field, 'object' | 'key'>): readonly Field[] {
    return this.all
      .filter(({ field, depends }) => namesOf(field.object, depends).includes(`${object}.${key}`))
      .map(({ field }) => field)
  }

  private derived(field: Field): Derived | null {
    const made = this.plainly(field)
    if (made) addWorth(made.depends, field, this.catalogue)
    return made
  }

  private plainly(field: Field): Derived | null {
    const { made, object } = field
    if (!made) return null
    const { catalogue } = this
    const depends = nothing()
    switch (made.by) {
      case 'formula': {
        const read = compileFormula(made.text, object, catalogue)
        // One whose fields have gone since comes to nothing; whoever looks at the field is told.
        if (!read.ok) return { field, depends, near: true, value: () => null }
        const formula: Formula = read.formula
        addFormula(depends, formula)
        return {
          field,
          depends,
          near: depends.reaches.length === 0,
          value({ record, linked, moment }) {
            const value = formula.value({ values: record.values, linked }, moment)
            return fitted(heldAs(field, catalogue, record.values, value), field, catalogue)
          },
        }
      }
      case 'rollUp': {
        const reach = reachOf(depends, [made.over])
        if (made.field !== null) reach.fields.add(made.field)
        if (made.order !== null) reach.fields.add(made.order)
        addGroup(depends, made.where, made.over, catalogue, [made.over])
        return {
          field,
          depends,
          near: false,
          value: ({ world, ref, moment }) => world?.rollUp(ref, field, made, moment) ?? null,
        }
      }
      case 'segment': {
        addGroup(depends, made.where, object, catalogue, [], [made.segment])
        const group = compileGroup(made.where, object, catalogue, [made.segment])
        return { field, depends, near: false, value: ({ subject, moment }) => group.test(subject, moment) }
      }
      case 'score': {
        const compiled = this.cards.get(made.card)
        if (!compiled) return null
        for (const line of compiled.card.lines) {
          if (line.for.what === 'being') addGroup(depends, line.for.where, object, catalogue)
          else if (line.for.from === null) depends.activities = true
          else reachOf(depends, [line.for.from]).activities = true
          if (fades(line)) depends.byDay = true
        }
        return {
          field,
          depends,
          near: false,
          value: (asked) => (made.part === 'points' ? asked.score(compiled).points : asked.score(compiled).band),
        }
      }
    }
  }
}

/** Everything a value hangs on, as "deal.amount". */
const namesOf = (object: ObjectKind, { own, reaches }: Depends): readonly string[] => [
  ...[...own].map((key) => `${object}.${key}`),
  ...reaches.flatMap(({ path, fields }) => [...fields].map((key) => `${path.at(-1) ?? object}.${key}`)),
]

/** Puts each behind what it hangs on; names the first circle there is. */
function inOrder(made: readonly Derived[]): {
  readonly order: readonly Derived[]
  readonly circle: readonly Field[] | null
} {
  const byName = new Map(made.map((one) => [`${one.field.object}.${one.field.key}`, one]))
  const order: Derived[] = []
  const done = new Set<Derived>()
  const way: Derived[] = []
  let circle: readonly Field[] | null = null
  const visit = (one: Derived): void => {
    if (done.has(one)) return
    const at = way.indexOf(one)
    if (at >= 0) {
      circle ??= way.slice(at).map(({ field }) => field)
      return
    }
    way.push(one)
    for (const name of namesOf(one.field.object, one.depends)) {
      const other = byName.get(name)
      if (other) visit(other)
    }
    way.pop()
    done.add(one)
    order.push(one)
  }
  made.forEach(visit)
  return { order, circle }
}

const kept = new WeakMap<Catalogue, Derivations>()

/** What is worked out by a catalogue. */
export function derivationsOf(catalogue: Catalogue): Derivations {
  let found = kept.get(catalogue)
  if (!found) kept.set(catalogue, (found = new Derivations(catalogue)))
  return found
}

/** The fields of a catalogue that hang on one another in a circle, in its order; `null` when none do. */
export function circleIn(catalogue: Catalogue): readonly Field[] | null {
  return inOrder(new Derivations(catalogue).all).circle
}

/** The values of a record that are worked out and not what stands there. */
export function differing(some: readonly Derived[], asked: Asked): { readonly [key: string]: Value } {
  const found: { [key: string]: Value } = {}
  for (const one of some) {
    const value = one.value(asked)
    if (!sameValue(asked.record.values[one.field.key] ?? null, value)) found[one.field.key] = value
  }
  return found
}
