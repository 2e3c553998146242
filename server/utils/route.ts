import type { H3Event } from 'h3'
import type { z } from 'zod'
import type { Person } from '../../core/fields/field'
import type { RecordRef } from '../../core/records/kinds'
import type { RecordSnapshot } from '../../core/records/record'
import { scopeOf, seesRecord, type Scope } from '../../core/access/scope'
import { CONTRACTS } from '../contract'
import type { Contract } from '../contract/contract'
import { TooManyPasswords } from '../auth/password'
import { UnansweredError } from '../worker/thread'
import { refuseForeign, signedIn, type SignedIn } from '../auth/session'
import { AREA_OF } from './areas'
import { byKey } from '../engine/acting'
import { EmptyWorkspaceError, RefusedError, type Workspace } from '../engine/workspace'
import { ROUTES, type RouteName } from './acts'
import { readJson } from './body'
import { once } from './once'
import { notFound, placesOf, ProblemError, storageProblem } from './problem'
import { useWorkspace } from './workspace'
import { ACTS, ACT_WORDS, type ActName } from '../../core/access/acts'

export interface RouteContext<P, Q, B> {
  readonly event: H3Event
  readonly workspace: Workspace
  /** Who acts. */
  readonly person: Person
  /** By what they were let in. */
  readonly signed: SignedIn
  /** Whose records and tasks they see. */
  readonly scope: Scope
  readonly params: P
  readonly query: Q
  readonly body: B
}

/** Acts that change something; the others may be asked while somebody writes. */
const WRITING: readonly ActName[] = ['work', 'build', 'self']

type Of<R extends RouteName, K extends 'params' | 'query' | 'body'> = (typeof CONTRACTS)[R] extends {
  readonly [k in K]: z.ZodType<infer T>
}
  ? T
  : undefined

/** Who acts; refuses nobody, and somebody whose role does not allow it. */
export function admit(event: H3Event, route: RouteName, workspace: Workspace): Admitted {
  workspace.keepUp()
  const catalogue = workspace.catalogue()
  const found = signedIn(event, workspace)
  const person = found && catalogue.person(found.personId)
  if (!found || !person) throw new ProblemError({ code: 'signInFirst' })
  const act = ROUTES[route]
  if (!ACTS[person.role].includes(act)) throw new ProblemError({ code: 'noPermission', to: ACT_WORDS[act] })
  refuseByKey(found, route)
  return { person, found, key: found.by.what === 'key' ? found.by.name : null }
}

export interface Admitted {
  readonly person: Person
  readonly found: SignedIn
  /** The name of the key, for a request that came with one. */
  readonly key: string | null
}

/** A key opens what it is for, and never what lets somebody in: who finds one cannot make it into more. */
function refuseByKey({ by }: SignedIn, route: RouteName): void {
  if (by.what !== 'key') return
  const act = ROUTES[route]
  const { section }: Contract = CONTRACTS[route]
  if (section === 'Account') throw new ProblemError({ code: 'keyNotForAccounts' })
  const area = AREA_OF[section]
  if (by.areas !== null && !by.areas.includes(area))
    throw new ProblemError({ code: 'keyNotForArea', area, areas: by.areas })
  if (by.readOnly && WRITING.includes(act)) throw new ProblemError({ code: 'keyReadOnly' })
}

/** The record, if it is there and within the scope; what may not be seen is answered as if it were not there. */
export function visibleRecord(
  { workspace, scope }: { readonly workspace: Workspace; readonly scope: Scope },
  ref: RecordRef,
): RecordSnapshot {
  const record = workspace.store.records.read(ref)
  if (!record || !seesRecord(scope, record.values)) throw notFound(`${ref.object} ${ref.id}`)
  return record
}

function check(schema: z.ZodType | undefined, given: unknown, where: string): unknown {
  if (!schema) return undefined
  const read = schema.safeParse(given)
  if (read.success) return read.data
  throw new ProblemError(
    { code: 'partInvalid', part: where },
    read.error.issues.slice(0, 20).map((issue) => ({ path: issue.path.join('.') || where, text: issue.message })),
  )
}

export function answerProblem(event: H3Event, error: unknown): unknown {
  const problem =
    error instanceof ProblemError
      ? error
      : error instanceof RefusedError
        ? refusedProblem(error)
        : error instanceof EmptyWorkspaceError
          ? new ProblemError({ code: 'workspaceEmpty' })
          : (busyProblem(event, error) ?? storageProblem(error))
  if (!problem) throw error
  setResponseStatus(event, problem.status)
  setResponseHeader(event, 'content-type', 'application/problem+json')
  return {
    type: 'about:blank',
    code: problem.code,
    title: problem.title,
    status: problem.status,
    detail: problem.detail,
    places: problem.places,
  }
}

function refusedProblem({ problems }: RefusedError): ProblemError {
  const places = placesOf(problems)
  return new ProblemError({ code: 'notSaved', said: places.map(({ text }) => text).join(' ') }, places)
}

