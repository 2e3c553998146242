import { addDays, instantOf } from '../core/time/dates'
import { addWorkdays, isWorkday, type WorkCalendar } from '../core/time/calendar'
import type { Value } from '../core/language/value'
import type { ActivityName } from '../core/activities'
import { Random } from './random'

/**
 * What happened at Larkmoor in the last 90 days, as a list of things people did, oldest first. It is played through
 * the engine, so that the history in the demo is one that rules and people really made.
 */
export type Act = { readonly atMs: number } & (
  | { readonly act: 'company'; readonly index: number; readonly values: Readonly<Record<string, Value>> }
  | {
      readonly act: 'contact'
      readonly index: number
      /** Some came from a fair, and nobody has linked them yet. */ readonly company: number | null
      readonly values: Readonly<Record<string, Value>>
    }
  | {
      readonly act: 'deal'
      readonly index: number
      readonly company: number
      readonly contact: number
      readonly by: string
      readonly values: Readonly<Record<string, Value>>
    }
  | {
      readonly act: 'change'
      readonly index: number
      readonly by: string
      readonly values: Readonly<Record<string, Value>>
    }
  | { readonly act: 'workOff'; readonly by: string; readonly day: string }
  | { readonly act: 'activity'; readonly contact: number; readonly kind: ActivityName; readonly about: string }
)

export interface Size {
  readonly companies: number
  readonly contacts: number
  readonly deals: number
}

export const DEMO_SIZE: Size = { companies: 60, contacts: 150, deals: 110 }

const FIRST = [
  'Ada',
  'Bruno',
  'Carys',
  'Dário',
  'Elif',
  'Fergus',
  'Greta',
  'Hugo',
  'Isla',
  'Joana',
  'Kasia',
  'Liam',
  'Mirela',
  'Nuno',
  'Orla',
  'Paweł',
  'Quentin',
  'Ruth',
  'Sinead',
  'Tiago',
  'Una',
  'Vera',
  'Wanda',
  'Yann',
  'Zofia',
]
const LAST = [
  'Almeida',
  'Brennan',
  'Cardoso',
  'Dufour',
  'Eriksen',
  'Finch',
  'Gorski',
  'Hanlon',
  'Iverson',
  'Jardim',
  'Kowal',
  'Lisboa',
  'MacBride',
  'Nowak',
  'Orr',
  'Pereira',
  'Quill',
  'Rocha',
  'Sampson',
  'Tierney',
  'Urban',
  'Vale',
  'Whelan',
  'Zieliński',
]
const PLACES = [
  'Brackwater',
  'Fennimore',
  'Hollin',
  'Kestrel',
  'Tide',
  'St Odile',
  'Marlow Quay',
  'Alder Row',
  'Corvo',
  'Penhallow',
  'Sableford',
  'Ribeira',
  'Wolska',
  'Dartry',
  'Moss Lane',
  'Old Ferry',
  'Larch Hill',
  'Serra',
  'Kilbrack',
  'Northmere',
  'Vila Clara',
  'Thornby',
  'Saltmarsh',
  'Juniper',
  'Harrow End',
  'Oakmere',
  'Blue Heron',
  'Pell & Daughter',
  'Redcastle',
  'Winterbourne',
]
const SECTORS = [
  { id: 'bakery', word: 'Bakery', what: ['cold room', 'proving room', '2 rooms'], low: 6, high: 60 },
  { id: 'catering', word: 'Catering', what: ['walk-in room', 'freezer trailer', 'event trailers'], low: 5, high: 45 },
  { id: 'florist', word: 'Flowers', what: ['flower room', 'trailer for weddings'], low: 4, high: 20 },
  { id: 'brewery', word: 'Brewery', what: ['cold store', 'keg room', 'tap cooling'], low: 15, high: 90 },
  { id: 'clinic', word: 'Clinic', what: ['vaccine fridges', 'fridges with monitoring'], low: 8, high: 40 },
  { id: 'laboratory', word: 'Labs', what: ['−80 room', 'sample store', 'monitored fridges'], low: 30, high: 120 },
  { id: 'festival', word: 'Festival', what: ['6 trailers', '3 trailers', 'cold bar'], low: 10, high: 70 },
] as const
const COUNTRIES = [
  { spelled: ['Portugal'], region: ['Lisbon', 'Porto', 'Alentejo'], currency: 'eur' },
  { spelled: ['Ireland', 'Ireland', 'Éire', 'IE'], region: ['Leinster', 'Munster'], currency: 'eur' },
  { spelled: ['Poland', 'Polska', 'Poland'], region: ['Mazovia', 'Silesia'], currency: 'eur' },
  { spelled: ['Canada', 'CA', 'Canada'], region: ['Nova Scotia', 'British Columbia'], currency: 'cad' },
  { spelled: ['New Zealand', 'NZ'], region: ['Otago', 'Auckland'], currency: 'nzd' },
] as const
/** By region; elsewhere people live by the firm's clock. */
const ZONES: Readonly<Record<string, string>> = {
  Leinster: 'Europe/Dublin',
  Munster: 'Europe/Dublin',
  Mazovia: 'Europe/Warsaw',
  Silesia: 'Europe/Warsaw',
  'Nova Scotia': 'America/Halifax',
  'British Columbia': 'America/Vancouver',
  Otago: 'Pacific/Auckland',
  Auckland: 'Pacific/Auckland',
  Kent: 'Europe/London',
  Cumbria: 'Europe/London',
}
const BRITAIN = {
  spelled: ['UK', 'United Kingdom', 'Great Britain', 'GB'],
  region: ['Kent', 'Cumbria'],
  currency: 'eur',
} as const
const OWNERS_OF: { readonly [kind: string]: readonly string[] } = {
  hire: ['rosa', 'tomasz', 'brisa', 'piet'],
  purchase: ['jude', 'anouk', 'callum'],
  service: ['rosa', 'anouk'],
}
const OWNERS = ['rosa', 'tomasz', 'brisa', 'jude', 'anouk', 'callum', 'piet']

