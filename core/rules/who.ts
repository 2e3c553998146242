import { listOf } from '../language/counts'
import { z } from 'zod'
import type { Catalogue } from '../fields/catalogue'
import type { Person } from '../fields/field'
import type { Values } from '../language/value'
import type { RecordSnapshot } from '../records/record'
import type { Activity } from '../records/activity'
import type { LinkedRecord } from '../records/subject'
import type { Names } from '../fields/names'
import type { Problem } from '../language/problems'
import type { SkipReason } from '../language/reasons'
import { type ObjectKind, type RecordRef, oneOf } from '../records/kinds'
import type { Moment } from '../conditions/moment'
import { territoryOf } from '../territories/territory-of'

/** Who gets something to do, or is told of something. */
export const zWho = z.discriminatedUnion('by', [
  z.strictObject({ by: z.literal('owner') }),
  z.strictObject({ by: z.literal('person'), person: z.string().max(100).nullable() }),
  /** One after the other, in this order, over all records that come by. */
  z.strictObject({ by: z.literal('turn'), people: z.array(z.string().max(100)).max(50) }),
  /** Whoever of them has the fewest open tasks; of several, the first. */
  z.strictObject({ by: z.literal('load'), people: z.array(z.string().max(100)).max(50) }),
  /** Whoever covers the territory that the company lies in. */
  z.strictObject({ by: z.literal('territory') }),
  /** Nobody yet: it lies in the queue of a team until somebody takes it. For tasks. */
  z.strictObject({ by: z.literal('queue'), team: z.string().max(100).nullable() }),
  /** Each who is in a team and not away: one each. */
  z.strictObject({ by: z.literal('everyone'), team: z.string().max(100).nullable() }),
])
export type Who = z.infer<typeof zWho>
export const WHO_WAYS = ['owner', 'person', 'turn', 'load', 'territory', 'queue', 'everyone'] as const
export type WhoWay = (typeof WHO_WAYS)[number]
export const OWNER: Who = { by: 'owner' }

export const WHO_WORDS: { readonly [W in WhoWay]: string } = {
  owner: 'Owner',
  person: 'someone',
  turn: 'Next in turn',
  load: 'Least busy',
  territory: 'By territory',
  queue: 'Team queue',
  everyone: 'Everyone in a team',
}

/** What choosing somebody may look at. */
export interface WhoContext {
  readonly catalogue: Catalogue
  readonly moment: Moment
  /** How often this step has given something to somebody in turn so far. */
  readonly turn: () => number
  readonly openTasks: (personId: string) => number
  readonly record: RecordSnapshot
  readonly related: (object: ObjectKind) => RecordSnapshot | null
  readonly linkedOf: (ref: RecordRef, object: ObjectKind) => readonly LinkedRecord[]
  /** What was done around one. */
  readonly activities: (ref: RecordRef) => readonly Activity[]
}

/** In words; `null` while it is still to be chosen. */
export function sayWho(who: Who, object: ObjectKind, catalogue: Catalogue): string | null {
  const name = (id: string): string => catalogue.person(id)?.name ?? id
  switch (who.by) {
    case 'owner':
      return object === 'none' ? null : `the ${oneOf(object)}’s owner`
    case 'person':
      return who.person === null ? null : name(who.person)
    case 'turn':
      return who.people.length === 0 ? null : `the next in turn of ${listOf(who.people.map(name))}`
    case 'load':
      return who.people.length === 0 ? null : `the least busy of ${listOf(who.people.map(name))}`
    case 'territory':
      return object === 'none' ? null : 'the person who covers the territory'
    case 'queue':
      return who.team === null ? null : `the ${who.team} queue`
    case 'everyone':
      return who.team === null ? null : `everyone in ${who.team}`
  }
}

/** The teams that there are, in order. */
export const teamsOf = (catalogue: Catalogue): readonly string[] =>
  [
    ...new Set(catalogue.people.filter((person) => person.active && person.team !== '').map((person) => person.team)),
  ].sort((a, b) => a.localeCompare(b, 'en'))

/** What somebody may be chosen by beside ways that name one person. */
export interface WhoMay {
  /** The queue of a team. */
  readonly queue?: boolean
  /** All of a team, one each. */
  readonly everyone?: boolean
}

