import type { Role } from '../../core/fields/field'

/** What a request wants to do. Every route names one; nothing is allowed that does not stand in this table. */
export type ActName = 'read' | 'work' | 'build'

export const ACTS: { readonly [R in Role]: readonly ActName[] } = {
  /** Builds rules, brings data in, and works. */
  specialist: ['read', 'work', 'build'],
  /** Changes records and works off tasks. */
  owner: ['read', 'work'],
  viewer: ['read'],
}

export const ACT_WORDS: { readonly [A in ActName]: string } = {
  read: 'look at this', work: 'change records and tasks', build: 'build rules and bring data in',
}
