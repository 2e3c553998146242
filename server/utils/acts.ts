import type { Role } from '../../core/fields/field'

/** What a request wants to do. Nothing is allowed that does not stand in these two tables. */
export type ActName = 'enter' | 'self' | 'read' | 'work' | 'readRules' | 'build'

/** What each role may. `enter` needs nobody signed in, `self` is about one's own account. */
export const ACTS: { readonly [R in Role]: readonly ActName[] } = {
  /** Builds rules, brings data in, works, and sees everything. */
  specialist: ['enter', 'self', 'read', 'work', 'readRules', 'build'],
  /** Changes records and works off tasks, one's own and the team's. */
  owner: ['enter', 'self', 'read', 'work'],
  /** Sees everything and changes nothing. */
  viewer: ['enter', 'self', 'read', 'readRules'],
}

export const ACT_WORDS: { readonly [A in ActName]: string } = {
  enter: 'come in', self: 'change the account', read: 'look at this', work: 'change records and tasks', readRules: 'look at rules', build: 'build rules and bring data in',
}

/** Every route there is, under `/api/v1`, with what it takes to be let in. A file without its line here does not start. */
export const ROUTES = {
  'GET /session': 'enter',
  'POST /session': 'enter',
  'DELETE /session': 'enter',
  'DELETE /session/all': 'self',
  'POST /session/demo': 'enter',
  'POST /workspace': 'enter',
  'PUT /account/password': 'self',
  'GET /account/tokens': 'self',
  'POST /account/tokens': 'self',
  'DELETE /account/tokens/:id': 'self',
  'GET /openapi.json': 'read',
  'GET /metrics': 'readRules',
  'GET /people': 'read',
  'POST /people': 'build',
  'PATCH /people/:id': 'build',
  'GET /catalogue': 'read',
  'GET /live': 'read',
  'GET /find': 'read',
  'GET /boards/:pipeline': 'read',
  'GET /ledgers/:object': 'read',
  'GET /fields': 'read',
  'POST /fields': 'build',
  'PATCH /fields/:id': 'build',
  'PUT /fields/order': 'build',
  'POST /fields/:id/choices': 'build',
  'PATCH /fields/:id/choices/:choice': 'build',
  'GET /synonyms': 'readRules',
  'GET /synonyms/:id': 'readRules',
  'POST /synonyms': 'build',
  'PATCH /synonyms/:id': 'build',
  'DELETE /synonyms/:id': 'build',
  'DELETE /fields/:id/choices/:choice': 'build',
  'GET /pipeline-sheets': 'readRules',
  'POST /pipelines': 'build',
  'PATCH /pipelines/:pipeline': 'build',
  'POST /pipelines/:pipeline/stages': 'build',
  'PATCH /stages/:stage': 'build',
  'DELETE /stages/:stage': 'build',
  'GET /field-sheets/:object': 'readRules',
  'GET /records/:object': 'read',
  'POST /records/:object': 'work',
  'GET /records/:object/:id': 'read',
  'PATCH /records/:object/:id': 'work',
  'GET /records/:object/:id/rules': 'readRules',
  'GET /records/:object/:id/rules/:rule': 'readRules',
  'GET /records/:object/:id/fields/:key': 'read',
  'GET /records/:object/:id/links': 'read',
  'POST /records/:object/:id/links': 'work',
  'DELETE /records/:object/:id/links/:other/:otherId': 'work',
  'POST /link-plans': 'build',
  'POST /link-plans/make': 'build',
  'GET /segments': 'read',
  'POST /segments': 'build',
  'PATCH /segments/:id': 'build',
  'DELETE /segments/:id': 'build',
  'POST /bulk-edits/preview': 'work',
  'POST /bulk-edits': 'work',
  'GET /seen/:object': 'read',
  'GET /tasks': 'read',
  'POST /tasks/:id': 'work',
  'GET /day-sheet': 'read',
  'GET /runs': 'readRules',
  'GET /runs/:id': 'read',
  'GET /rules': 'readRules',
  'POST /rules': 'build',
  'GET /rules/:id': 'readRules',
  'PUT /rules/:id/draft': 'build',
  'POST /rules/:id/state': 'build',
  'POST /evidence': 'readRules',
  'POST /evidence/record': 'readRules',
  'GET /imports': 'readRules',
  'POST /imports': 'build',
  'GET /imports/:id': 'build',
  'PUT /imports/:id/mapping': 'build',
  'POST /imports/:id/run': 'build',
  'POST /imports/:id/stop': 'build',
  'GET /imports/:id/refused': 'build',
  'GET /exports/:object': 'build',
  'GET /backups': 'build',
  'POST /backups': 'build',
} as const satisfies Readonly<Record<string, ActName>>

export type RouteName = keyof typeof ROUTES
