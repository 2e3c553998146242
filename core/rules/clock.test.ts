import { describe, expect, it } from 'vitest'
import { Catalogue } from '../fields/catalogue'
import type { Value } from '../language/value'
import { USUAL_MESSAGING, type Messaging } from '../messages/settings'
import type { RecordSnapshot } from '../records/record'
import { FACTS, PEOPLE } from '../testing/firm'
import { catalogue } from '../testing/setting'
import { calendarOf, decentFor, hoursOf, isZone, workdaysOf, ZONE_OF, ZONE_WORDS, zoneOf } from './clock'

const hire = { team: 'Hire', workdays: [2, 3, 4], opensAt: 600, closesAt: 900, holidays: [] }
const firm = new Catalogue({
  ...catalogue.data,
  workspace: { ...FACTS, teams: [hire] },
  people: PEOPLE.map((one) => (one.id === 'tomasz' ? { ...one, zone: 'Europe/Warsaw' } : one)),
})
type Values = Readonly<Record<string, Value>>
const record = (object: 'deal' | 'contact' | 'company', values: Values = {}): RecordSnapshot => ({
  object,
  id: 1,
  version: 1,
  values,
})

describe('a time zone', () => {
  it.each(['Europe/Lisbon', 'America/Halifax', 'Asia/Kathmandu', 'UTC'])('is %s', (zone) => {
    expect(isZone(zone)).toBe(true)
    // Asked again it is remembered.
    expect(isZone(zone)).toBe(true)
  })
  it.each(['', 'Lisbon', 'Europe/Atlantis', 'five o’clock', null, undefined, 1, {}])('is not %j', (zone) =>
    expect(isZone(zone)).toBe(false),
  )
})

describe('whose clock it goes by', () => {
  const none = () => null
  const contact = (zone: Value) => () => record('contact', { zone })
  it.each([
    ['workspace', record('deal', { owner: 'tomasz' }), none, 'Europe/Lisbon'],
    ['owner', record('deal', { owner: 'tomasz' }), none, 'Europe/Warsaw'],
    ['owner', record('deal', { owner: 'rosa' }), none, 'Europe/Lisbon'],
    ['owner', record('deal', { owner: 'gone' }), none, 'Europe/Lisbon'],
    ['owner', record('deal', {}), none, 'Europe/Lisbon'],
    ['contact', record('contact', { zone: 'America/Halifax' }), none, 'America/Halifax'],
    ['contact', record('contact', { zone: 'Atlantis' }), none, 'Europe/Lisbon'],
    ['contact', record('contact'), none, 'Europe/Lisbon'],
    ['contact', record('deal'), contact('America/Halifax'), 'America/Halifax'],
    ['contact', record('deal'), contact(null), 'Europe/Lisbon'],
    ['contact', record('company'), none, 'Europe/Lisbon'],
  ] as const)('%s', (whose, of, related, zone) => expect(zoneOf(whose, of, related, firm)).toBe(zone))
  it('has words for each', () => expect(Object.keys(ZONE_WORDS).sort()).toEqual([...ZONE_OF].sort()))
})

describe('when somebody may be written to', () => {
  const portugal = { name: 'Portugal', zone: 'Europe/Lisbon', hours: { from: 600, to: 1000, days: [1, 2] } }
  const canada = { name: 'Canada', zone: null, hours: USUAL_MESSAGING.hours }
  const messaging: Messaging = { ...USUAL_MESSAGING, countries: [portugal, canada] }
  const at = (contact: Values, company: Values = {}) => decentFor(contact, company, messaging, 'UTC')

  it('is by their own zone first, and by the hours of their country', () =>
    expect(at({ zone: 'America/Halifax', country: 'portugal' })).toEqual({
      zone: 'America/Halifax',
      hours: portugal.hours,
    }))
  it('is by the company’s country where they have none', () =>
    expect(at({}, { country: 'Portugal' })).toEqual({ zone: 'Europe/Lisbon', hours: portugal.hours }))
  it('is by their own country before that of the company', () =>
    expect(at({ country: 'Canada' }, { country: 'Portugal' })).toEqual({ zone: 'UTC', hours: USUAL_MESSAGING.hours }))
  it.each([[{}], [{ country: 'Atlantis' }], [{ zone: 'Atlantis' }]])('is as usual for %j', (contact) =>
    expect(at(contact)).toEqual({ zone: 'UTC', hours: USUAL_MESSAGING.hours }),
  )
})

describe('when somebody works', () => {
  it('is by the hours of their team, else by those of the firm', () => {
    expect(hoursOf(firm, 'rosa')).toEqual(hire)
    for (const nobody of ['jude', 'gone', null, 7]) expect(hoursOf(firm, nobody)).toBe(firm.workspace)
    expect(hoursOf(catalogue, 'rosa')).toBe(catalogue.workspace)
  })
  it('is on the days of those hours', () => {
    expect(workdaysOf(firm, 'rosa').workdays).toEqual(hire.workdays)
    expect(workdaysOf(firm, 'jude')).toBe(calendarOf(firm))
    expect(calendarOf(firm).workdays).toEqual(FACTS.workdays)
    expect([...calendarOf(firm).holidays]).toEqual(FACTS.holidays.map(({ date }) => date))
  })
})
