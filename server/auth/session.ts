import { randomBytes } from 'node:crypto'
import { existsSync, mkdirSync, readFileSync, writeFileSync } from 'node:fs'
import { dirname } from 'node:path'
import type { H3Event } from 'h3'
import type { Workspace } from '../engine/workspace'

interface Kept {
  personId?: string
  epoch?: number
}

const SECRET_LENGTH = 32
const LASTS_S = 14 * 86_400

/**
 * What cookies are sealed with: `SKY_LEVER_SECRET`, or a key made at the first start and kept beside the database,
 * readable for its owner alone. Whoever copies the database alone cannot forge a cookie.
 */
export function readSecret(dbFile: string): string {
  const given = process.env.SKY_LEVER_SECRET
  if (given !== undefined) {
    if (given.length < SECRET_LENGTH) throw new Error(`SKY_LEVER_SECRET needs at least ${SECRET_LENGTH} characters`)
    return given
  }
  const file = `${dbFile}.key`
  if (existsSync(file)) return readFileSync(file, 'utf8').trim()
  mkdirSync(dirname(file), { recursive: true })
  const made = randomBytes(SECRET_LENGTH).toString('base64url')
  writeFileSync(file, made, { mode: 0o600, flag: 'wx' })
  return made
}

let secret = ''
export function setSecret(value: string): void {
  secret = value
}

/** Sealed (encrypted and signed, iron), for this site only, and out of reach of scripts. */
const cookie = (event: H3Event) =>
  useSession<Kept>(event, {
    name: 'sky-lever',
    password: secret,
    maxAge: LASTS_S,
    cookie: {
      httpOnly: true,
      sameSite: 'lax',
      path: '/',
      secure: getRequestProtocol(event, { xForwardedProto: true }) === 'https',
    },
  })

export async function signIn(event: H3Event, workspace: Workspace, personId: string): Promise<void> {
  const account = workspace.store.people.accountOf(personId)
  if (!account?.active)
    throw new ProblemError(
      401,
      'Not signed in',
      'This account is no longer active. Ask a specialist in your workspace.',
    )
  const session = await cookie(event)
  await session.clear()
  await session.update({ personId, epoch: account.sessionEpoch })
}

export async function signOut(event: H3Event): Promise<void> {
  const session = await cookie(event)
  await session.clear()
}

/** The cookie's number as it is now: it is void once the person signed out everywhere, or left. */
export const isCurrent = (workspace: Workspace, personId: string, epoch: number): boolean => {
  const account = workspace.store.people.accountOf(personId)
  return account !== null && account.active && account.sessionEpoch === epoch
}

export interface SignedIn {
  readonly personId: string
  /** `null` for a request with an API key. */
  readonly epoch: number | null
  /** The name of the key. */
  readonly key: string | null
}

/** Who a request comes from: by its API key when it brings one, by its cookie otherwise; `null` for nobody. */
export async function signedIn(event: H3Event, workspace: Workspace): Promise<SignedIn | null> {
  const header = getHeader(event, 'authorization')
  if (header !== undefined) {
    const token = /^Bearer (\S{8,200})$/i.exec(header)?.[1]
    const found =
      token === undefined
        ? null
        : workspace.db.inTurn(() => workspace.store.people.ofToken(token, workspace.clock.nowMs()))
    if (found === null || !workspace.store.people.accountOf(found.personId)?.active)
      throw new ProblemError(401, 'Not signed in', 'This API key is unknown or has been revoked.')
    return { personId: found.personId, epoch: null, key: found.name }
  }
  const {
    data: { personId, epoch },
  } = await cookie(event)
  if (personId === undefined || epoch === undefined || !isCurrent(workspace, personId, epoch)) return null
  // A browser says where a request comes from; one that another site set off must not act in this person's name.
  if (event.method !== 'GET' && event.method !== 'HEAD') refuseForeign(event)
  return { personId, epoch, key: null }
}

/** Refuses what another site's page sends along with our cookie (Fetch Metadata, and Origin for older browsers). */
export function refuseForeign(event: H3Event): void {
  const site = getHeader(event, 'sec-fetch-site')
  const origin = getHeader(event, 'origin')
  const foreign =
    (site !== undefined && site !== 'same-origin' && site !== 'none') ||
    (origin !== undefined && (!URL.canParse(origin) || new URL(origin).host !== getRequestHost(event)))
  if (foreign) throw new ProblemError(403, 'Request blocked', 'It came from another website.')
}