/** Too much was asked at once, or one thing that takes too long. */
function busyProblem(event: H3Event, error: unknown): ProblemError | null {
  const code =
    error instanceof TooManyPasswords ? 'tooManySignIns' : error instanceof UnansweredError ? error.code : null
  if (code === null) return null
  setResponseHeader(event, 'retry-after', 2)
  return new ProblemError({ code })
}

async function answering<R>(event: H3Event, work: () => Promise<R>): Promise<R> {
  try {
    return await work()
  } catch (error) {
    // The type of a route is that of its answer; a problem is told apart by its status, as everywhere in HTTP.
    return answerProblem(event, error) as R
  }
}

async function bodyOf(event: H3Event, { body: schema, bodies }: Contract, most: number): Promise<unknown> {
  if (!schema) return undefined
  // Other kinds of bodies can be sent from a foreign page without asking; JSON cannot.
  const kind = getHeader(event, 'content-type') ?? ''
  if (!/^application\/(?:[\w.+-]+\+)?json\b/i.test(kind)) throw new ProblemError({ code: 'bodyType' })
  const media = kind.split(';')[0]?.trim().toLowerCase() ?? ''
  return check(bodies?.[media] ?? schema, await readJson(event, most), 'body')
}

/** What a body may be at the most, in bytes, where its contract says nothing; at the door, by somebody not known. */
const BODY_MOST = 1_000_000
const ENTRY_MOST = 16_000

type ContextOf<R extends RouteName> = RouteContext<Of<R, 'params'>, Of<R, 'query'>, Of<R, 'body'>>

/**
 * The one way a route is made: it knows who acts, whether they may, and that what came fits its contract before
 * anything runs. A request that writes takes its turn beside the bulk worker, and is done once under its key. One that
 * changes how things are set up is one transaction that begins with what is there then: no other thread or process
 * comes between what it looks at and what it writes.
 */
export const defineRoute = <R extends RouteName, A>(route: R, handler: (context: ContextOf<R>) => A) =>
  defineRouteBehind(route, () => Promise.resolve(null), handler)

/**
 * As `defineRoute`, for a handler that awaits another thread which does the writing: it runs in no transaction, and its
 * answer is kept behind it, in another commit.
 */
export const defineRouteAwaiting = <R extends RouteName, A>(route: R, handler: (context: ContextOf<R>) => Promise<A>) =>
  make(route, () => Promise.resolve(null), handler, true)

/**
 * As `defineRoute`, where something has to be awaited before anything is written: another thread, a password. `before`
 * writes nothing; the turn is taken behind it, and the answer is kept in the commit that made it.
 */
export const defineRouteBehind = <R extends RouteName, F, A>(
  route: R,
  before: (context: ContextOf<R>) => Promise<F>,
  handler: (context: ContextOf<R>, found: F) => A,
) => make(route, before, handler, false)

function make<R extends RouteName, F, A>(
  route: R,
  before: (context: ContextOf<R>) => Promise<F>,
  handler: (context: ContextOf<R>, found: F) => A,
  awaits: boolean,
) {
  const contract: Contract = CONTRACTS[route]
  const { params, query, section, most } = contract
  return defineEventHandler((event): Promise<Awaited<A>> =>
    answering(event, async (): Promise<Awaited<A>> => {
      const workspace = useWorkspace()
      const { person, found: signed, key } = admit(event, route, workspace)
      const given = {
        params: check(params, getRouterParams(event, { decode: true }), 'path') as Of<R, 'params'>,
        query: check(query, getQuery(event), 'query') as Of<R, 'query'>,
        body: (await bodyOf(event, contract, most ?? BODY_MOST)) as Of<R, 'body'>,
      }
      const context = { event, workspace, person, signed, scope: scopeOf(person, workspace.catalogue()), ...given }
      const found = await before(context)
      const run = () => byKey(key, () => handler(context, found))
      if (event.method === 'GET' || !WRITING.includes(ROUTES[route])) return await run()
      const done = () => once(event, workspace, person.id, section, given, run)
      // What people do with records is committed before rules see it: a rule never takes back what somebody did.
      if (awaits || ROUTES[route] === 'work') return await workspace.db.inTurn(done)
      const answer = workspace.db.atomically(() => {
        workspace.keepUp()
        const made = done()
        if (made instanceof Promise) throw new Error(`${route} awaits within its transaction`)
        return made
      })
      return answer as Awaited<A>
    }),
  )
}

/** A route that needs nobody signed in, nor a workspace that is set up. */
export function defineEntry<R extends RouteName, A>(
  route: R,
  handler: (context: { readonly event: H3Event; readonly workspace: Workspace; readonly body: Of<R, 'body'> }) => A,
) {
  if (ROUTES[route] !== 'enter') throw new Error(`${route} is not an entry`)
  const contract: Contract = CONTRACTS[route]
  return defineEventHandler((event): Promise<Awaited<A>> =>
    answering(event, async (): Promise<Awaited<A>> => {
      if (event.method !== 'GET') refuseForeign(event)
      return await handler({
        event,
        workspace: useWorkspace(),
        body: (await bodyOf(event, contract, contract.most ?? ENTRY_MOST)) as Of<R, 'body'>,
      })
    }),
  )
}
