import type { H3Event } from 'h3'
import type { Workspace } from '../engine/workspace'
import { LONGEST_MS } from '../store/sessions'
import type { KeyScope } from '../store/keys'

/** What a cookie holds is known to the browser alone: the database has only its SHA-256. */
const COOKIE = 'sky-lever'

const cookieOptions = (event: H3Event) => ({
  httpOnly: true,
  sameSite: 'lax' as const,
  path: '/',
  secure: getRequestProtocol(event, { xForwardedProto: true }) === 'https',
})

/** Sessions and keys go by the machine's clock: that of a demo can be turned. */
export const realNow = (): number => Date.now()

const secretOf = (event: H3Event): string | null => {
  const given = getCookie(event, COOKIE)
  return given !== undefined && /^[\w-]{43}$/.test(given) ? given : null
}

/** Signs somebody in in this browser; what was signed in there before ends, but where people change about (a demo). */
export function signIn(event: H3Event, workspace: Workspace, personId: string): void {
  const { people, sessions } = workspace.store
  if (!people.accountOf(personId)?.active) throw new ProblemError({ code: 'accountInactive' })
  const nowMs = realNow()
  const secret = workspace.db.inTurn(() =>
    workspace.db.atomically(() => {
      if (!workspace.catalogue().workspace.demo) endOwn(event, workspace)
      return sessions.begin(personId, getHeader(event, 'user-agent') ?? '', nowMs)
    }),
  )
  setCookie(event, COOKIE, secret, { ...cookieOptions(event), maxAge: LONGEST_MS / 1000 })
}

function endOwn(event: H3Event, workspace: Workspace): void {
  const secret = secretOf(event)
  const found = secret === null ? null : workspace.store.sessions.of(secret, realNow())
  if (found) workspace.store.sessions.end(found.personId, found.id)
}

/** Signs out in this browser: what its cookie held opens nothing any more. */
export function signOut(event: H3Event, workspace: Workspace): void {
  workspace.db.inTurn(() => endOwn(event, workspace))
  deleteCookie(event, COOKIE, cookieOptions(event))
  // Streams that are open look with the next message whether they may go on, so there is one.
  workspace.live.tell({ about: 'catalogue' })
}

/** Ends whatever lets somebody in: sessions, but for one when it is named, and keys. */
export function endAllOf(workspace: Workspace, personId: string, but = 0): void {
  const { sessions, keys } = workspace.store
  sessions.endAll(personId, but)
  keys.revokeAll(personId, realNow())
  workspace.live.tell({ about: 'catalogue' })
}

export interface SignedIn {
  readonly personId: string
  /** By a session of a browser, or by a key for the API. */
  readonly by:
    | { readonly what: 'session'; readonly id: number }
    | ({ readonly what: 'key'; readonly id: number; readonly name: string } & KeyScope)
}

/** Whether what let somebody in would do so again. */
export const goesOn = (workspace: Workspace, { personId, by }: SignedIn): boolean =>
  workspace.store.people.accountOf(personId)?.active === true &&
  workspace.store[by.what === 'session' ? 'sessions' : 'keys'].goesOn(by.id, realNow())

/** Notes that it was used. Where that cannot be written just now, the request is none the worse for it. */
function noteSeen(workspace: Workspace, which: 'sessions' | 'keys', id: number): void {
  try {
    workspace.db.inTurn(() => workspace.store[which].seen(id, realNow()))
  } catch (error) {
    if (!storageProblem(error)) throw error
  }
}

/** Who a request comes from: by its API key when it brings one, by its cookie otherwise; `null` for nobody. */
export function signedIn(event: H3Event, workspace: Workspace): SignedIn | null {
  const { keys, sessions, people } = workspace.store
  const header = getHeader(event, 'authorization')
  if (header !== undefined) {
    const key = /^Bearer (\S{8,200})$/i.exec(header)?.[1]
    const found = key === undefined ? null : keys.of(key, realNow())
    if (found === null || !people.accountOf(found.personId)?.active) throw new ProblemError({ code: 'keyUnknown' })
    const { personId, note, ...rest } = found
    if (note) noteSeen(workspace, 'keys', rest.id)
    return { personId, by: { what: 'key', ...rest } }
  }
  const secret = secretOf(event)
  const found = secret === null ? null : sessions.of(secret, realNow())
  if (!found || !people.accountOf(found.personId)?.active) return null
  // A browser says where a request comes from; one that another site set off must not act in this person's name.
  if (event.method !== 'GET' && event.method !== 'HEAD') refuseForeign(event)
  if (found.note) noteSeen(workspace, 'sessions', found.id)
  return { personId: found.personId, by: { what: 'session', id: found.id } }
}

/** Refuses what another site's page sends along with our cookie (Fetch Metadata, and Origin for older browsers). */
export function refuseForeign(event: H3Event): void {
  const site = getHeader(event, 'sec-fetch-site')
  const origin = getHeader(event, 'origin')
  const foreign =
    (site !== undefined && site !== 'same-origin' && site !== 'none') ||
    (origin !== undefined && (!URL.canParse(origin) || new URL(origin).host !== getRequestHost(event)))
  if (foreign) throw new ProblemError({ code: 'otherWebsite' })
}
