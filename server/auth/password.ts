import { randomBytes, scrypt, timingSafeEqual, type ScryptOptions } from 'node:crypto'

/** Fewer letters than this are guessed too soon; more than the second are only there to keep the server busy. */
export const PASSWORD_LEAST = 10
export const PASSWORD_MOST = 200

/** Cost of scrypt (RFC 7914) as OWASP's password storage advice gives it: 64 MiB, two lanes. */
const COST = { N: 2 ** 16, r: 8, p: 2 } as const
const KEY_BYTES = 32

/** Each takes 64 MiB and a core for a while: more at once would take the memory and leave nothing for anybody else. */
const AT_ONCE = 2
const WAITING_MOST = 40
let working = 0
const waiting: (() => void)[] = []

/** Thrown when so many passwords wait to be hashed that one more would be answered too late. */
export class TooManyPasswords extends Error {}

async function inLine<T>(work: () => Promise<T>): Promise<T> {
  if (working >= AT_ONCE) {
    if (waiting.length >= WAITING_MOST) throw new TooManyPasswords('too many passwords at once')
    await new Promise<void>((resolve) => waiting.push(resolve))
  } else working++
  try {
    return await work()
  } finally {
    // Whoever waits takes the place over.
    const next = waiting.shift()
    if (next) next()
    else working--
  }
}

const derive = (
  password: string,
  salt: Buffer,
  { N, r, p }: { readonly N: number; readonly r: number; readonly p: number },
): Promise<Buffer> => {
  const options: ScryptOptions = { N, r, p, maxmem: 256 * N * r }
  return inLine(
    () =>
      new Promise((resolve, reject) => {
        scrypt(password.normalize('NFKC'), salt, KEY_BYTES, options, (error, key) =>
          error ? reject(error) : resolve(key),
        )
      }),
  )
}

/** The password as it is kept: `scrypt$N$r$p$salt$key`, the last two in base64. Never the same text twice. */
export async function hashPassword(password: string): Promise<string> {
  const salt = randomBytes(16)
  const key = await derive(password, salt, COST)
  return ['scrypt', COST.N, COST.r, COST.p, salt.toString('base64'), key.toString('base64')].join('$')
}

/**
 * Whether the password is the one that was hashed. Costs the same when there is no hash at all, so that the time an
 * answer takes does not tell which addresses have an account.
 */
export async function isPassword(password: string, hash: string | null): Promise<boolean> {
  const [kind, N, r, p, salt, key] = hash?.split('$') ?? []
  const known = kind === 'scrypt' && salt !== undefined && key !== undefined
  const cost = known ? { N: Number(N), r: Number(r), p: Number(p) } : COST
  const given = await derive(password, known ? Buffer.from(salt, 'base64') : randomBytes(16), cost)
  return known && timingSafeEqual(given, Buffer.from(key, 'base64'))
}