/** What is missing or wrong with a choice. */
export function checkWho(who: Who, { catalogue, object }: Names, may: WhoMay = {}): Problem | null {
  // Without a record there is nobody it belongs to.
  if (object === 'none' && (who.by === 'owner' || who.by === 'territory')) return { code: 'noOwner' }
  if (who.by === 'owner') return null
  if (who.by === 'territory') return catalogue.data.territories?.length ? null : { code: 'noTerritories' }
  if (who.by === 'queue' || who.by === 'everyone') {
    if (!may[who.by]) return who.by === 'queue' ? { code: 'noQueue' } : { code: 'onePerson' }
    if (who.team === null) return { code: 'missing', what: 'team' }
    return teamsOf(catalogue).includes(who.team) ? null : { code: 'noTeam', team: who.team }
  }
  const people = who.by === 'person' ? (who.person === null ? [] : [who.person]) : who.people
  if (people.length === 0) return { code: 'missing', what: 'person' }
  const gone = people.find((id) => !catalogue.person(id))
  return gone === undefined ? null : { code: 'unknownPerson', raw: gone }
}

const isAway = (person: Person, day: string): boolean =>
  person.awayFrom !== null && person.awayTo !== null && day >= person.awayFrom && day <= person.awayTo

/**
 * Whoever does a person's work on a day: they, or their deputy when they are away or have left; they all the same when
 * merely away.
 */
function standIn(person: Person, day: string, catalogue: Catalogue): Person | null {
  if (person.active && !isAway(person, day)) return person
  const deputy = person.deputyId === null ? null : catalogue.person(person.deputyId)
  if (deputy?.active) return deputy
  return person.active ? person : null
}

/** Who it is on a day for a record with these values; or why it is nobody. `turn` says that a turn was taken. */
export function chooseWho(
  who: Who,
  values: Values,
  day: string,
  context: WhoContext,
): { readonly person: Person; readonly turn: boolean } | { readonly none: SkipReason } {
  const { catalogue, turn, openTasks } = context
  const one = (
    person: Person | null,
    takes = false,
  ): { readonly person: Person; readonly turn: boolean } | { readonly none: SkipReason } => {
    if (!person) return { none: { code: 'nobody', field: 'Owner' } }
    const found = standIn(person, day, catalogue)
    return found ? { person: found, turn: takes } : { none: { code: 'left', person: person.name } }
  }
  switch (who.by) {
    case 'owner':
      return one(typeof values.owner === 'string' ? catalogue.person(values.owner) : null)
    case 'person': {
      const person = who.person === null ? null : catalogue.person(who.person)
      return person ? one(person) : { none: { code: 'noPerson', person: String(who.person) } }
    }
    case 'turn':
    case 'load': {
      const known = who.people.flatMap((id) => catalogue.person(id) ?? [])
      const there = known.filter((person) => person.active && !isAway(person, day))
      const among = there.length > 0 ? there : known.filter((person) => standIn(person, day, catalogue) !== null)
      const [first] = among
      if (!first) return { none: { code: 'allAway' } }
      if (who.by === 'turn') return one(among[turn() % among.length] ?? first, true)
      return one(among.reduce((least, person) => (openTasks(person.id) < openTasks(least.id) ? person : least), first))
    }
    case 'territory': {
      const { record, related, linkedOf, activities, moment } = context
      const company = record.object === 'company' ? record : related('company')
      if (!company) return { none: { code: 'noCompany' } }
      const territory = territoryOf(company, catalogue, { linked: linkedOf, activities }, moment)
      if (!territory) return { none: { code: 'noTerritory', company: String(company.values.name ?? 'the company') } }
      return one(catalogue.person(territory.personId))
    }
    // Whoever can put something into a queue, or give it to several, asks for that before.
    case 'queue':
    case 'everyone':
      return { none: { code: 'inQueue' } }
  }
}

/** All it is on a day: each of a team who is not away, or the one who is chosen; or why it is nobody. */
export function chooseAll(
  who: Who,
  values: Values,
  day: string,
  context: WhoContext,
): { readonly people: readonly Person[]; readonly turn: boolean } | { readonly none: SkipReason } {
  if (who.by === 'everyone') {
    const people = context.catalogue.people.filter(
      (person) => person.active && person.team === who.team && !isAway(person, day),
    )
    return people.length > 0 ? { people, turn: false } : { none: { code: 'allAway' } }
  }
  const chosen = chooseWho(who, values, day, context)
  return 'none' in chosen ? chosen : { people: [chosen.person], turn: chosen.turn }
}
