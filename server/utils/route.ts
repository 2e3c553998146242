import type { H3Event } from 'h3'
import { z } from 'zod'
import type { Person } from '../../core/fields/field'
import { EmptyWorkspaceError, RefusedError, type Workspace } from '../engine/workspace'
import { ACTS, ACT_WORDS, type ActName } from './acts'
import { placesOf, ProblemError } from './problem'
import { useWorkspace } from './workspace'

export const PERSON_COOKIE = 'sky-lever-person'

export interface RouteContext<P, Q, B> {
  readonly event: H3Event
  readonly workspace: Workspace
  /** Who acts. */
  readonly person: Person
  readonly params: P
  readonly query: Q
  readonly body: B
}

export interface RouteSpec<P, Q, B> {
  readonly act: ActName
  readonly params?: z.ZodType<P>
  readonly query?: z.ZodType<Q>
  readonly body?: z.ZodType<B>
}

/** In a demo workspace whoever the cookie names acts; without one it is the specialist. */
export function personOf(event: H3Event, workspace: Workspace): Person {
  const { people } = workspace.catalogue()
  const id = getCookie(event, PERSON_COOKIE)
  const person = people.find((one) => one.id === id && one.active) ?? people.find((one) => one.role === 'specialist')
  if (!person) throw new ProblemError(401, 'Nobody is signed in', 'This workspace has no specialist yet.')
  return person
}

function check<T>(schema: z.ZodType<T> | undefined, given: unknown, where: string): T {
  const read = (schema ?? z.unknown()).safeParse(given)
  if (read.success) return read.data as T
  throw new ProblemError(400, 'The request does not fit', `The ${where} of the request cannot be read.`,
    read.error.issues.slice(0, 20).map((issue) => ({ path: issue.path.join('.') || where, text: issue.message })))
}

function answerProblem(event: H3Event, error: unknown): unknown {
  const problem = error instanceof ProblemError ? error
    : error instanceof RefusedError ? new ProblemError(422, 'Refused', 'Nothing was written.', placesOf(error.problems))
      : error instanceof EmptyWorkspaceError ? new ProblemError(503, 'The workspace is empty', error.message)
        : null
  if (!problem) throw error
  setResponseStatus(event, problem.status)
  setResponseHeader(event, 'content-type', 'application/problem+json')
  return { type: 'about:blank', title: problem.title, status: problem.status, detail: problem.detail, places: problem.places }
}

/** The one way a route is made: it knows who acts, whether they may, and that what came fits before anything runs. */
export function defineRoute<P, Q, B, R>(spec: RouteSpec<P, Q, B>, handler: (context: RouteContext<P, Q, B>) => R | Promise<R>) {
  return defineEventHandler(async (event): Promise<Awaited<R>> => {
    try {
      const workspace = useWorkspace()
      const person = personOf(event, workspace)
      if (!ACTS[person.role].includes(spec.act)) {
        throw new ProblemError(403, 'Not allowed', `${person.name} may not ${ACT_WORDS[spec.act]}.`)
      }
      const body = spec.body ? await readBody<unknown>(event).catch(() => {
        throw new ProblemError(400, 'The request does not fit', 'The body is not JSON.')
      }) : undefined
      return await handler({
        event, workspace, person,
        params: check(spec.params, getRouterParams(event), 'path'),
        query: check(spec.query, getQuery(event), 'query'),
        body: check(spec.body, body, 'body'),
      })
    } catch (error) {
      // The type of a route is that of its answer; a problem is told apart by its status, as everywhere in HTTP.
      return answerProblem(event, error) as Awaited<R>
    }
  })
}

export const zIdParam = z.object({ id: z.coerce.number().int().positive() })
