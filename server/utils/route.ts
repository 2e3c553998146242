import type { H3Event } from 'h3'
import { z } from 'zod'
import type { Person } from '../../core/fields/field'
import type { RecordRef } from '../../core/records/kinds'
import type { RecordSnapshot } from '../../core/records/record'
import { scopeOf, seesRecord, type Scope } from '../auth/scope'
import { refuseForeign, signedIn } from '../auth/session'
import { EmptyWorkspaceError, RefusedError, type Workspace } from '../engine/workspace'
import { ACTS, ACT_WORDS, ROUTES, type RouteName } from './acts'
import { notFound, placesOf, ProblemError } from './problem'
import { useWorkspace } from './workspace'

export interface RouteContext<P, Q, B> {
  readonly event: H3Event
  readonly workspace: Workspace
  /** Who acts. */
  readonly person: Person
  /** Whose records and tasks they see. */
  readonly scope: Scope
  readonly params: P
  readonly query: Q
  readonly body: B
}

export interface RouteSpec<P, Q, B> {
  /** Its line in the table of routes, which says what it takes to be let in. */
  readonly route: RouteName
  readonly params?: z.ZodType<P>
  readonly query?: z.ZodType<Q>
  readonly body?: z.ZodType<B>
}

/** Who acts; refuses nobody, and somebody whose role does not allow it. */
export async function admit(event: H3Event, route: RouteName, workspace: Workspace): Promise<{ readonly person: Person; readonly epoch: number | null }> {
  const catalogue = workspace.catalogue()
  const found = await signedIn(event, workspace)
  const person = found && catalogue.person(found.personId)
  if (!found || !person) throw new ProblemError(401, 'Not signed in', 'Sign in to go on.')
  const act = ROUTES[route]
  if (!ACTS[person.role].includes(act)) throw new ProblemError(403, 'Not allowed', `${person.name} may not ${ACT_WORDS[act]}.`)
  return { person, epoch: found.epoch }
}

/** The record, if it is there and within the scope; what may not be seen is answered as if it were not there. */
export function visibleRecord({ workspace, scope }: { readonly workspace: Workspace; readonly scope: Scope }, ref: RecordRef): RecordSnapshot {
  const record = workspace.store.records.read(ref)
  if (!record || !seesRecord(scope, record.values)) throw notFound(`${ref.object} ${ref.id}`)
  return record
}

function check<T>(schema: z.ZodType<T> | undefined, given: unknown, where: string): T {
  const read = (schema ?? z.unknown()).safeParse(given)
  if (read.success) return read.data as T
  throw new ProblemError(400, 'The request does not fit', `The ${where} of the request cannot be read.`,
    read.error.issues.slice(0, 20).map((issue) => ({ path: issue.path.join('.') || where, text: issue.message })))
}

export function answerProblem(event: H3Event, error: unknown): unknown {
  const problem = error instanceof ProblemError ? error
    : error instanceof RefusedError ? new ProblemError(422, 'Refused', 'Nothing was written.', placesOf(error.problems))
      : error instanceof EmptyWorkspaceError ? new ProblemError(503, 'The workspace is empty', error.message)
        : null
  if (!problem) throw error
  setResponseStatus(event, problem.status)
  setResponseHeader(event, 'content-type', 'application/problem+json')
  return { type: 'about:blank', title: problem.title, status: problem.status, detail: problem.detail, places: problem.places }
}

async function answering<R>(event: H3Event, work: () => Promise<R>): Promise<R> {
  try {
    return await work()
  } catch (error) {
    // The type of a route is that of its answer; a problem is told apart by its status, as everywhere in HTTP.
    return answerProblem(event, error) as R
  }
}

async function bodyOf<B>(event: H3Event, schema: z.ZodType<B> | undefined): Promise<B> {
  if (!schema) return undefined as B
  // Other kinds of bodies can be sent from a foreign page without asking; JSON cannot.
  const kind = getHeader(event, 'content-type') ?? ''
  if (!/^application\/(?:[\w.+-]+\+)?json\b/i.test(kind)) throw new ProblemError(415, 'The request does not fit', 'The body must be JSON (content-type: application/json).')
  const body = await readBody<unknown>(event).catch(() => {
    throw new ProblemError(400, 'The request does not fit', 'The body is not JSON.')
  })
  return check(schema, body, 'body')
}

/** The one way a route is made: it knows who acts, whether they may, and that what came fits before anything runs. */
export function defineRoute<P, Q, B, R>(spec: RouteSpec<P, Q, B>, handler: (context: RouteContext<P, Q, B>) => R | Promise<R>) {
  return defineEventHandler((event): Promise<Awaited<R>> => answering(event, async (): Promise<Awaited<R>> => {
    const workspace = useWorkspace()
    const { person } = await admit(event, spec.route, workspace)
    const body = await bodyOf(event, spec.body)
    const run = () => handler({
      event, workspace, person, scope: scopeOf(person, workspace.catalogue()),
      params: check(spec.params, getRouterParams(event, { decode: true }), 'path'), query: check(spec.query, getQuery(event), 'query'), body,
    })
    return await (event.method === 'GET' ? run() : workspace.db.inTurn(run))
  }))
}

/** A route that needs nobody signed in, nor a workspace that is set up. */
export function defineEntry<B, R>(spec: { readonly route: RouteName; readonly body?: z.ZodType<B> }, handler: (context: { readonly event: H3Event; readonly workspace: Workspace; readonly body: B }) => R | Promise<R>) {
  if (ROUTES[spec.route] !== 'enter') throw new Error(`${spec.route} is not an entry`)
  return defineEventHandler((event): Promise<Awaited<R>> => answering(event, async (): Promise<Awaited<R>> => {
    if (event.method !== 'GET') refuseForeign(event)
    return await handler({ event, workspace: useWorkspace(), body: await bodyOf(event, spec.body) })
  }))
}

export const zIdParam = z.object({ id: z.coerce.number().int().positive() })
