import { AsyncLocalStorage } from 'node:async_hooks'
import type { Cause } from '../../core/records/record'

/** The API key by which somebody acts: known to whatever the request sets off, however deep, and to nothing else. */
const keys = new AsyncLocalStorage<string>()

/** Does some work by a key, or by none. */
export const byKey = <T>(name: string | null, work: () => T): T => (name === null ? work() : keys.run(name, work))

/** The key of this request, for what another thread goes on with. */
export const actingKey = (): string | null => keys.getStore() ?? null

/** What a person does by a key says which one. */
export function withKey(cause: Cause): Cause {
  const key = cause.by === 'person' ? keys.getStore() : undefined
  return cause.by === 'person' && key !== undefined ? { ...cause, key } : cause
}
