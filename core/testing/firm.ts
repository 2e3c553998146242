import '../formulas/formula'
import '../time/recurrence-days'
import { all } from './rules'
import { APPOINTMENT_FIELDS, defineFields, KEPT, type FieldDefinition } from '../fields/define'
import type { Person, WorkspaceFacts } from '../fields/field'
import type { Territory } from '../territories/territory'

/**
 * The firm that tests of the core stand on. It is the demo's of one day and stays as it is here, so that the demo can
 * change without them.
 */

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
      choices: ['Urgent', 'Press', 'Reference customer'],
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

const person = (id: string, name: string, team: string, more: Partial<Person> = {}): Person => ({
  id,
  name,
  email: `${id}@larkmoor.example`,
  role: 'owner',
  team,
  title: '',
  awayFrom: null,
  awayTo: null,
  deputyId: null,
  active: true,
  zone: null,
  ...more,
})

/** One specialist, one viewer, two teams of owners; Piet is away on the day that tests stand on. */
export const PEOPLE: readonly Person[] = [
  person('ines', 'Ines Calloway', 'Operations', { role: 'specialist' }),
  person('maren', 'Maren Holt', 'Operations', { role: 'viewer' }),
  person('rosa', 'Rosa Amara', 'Hire'),
  person('tomasz', 'Tomasz Wójcik', 'Hire'),
  person('brisa', 'Brisa Teixeira', 'Hire'),
  person('jude', 'Jude Okell', 'Purchase'),
  person('anouk', 'Anouk Delacourt', 'Purchase'),
  person('callum', 'Callum Reyne', 'Purchase'),
  person('piet', 'Piet Vandermeer', 'Hire', { awayFrom: '2026-11-21', awayTo: '2026-12-05', deputyId: 'rosa' }),
]

export const FACTS: WorkspaceFacts = {
  name: 'Larkmoor Cold Rooms',
  zone: 'Europe/Lisbon',
  locale: 'en-GB',
  currency: 'EUR',
  demo: true,
  workdays: [1, 2, 3, 4, 5],
  opensAt: 540,
  closesAt: 1080,
  holidays: [
    { date: '2026-12-03', name: 'Founders’ day' },
    { date: '2026-12-24', name: 'Midwinter holiday' },
  ],
}

const about = (field: string, op: 'is' | 'isAnyOf', params: object) =>
  all({ kind: 'condition', id: 'c1', field, op, not: false, params })

export const TERRITORIES: readonly Territory[] = [
  { id: 1, name: 'Poland', personId: 'tomasz', filter: about('country', 'is', { value: 'Poland' }) },
  {
    id: 2,
    name: 'Overseas',
    personId: 'callum',
    filter: about('country', 'isAnyOf', { values: ['Canada', 'New Zealand'] }),
  },
  {
    id: 3,
    name: 'Clinics and laboratories',
    personId: 'anouk',
    filter: about('sector', 'isAnyOf', { values: ['clinic', 'laboratory'] }),
  },
  { id: 4, name: 'Everywhere else', personId: 'rosa', filter: all() },
]
