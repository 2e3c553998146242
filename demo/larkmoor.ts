import { APPOINTMENT_FIELDS, defineFields, KEPT, type FieldDefinition } from '../core/fields/define'
import type { Person, WorkspaceFacts } from '../core/fields/field'
import { addDays, addMonths } from '../core/time/dates'
import { isWorkday, workCalendar } from '../core/time/calendar'

/** Larkmoor Cold Rooms: an invented firm that hires out and sells walk-in cold rooms, freezer trailers and fridges. */

export const FIELDS: readonly FieldDefinition[] = [
  ...defineFields('deal', {
    name: KEPT.name,
    stage: KEPT.stage,
    amount: {
      label: 'Amount',
      type: 'currency',
      indexed: true,
      currencyKey: 'currency',
      description: 'What the customer pays, excluding tax',
    },
    owner: KEPT.owner,
    kind: { label: 'Kind', type: 'choice', choices: ['Hire', 'Purchase', 'Service'] },
    customer: { label: 'Customer', type: 'choice', choices: ['New', 'Returning'] },
    closeDate: { label: 'Expected close', type: 'date', indexed: true },
    quoteSentOn: { label: 'Quote sent on', type: 'date' },
    siteVisit: { label: 'Site-visit date', type: 'date' },
    units: { label: 'Units', type: 'number', description: 'Rooms, trailers or fridges' },
    margin: { label: 'Margin', type: 'currency', currencyKey: 'currency' },
    lostReason: {
      label: 'Lost reason',
      type: 'choice',
      choices: ['Price', 'Timing', 'Went elsewhere', 'No answer', 'Not needed'],
    },
    currency: { label: 'Currency', type: 'choice', choices: ['EUR', 'CAD', 'NZD'] },
    reference: { label: 'Reference', type: 'text', indexed: true, description: 'Reference number on documents' },
    labels: {
      label: 'Labels',
      type: 'choices',
      choices: ['Urgent', 'Press', 'Reference customer', 'Large', 'Handover'],
      description: 'Free tags; rules can add and remove them',
    },
    notes: { label: 'Notes', type: 'longText' },
    pipeline: KEPT.pipeline,
    stageSince: KEPT.stageSince,
    createdAt: KEPT.createdAt,
  }),
  ...defineFields('contact', {
    name: KEPT.name,
    email: { label: 'Email', type: 'email', indexed: true },
    phone: { label: 'Phone', type: 'phone' },
    owner: KEPT.owner,
    siteRole: {
      label: 'Role at site',
      type: 'choice',
      choices: ['Head baker', 'Chef', 'Pharmacist', 'Site manager', 'Owner', 'Brewer', 'Festival crew'],
    },
    buyingRole: { label: 'Buying role', type: 'choice', choices: ['Decides', 'Advises', 'Pays', 'Uses it'] },
    language: { label: 'Language', type: 'choice', choices: ['English', 'Portuguese', 'Polish', 'French'] },
    birthday: { label: 'Birthday', type: 'date', indexed: true },
    zone: { label: 'Time zone', type: 'text', description: 'IANA name, for example America/Halifax' },
    optedOut: { label: 'Opted out', type: 'yesNo' },
    createdAt: KEPT.createdAt,
  }),
  ...APPOINTMENT_FIELDS,
  ...defineFields('company', {
    name: KEPT.name,
    domain: { label: 'Domain', type: 'text', indexed: true },
    owner: KEPT.owner,
    sector: {
      label: 'Sector',
      type: 'choice',
      choices: ['Bakery', 'Catering', 'Florist', 'Brewery', 'Clinic', 'Laboratory', 'Festival'],
    },
    fitTier: { label: 'Fit tier', type: 'choice', choices: ['A', 'B', 'C'] },
    country: { label: 'Country', type: 'text' },
    region: { label: 'Region', type: 'text' },
    coldVolume: { label: 'Cold volume', type: 'number', description: 'Cubic metres' },
    lastInspection: { label: 'Last inspection', type: 'date' },
    hygieneUntil: { label: 'Hygiene certificate valid until', type: 'date', indexed: true },
    contractEnd: { label: 'Contract end', type: 'date', indexed: true },
    createdAt: KEPT.createdAt,
  }),
]

