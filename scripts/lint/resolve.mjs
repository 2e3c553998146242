import { existsSync, statSync } from 'node:fs'
import { dirname, join, resolve } from 'node:path'
import { fileURLToPath } from 'node:url'

export const ROOT = fileURLToPath(new URL('../..', import.meta.url))

/** The aliases that our own files are imported by, with the folders they stand for. */
const ALIASES = [
  ['#core/', 'core/'],
  ['~~/', ''],
  ['~/', 'app/'],
]
const ENDINGS = ['', '.ts', '.mts', '.mjs', '.vue', '/index.ts']

/** The file of ours that an import leads to; `null` for a package or for what is not there. */
export function resolveOurs(spec, from) {
  const alias = ALIASES.find(([start]) => spec.startsWith(start))
  if (!alias && !spec.startsWith('.')) return null
  const base = alias ? join(ROOT, alias[1], spec.slice(alias[0].length)) : resolve(dirname(from), spec)
  for (const ending of ENDINGS) {
    const file = base + ending
    if (existsSync(file) && statSync(file).isFile()) return file
  }
  return null
}

/** The same, as the rules about imports ask for it. */
export const resolver = {
  interfaceVersion: 3,
  name: 'ours',
  resolve(spec, from) {
    const path = resolveOurs(spec, from)
    return path === null ? { found: false } : { found: true, path }
  },
}
