/** What can happen around a record. */
export const HAPPENING_KINDS = ['visit', 'message', 'call', 'appointment', 'form', 'request'] as const
export type HappeningKind = (typeof HAPPENING_KINDS)[number]

export const HAPPENING_WORDS: {
  readonly [K in HappeningKind]: { readonly did: string; readonly many: string; readonly about: string }
} = {
  visit: { did: 'visited a page', many: 'visits of a page', about: 'its address' },
  message: { did: 'answered a message', many: 'answers to a message', about: 'its subject' },
  call: { did: 'had a call', many: 'calls', about: 'its outcome' },
  appointment: { did: 'booked an appointment', many: 'appointments booked', about: 'what it is' },
  form: { did: 'sent a form', many: 'forms sent', about: 'its name' },
  request: { did: 'sent a web request', many: 'web requests', about: 'what it asks' },
}

/** One thing that happened around a record. */
export interface Happening {
  readonly id: number
  readonly kind: HappeningKind
  /** The page, the form, the subject; may be empty. */
  readonly about: string
  readonly atMs: number
}