const DOINGS: readonly (readonly [ActivityName, string])[] = [
  ['visit', '/prices/walk-in-rooms'],
  ['visit', '/prices/freezer-trailers'],
  ['visit', '/prices/vaccine-fridges'],
  ['visit', '/rooms'],
  ['visit', '/about'],
  ['visit', '/jobs'],
  ['visit', '/prices/hire'],
  ['form', 'Ask for a quote'],
  ['form', 'Call me back'],
  ['message', 'Your quote from Larkmoor'],
  ['message', 'The season ahead'],
  ['appointment', 'Site visit'],
  ['call', 'reached'],
]

interface When {
  readonly today: string
  readonly zone: string
  readonly nowMs: number
  readonly calendar: WorkCalendar
}

/** Two of three have a mobile number, the others a landline. */
const phoneOf = (number: number): string => `+351${number % 3 === 0 ? '21' : '91'}${number}`

/** The same `seed` and `size` give the same acts, relative to `today`. Nothing happens after `nowMs`. */
export function generate(seed: number, size: Size, when: When): readonly Act[] {
  const random = new Random(seed)
  const acts: Act[] = []
  const at = (day: string, hour = random.int(9, 16)): number => instantOf(day, hour, random.int(0, 59), when.zone)
  const start = addDays(when.today, -90)

  const companies = Array.from({ length: size.companies }, (_, index) => {
    const sector = random.pick(SECTORS)
    const picked = random.pick(COUNTRIES)
    // A few are in Britain, and nobody spells their country the same way.
    const country = index % 9 === 4 ? BRITAIN : picked
    const place = index < PLACES.length ? PLACES[index] : `${random.pick(PLACES)} ${random.pick(LAST)}`
    const name = `${place} ${sector.word}${index >= 900 ? ` ${index}` : ''}`
    // Two houses of one firm share a domain.
    const domain =
      index === 21
        ? (acts.flatMap((act) => (act.act === 'company' && act.index === 20 ? [String(act.values.domain)] : []))[0] ??
          '')
        : `${name
            .normalize('NFKD')
            .toLowerCase()
            .replace(/[^a-z\d]+/g, '')}.example`
    const region = random.pick(country.region)
    acts.push({
      act: 'company',
      index,
      atMs: instantOf(start, 8, index % 60, when.zone),
      values: {
        name,
        domain,
        sector: sector.id,
        country: country.spelled[index % country.spelled.length] ?? '',
        region,
        coldVolume: random.int(4, 400),
        fitTier: random.pick(['a', 'b', 'b', 'c', null]),
        owner: random.pick(OWNERS),
        lastInspection: addDays(when.today, -random.int(10, 400)),
        hygieneUntil: addDays(when.today, random.int(-20, 420)),
        // Every third is a customer with a contract; some of them are about as far from its end as the reviews are
        // planned.
        contractEnd: index % 3 === 0 ? addDays(when.today, (index * 37) % 520) : null,
      },
    })
    return { name, domain, sector, country, zone: ZONES[region] ?? null }
  })

  const contactsOf = new Map<number, number[]>()
  for (let index = 0; index < size.contacts; index++) {
    const company = index < size.companies ? index : random.int(0, size.companies - 1)
    const [first, last] = [random.pick(FIRST), random.pick(LAST)]
    contactsOf.set(company, [...(contactsOf.get(company) ?? []), index])
    const plain = (text: string) =>
      text
        .normalize('NFKD')
        .replace(/ł/g, 'l')
        .toLowerCase()
        .replace(/[^a-z]/g, '')
    acts.push({
      act: 'contact',
      index,
      company: index % 11 === 10 ? null : company,
      atMs: instantOf(start, 9, index % 60, when.zone),
      values: {
        name: `${first} ${last}`,
        email: `${plain(first)}.${plain(last)}@${index % 44 === 32 ? 'openpost.example' : (companies[company]?.domain ?? 'larkmoor.example')}`,
        phone: phoneOf(random.int(1_000_000, 9_999_999)),
        buyingRole: random.pick(['decides', 'advises', 'pays', 'uses-it']),
        siteRole: random.pick(['head-baker', 'chef', 'pharmacist', 'site-manager', 'owner', 'brewer', 'festival-crew']),
        language: random.pick(['english', 'portuguese', 'polish', 'french']),
        optedOut: random.chance(0.08),
        birthday: random.chance(0.5) ? addDays('1975-01-01', random.int(0, 9000)) : null,
        owner: random.pick(OWNERS),
        zone: companies[company]?.zone ?? null,
      },
    })
  }

  // What people do by hand beside that, on a chance of its own, so that the deals stay the same.
  const habits = new Random(seed + 11)
  for (let index = 0; index < size.deals; index++) dealLife(index)

  function dealLife(index: number): void {
    const companyIndex = random.int(0, size.companies - 1)
    const company = companies[companyIndex]
    const contacts = contactsOf.get(companyIndex) ?? []
    if (!company) return
    const kind = random.pick(['hire', 'hire', 'purchase', 'purchase', 'service'])
    const owner = random.pick(OWNERS_OF[kind] ?? OWNERS)
    const amount = random.int(company.sector.low, company.sector.high) * 1000 + random.pick([0, 0, 200, 450, 500, 900])
    const path = random.next()
    const way =
      path < 0.17
        ? ['enq-fresh', 'enq-talking', 'enq-quiet']
        : path < 0.85
          ? ['hp-visit', 'hp-sized', 'hp-quoted', 'hp-terms', random.chance(0.6) ? 'hp-signed' : 'hp-lost']
          : ['ren-due', 'ren-offered', random.chance(0.7) ? 'ren-renewed' : 'ren-ended']
    let day = addWorkdays(addDays(start, random.int(1, 86)), 0, when.calendar)
    const reference = `LM-${4000 + index}`
    const change = (values: Readonly<Record<string, Value>>): void => {
      const atMs = at(day)
      if (atMs < when.nowMs) acts.push({ act: 'change', index, by: owner, atMs, values })
    }
    const born = at(day)
    if (born >= when.nowMs) return
    acts.push({
      act: 'deal',
      index,
      company: companyIndex,
      contact: contacts.length ? random.pick(contacts) : -1,
      by: owner,
      atMs: born,
      values: {
        name: `${company.name}, ${random.pick(company.sector.what)}`,
        stage: way[0] ?? 'hp-visit',
        amount,
        owner: random.chance(0.03) ? null : owner,
        kind,
        customer: random.pick(['new', 'new', 'returning']),
        currency: company.country.currency,
        units: random.int(1, 6),
        margin: Math.round(amount * random.int(12, 34)) / 100,
        closeDate: addDays(day, random.int(20, 75)),
        reference,
      },
    })
    const labels: string[] = []
    const label = (one: string, on: string): void => {
      labels.push(one)
      const atMs = instantOf(addWorkdays(on, 1, when.calendar), 16, habits.int(0, 59), when.zone)
      if (atMs < when.nowMs) acts.push({ act: 'change', index, by: owner, atMs, values: { labels: [...labels] } })
    }
    if (amount > 40_000 && habits.chance(0.95)) label('large', day)
    for (const stage of way.slice(1)) {
      day = addWorkdays(day, random.int(2, 16), when.calendar)
      if (day >= when.today) return
      if (stage === 'hp-signed' && habits.chance(0.94)) label('handover', day)
      if (stage === 'enq-talking' && random.chance(0.8)) {
        change({ siteVisit: addDays(day, random.int(3, 12)) })
        return
      }
      if (stage === 'hp-sized') change({ siteVisit: day })
      if (stage === 'hp-lost')
        change(
          random.chance(0.5)
            ? { stage, lostReason: random.pick(['price', 'timing', 'went-elsewhere', 'no-answer']) }
            : { stage },
        )
      else change({ stage })
      if (stage === 'hp-quoted' && random.chance(0.3)) {
        day = addWorkdays(day, 1, when.calendar)
        change({ amount: Math.round(amount * 0.9) })
      }
    }
  }

  // What customers do hangs on a chance of its own, so that the deals above stay the same.
  const doings = new Random(seed + 7)
  for (let contact = 0; contact < size.contacts; contact++) {
    const keen = doings.chance(0.22)
    const times = keen ? doings.int(5, 18) : doings.int(0, 4)
    for (let i = 0; i < times; i++) {
      const day = addDays(when.today, -(keen && doings.chance(0.7) ? doings.int(1, 30) : doings.int(1, 89)))
      const [kind, about] = doings.pick(DOINGS)
      acts.push({
        act: 'activity',
        contact,
        kind,
        about,
        atMs: instantOf(day, doings.int(7, 21), doings.int(0, 59), when.zone),
      })
    }
  }

  for (let day = addDays(start, 1); day < when.today; day = addDays(day, 1)) {
    if (!isWorkday(day, when.calendar)) continue
    for (const by of OWNERS)
      acts.push({ act: 'workOff', by, day, atMs: instantOf(day, 17, random.int(0, 30), when.zone) })
  }
  return acts.sort((a, b) => a.atMs - b.atMs)
}
