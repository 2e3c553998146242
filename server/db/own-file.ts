import { chmodSync, closeSync, existsSync, openSync, statSync } from 'node:fs'

const OWNER_ONLY = 0o600

/**
 * Makes a file that only its owner reads and writes, or makes one so; what SQLite lays beside it gets the same rights.
 */
export function ownFile(file: string): void {
  if (!existsSync(file)) closeSync(openSync(file, 'a', OWNER_ONLY))
  for (const one of [file, `${file}-wal`, `${file}-shm`])
    if (existsSync(one) && (statSync(one).mode & 0o077) !== 0) chmodSync(one, OWNER_ONLY)
}