export const PIPELINES = [
  {
    id: 'enq',
    name: 'Enquiries',
    stages: [
      ['enq-fresh', 'Fresh', 'open'],
      ['enq-talking', 'Talking', 'open'],
      ['enq-quiet', 'Gone quiet', 'lost'],
    ],
  },
  {
    id: 'hp',
    name: 'Hire & purchase',
    stages: [
      ['hp-visit', 'Site visit', 'open'],
      ['hp-sized', 'Sized', 'open'],
      ['hp-quoted', 'Quoted', 'open'],
      ['hp-terms', 'Terms', 'open'],
      ['hp-signed', 'Signed', 'won'],
      ['hp-lost', 'Lost', 'lost'],
    ],
  },
  {
    id: 'ren',
    name: 'Renewals',
    stages: [
      ['ren-due', 'Due', 'open'],
      ['ren-offered', 'Offered', 'open'],
      ['ren-renewed', 'Renewed', 'won'],
      ['ren-ended', 'Ended', 'lost'],
    ],
  },
] as const

/** Somebody who works here no more. */
export const LEFT = 'sorley'

/** The people; the one who is away is so from three days before `today` for two weeks. */
export function peopleAt(today: string): readonly Person[] {
  const person = (id: string, name: string, team: string, title: string, more: Partial<Person> = {}): Person => ({
    id,
    name,
    email: `${id}@larkmoor.example`,
    role: 'owner',
    team,
    title,
    awayFrom: null,
    awayTo: null,
    deputyId: null,
    active: true,
    zone: null,
    ...more,
  })
  return [
    person('ines', 'Ines Calloway', 'Operations', 'Sales operations specialist', { role: 'specialist' }),
    person('maren', 'Maren Holt', 'Operations', 'Sales lead', { role: 'lead' }),
    person('rosa', 'Rosa Amara', 'Hire', 'Hire, bakeries and cafés'),
    person('tomasz', 'Tomasz Wójcik', 'Hire', 'Hire, Poland'),
    person('brisa', 'Brisa Teixeira', 'Hire', 'Hire, festivals'),
    person('jude', 'Jude Okell', 'Purchase', 'Purchase, breweries'),
    person('anouk', 'Anouk Delacourt', 'Purchase', 'Purchase, clinics and laboratories'),
    person('callum', 'Callum Reyne', 'Purchase', 'Purchase, overseas'),
    person('piet', 'Piet Vandermeer', 'Hire', 'Hire, florists', {
      awayFrom: addDays(today, -3),
      awayTo: addDays(today, 11),
      deputyId: 'rosa',
    }),
    person(LEFT, 'Sorley Maguire', 'Hire', 'Hire, florists', { active: false }),
    person('edda', 'Edda Lindqvist', 'Operations', 'Finance', { role: 'viewer' }),
  ]
}

/** The firm, with two public holidays ahead of `today`. */
export function factsAt(today: string): WorkspaceFacts {
  const week = workCalendar({ workdays: [1, 2, 3, 4, 5], holidays: [] })
  const workdayFrom = (date: string): string => (isWorkday(date, week) ? date : workdayFrom(addDays(date, 1)))
  return {
    name: 'Larkmoor Cold Rooms',
    zone: 'Europe/Lisbon',
    locale: 'en-GB',
    currency: 'EUR',
    demo: true,
    workdays: [1, 2, 3, 4, 5],
    opensAt: 540,
    closesAt: 1080,
    holidays: [
      { date: workdayFrom(addDays(today, 9)), name: 'Founders’ day' },
      { date: workdayFrom(addMonths(today, 1)), name: 'Midwinter holiday' },
    ],
  }
}
