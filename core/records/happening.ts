/** What can happen around a record. */
export const HAPPENING_KINDS = ['visit', 'message', 'call', 'appointment', 'form', 'request'] as const
export type HappeningKind = (typeof HAPPENING_KINDS)[number]

/** Three forms: what happened in a timeline, what a sentence asks for, and what is counted; and what its words are. */
export const HAPPENING_WORDS: {
  readonly [K in HappeningKind]: {
    readonly did: string
    readonly does: string
    readonly many: string
    readonly about: string
  }
} = {
  visit: { did: 'visited a page', does: 'visits a page', many: 'page visits', about: 'address' },
  message: { did: 'answered a message', does: 'answers a message', many: 'message answers', about: 'subject' },
  call: { did: 'had a call', does: 'has a call', many: 'calls', about: 'outcome' },
  appointment: {
    did: 'booked an appointment',
    does: 'books an appointment',
    many: 'appointments booked',
    about: 'subject',
  },
  form: { did: 'sent a form', does: 'sends a form', many: 'forms sent', about: 'name' },
  request: { did: 'sent a web request', does: 'sends a web request', many: 'web requests', about: 'subject' },
}

/** One thing that happened around a record. */
export interface Happening {
  readonly id: number
  readonly kind: HappeningKind
  /** The page, the form, the subject; may be empty. */
  readonly about: string
  readonly atMs: number
}
