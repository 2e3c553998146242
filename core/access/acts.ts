import type { Role } from '../fields/field'

/** What a request wants to do. Nothing is allowed that does not stand in these two tables. */
export type ActName = 'enter' | 'self' | 'read' | 'work' | 'readRules' | 'build'

/** What each role may. `enter` needs nobody signed in, `self` is about one's own account. */
export const ACTS: { readonly [R in Role]: readonly ActName[] } = {
  /** Builds rules, brings data in, works, and sees everything. */
  specialist: ['enter', 'self', 'read', 'work', 'readRules', 'build'],
  /** Works on everybody’s records and tasks, and sees what rules do, but builds none. */
  lead: ['enter', 'self', 'read', 'work', 'readRules'],
  /** Changes records and works off tasks, one's own and the team's. */
  owner: ['enter', 'self', 'read', 'work'],
  /** Sees everything and changes nothing. */
  viewer: ['enter', 'self', 'read', 'readRules'],
}

export const ACT_WORDS: { readonly [A in ActName]: string } = {
  enter: 'sign in',
  self: 'change this account',
  read: 'see this',
  work: 'edit records and tasks',
  readRules: 'see rules',
  build: 'build rules and import data',
}
