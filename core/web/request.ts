import type { RecordRef } from '../records/kinds'

/** Requests to services outside, and what they answer. */

export const METHODS = ['POST', 'PUT', 'PATCH', 'GET', 'DELETE'] as const
export type Method = (typeof METHODS)[number]

/** A service that rules may ask. Its secrets are no part of it: they are kept sealed, and nobody sees them again. */
export interface Connection {
  readonly id: number
  readonly name: string
  /** Address without a slash at its end; empty for the simulated receiver. */
  readonly address: string
  /** The names of headers that go with each request. */
  readonly headers: readonly string[]
  readonly archived: boolean
}

/** A request as a step wants it. */
export interface WebRequest {
  readonly connection: number
  readonly method: Method
  /** Behind the address of the connection. */
  readonly path: string
  /** JSON; `null` for none. */
  readonly body: string | null
  /** Whether its answer comes later, at an address that goes with it, and not at once. */
  readonly later?: boolean
}

/** What wants it. */
export interface RequestOf {
  readonly ref: RecordRef
  readonly ruleId: number
  readonly runId: number
  readonly stepId: string
}

/** How it ended. Permanent: rules choose paths by them. */
export const REQUEST_OUTCOMES = [
  { id: 'taken', label: 'Accepted' },
  { id: 'refused', label: 'Refused or not reached' },
] as const
export type RequestOutcome = (typeof REQUEST_OUTCOMES)[number]['id']

/** What a service answered; so much of it at most is kept. */
export const ANSWER_MOST = 64_000
