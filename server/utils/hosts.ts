const LOOPBACK = ['localhost', '127.0.0.1', '[::1]']

/** The name in a `Host` header (RFC 9110, 7.2), without its port. */
const nameOf = (host: string): string => host.toLowerCase().replace(/:\d*$/, '')

/**
 * Whether the server answers under a name: `SKY_LEVER_HOSTS` lists them, with commas; those of the machine itself
 * always are.
 */
export function isOurHost(host: string, listed = process.env.SKY_LEVER_HOSTS ?? ''): boolean {
  const name = nameOf(host)
  return [...LOOPBACK, ...listed.split(',').map((one) => nameOf(one.trim()))].some((one) => one !== '' && one === name)
}
