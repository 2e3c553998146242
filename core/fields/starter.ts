import { APPOINTMENT_FIELDS, defineFields, KEPT, type FieldDefinition } from './define'

/** What a new workspace begins with: enough to bring records in and write the first rule. */
export const STARTER_FIELDS: readonly FieldDefinition[] = [
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
    closeDate: { label: 'Expected close', type: 'date', indexed: true },
    quoteSentOn: { label: 'Quote sent on', type: 'date' },
    lostReason: { label: 'Lost reason', type: 'choice', choices: ['Price', 'Timing', 'No answer', 'Not needed'] },
    currency: { label: 'Currency', type: 'choice', choices: ['EUR', 'GBP', 'USD', 'CAD', 'NZD', 'PLN', 'CHF'] },
    reference: { label: 'Reference', type: 'text', indexed: true, description: 'Reference number on documents' },
    labels: {
      label: 'Labels',
      type: 'choices',
      choices: ['Urgent'],
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
    birthday: { label: 'Birthday', type: 'date' },
    optedOut: { label: 'Opted out', type: 'yesNo', description: 'Does not want messages' },
    labels: {
      label: 'Labels',
      type: 'choices',
      choices: ['Urgent'],
      description: 'Free tags; rules can add and remove them',
    },
    notes: { label: 'Notes', type: 'longText' },
    createdAt: KEPT.createdAt,
  }),
  ...APPOINTMENT_FIELDS,
  ...defineFields('company', {
    name: KEPT.name,
    domain: { label: 'Domain', type: 'text', indexed: true },
    owner: KEPT.owner,
    country: { label: 'Country', type: 'text' },
    region: { label: 'Region', type: 'text' },
    labels: {
      label: 'Labels',
      type: 'choices',
      choices: ['Urgent'],
      description: 'Free tags; rules can add and remove them',
    },
    notes: { label: 'Notes', type: 'longText' },
    createdAt: KEPT.createdAt,
  }),
]

export const STARTER_PIPELINE = {
  id: 'sales',
  name: 'Sales',
  stages: [
    { id: 'sales-new', name: 'New', outcome: 'open' },
    { id: 'sales-talking', name: 'Talking', outcome: 'open' },
    { id: 'sales-quoted', name: 'Quoted', outcome: 'open' },
    { id: 'sales-won', name: 'Won', outcome: 'won' },
    { id: 'sales-lost', name: 'Lost', outcome: 'lost' },
  ],
} as const
