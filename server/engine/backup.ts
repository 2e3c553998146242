import { existsSync, mkdirSync, readdirSync, renameSync, rmSync, statSync } from 'node:fs'
import { basename, dirname, join } from 'node:path'
import Database from 'better-sqlite3'
import { ownFile } from '../db/own-file'

export interface Backup {
  readonly file: string
  readonly bytes: number
  readonly atMs: number
}

const folderOf = (dbFile: string): string => join(dirname(dbFile), 'backups')

/**
 * Copies the database as it is at one moment while everything goes on (SQLite's online backup), checks the copy, and
 * only then gives it its name: a file with the name of a backup is a whole one. Throws when the copy does not check
 * out.
 */
export async function makeBackup(dbFile: string, nowMs: number): Promise<Backup> {
  if (!existsSync(dbFile)) throw new Error(`there is no database at ${dbFile}`)
  const folder = folderOf(dbFile)
  mkdirSync(folder, { recursive: true })
  const stamp = new Date(nowMs)
    .toISOString()
    .replace(/\.\d+Z$/, 'Z')
    .replaceAll(':', '')
  const file = join(folder, `${basename(dbFile, '.db')}-${stamp}.db`)
  const part = `${file}.part`
  rmSync(part, { force: true })
  ownFile(part)
  const source = new Database(dbFile, { readonly: true })
  try {
    await source.backup(part)
  } finally {
    source.close()
  }
  const copy = new Database(part)
  try {
    // A backup is one file that can be read by itself: no write-ahead log beside it.
    copy.pragma('journal_mode = DELETE')
    const found = copy.pragma('integrity_check', { simple: true })
    if (found !== 'ok') throw new Error(`the copy does not check out: ${String(found)}`)
  } finally {
    copy.close()
  }
  renameSync(part, file)
  return { file, bytes: statSync(file).size, atMs: nowMs }
}

/** The backups that are there, newest first. */
export function listBackups(dbFile: string): readonly Backup[] {
  const folder = folderOf(dbFile)
  if (!existsSync(folder)) return []
  const own = `${basename(dbFile, '.db')}-`
  return readdirSync(folder)
    .filter((name) => name.startsWith(own) && name.endsWith('.db'))
    .map((name) => {
      const { size, mtimeMs } = statSync(join(folder, name))
      return { file: join(folder, name), bytes: size, atMs: Math.round(mtimeMs) }
    })
    .sort((a, b) => b.atMs - a.atMs || b.file.localeCompare(a.file, 'en'))
}

/** From the command line: backs up the file that `SKY_LEVER_DB` names. */
export async function main(): Promise<void> {
  const { file, bytes } = await makeBackup(process.env.SKY_LEVER_DB ?? '.data/sky-lever.db', Date.now())
  console.log(`Backed up to ${file} (${(bytes / 1e6).toFixed(1)} MB).`)
}
