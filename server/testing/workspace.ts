import type { Channels, Handed, Parcel } from '../channels/channel'
import { mkdtempSync, readFileSync, rmSync, writeFileSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { afterEach } from 'vitest'
import { openLarkmoor } from '../../demo/fill'
import type { RuleDocument } from '../../core/rules/document'
import { SetClock } from '../engine/clock'
import { Workspace } from '../engine/workspace'
import type { Mailbox } from '../stand-ins/mailbox'

export const MIGRATIONS = 'server/db/migrations'
export const NOW_MS = Date.UTC(2026, 10, 24, 9, 12)

const open: { readonly workspace: Workspace }[] = []
const folders: string[] = []
afterEach(() => {
  for (const { workspace } of open.splice(0)) workspace.close()
  for (const folder of folders.splice(0)) rmSync(folder, { recursive: true, force: true })
})

/** Channels that lead to a mailbox at once, and nowhere else. */
function channelsTo(mailbox: Mailbox): Channels {
  const deliver = (parcel: Parcel): Promise<Handed> => {
    mailbox(parcel, null)
    return Promise.resolve({ is: 'taken' })
  }
  return {
    mail: { name: 'mail', deliver },
    text: { name: 'text', deliver },
    call: { name: 'call', deliver },
    web: { name: 'web', deliver },
  }
}

/** A folder that is removed after the test. */
function folderOfTest(): string {
  const folder = mkdtempSync(join(tmpdir(), 'sky-lever-'))
  folders.push(folder)
  return folder
}

// Sixty migrations and a hundred columns take a third of a second: a file that is filled is kept for all tests.
const kept = new Map<'empty Larkmoor' | 'blank', Buffer>()

/** Puts a file where a test wants it; the first time it is made by `fill`, later it is a copy of that. */
function place(dbFile: string, name: 'empty Larkmoor' | 'blank', fill: (dbFile: string) => Workspace): void {
  let bytes = kept.get(name)
  if (!bytes) {
    const folder = mkdtempSync(join(tmpdir(), 'sky-lever-'))
    try {
      const file = join(folder, 'kept.db')
      fill(file).close()
      bytes = readFileSync(file)
    } finally {
      rmSync(folder, { recursive: true, force: true })
    }
    kept.set(name, bytes)
  }
  writeFileSync(dbFile, bytes, { mode: 0o600 })
}

/** An empty Larkmoor in a file of its own, on a clock that is set by hand. Closed and removed after the test. */
export function larkmoor(): {
  readonly workspace: Workspace
  readonly clock: SetClock
  readonly dbFile: string
  readonly reopen: (mailbox?: Mailbox) => Workspace
} {
  const dbFile = join(folderOfTest(), 'test.db')
  const clock = new SetClock(NOW_MS)
  place(dbFile, 'empty Larkmoor', (file) =>
    openLarkmoor({ dbFile: file, migrationsFolder: MIGRATIONS, nowMs: NOW_MS }, new SetClock(NOW_MS)),
  )
  const workspace = new Workspace({ dbFile, migrationsFolder: MIGRATIONS, clock })
  open.push({ workspace })
  return {
    workspace,
    clock,
    dbFile,
    reopen: (mailbox) => {
      const channels = mailbox && { channels: () => channelsTo(mailbox) }
      const again = new Workspace({ dbFile, migrationsFolder: MIGRATIONS, clock, ...channels })
      open.push({ workspace: again })
      return again
    },
  }
}

/** A database that nobody has set up yet. */
export function blank(): Workspace {
  const dbFile = join(folderOfTest(), 'test.db')
  const made = (file: string) =>
    new Workspace({ dbFile: file, migrationsFolder: MIGRATIONS, clock: new SetClock(NOW_MS) })
  place(dbFile, 'blank', made)
  const workspace = made(dbFile)
  open.push({ workspace })
  return workspace
}

/** Publishes a rule and switches it on. */
export function switchOn(workspace: Workspace, document: RuleDocument): number {
  const id = workspace.store.rules.create(document, 'ines', workspace.clock.nowMs())
  workspace.store.rules.publish(id, document, 'ines', workspace.clock.nowMs())
  workspace.store.rules.setState(id, 'on', 'ines', workspace.clock.nowMs())
  const problem = workspace.store.rules.get(id)?.version?.problem
  if (problem !== null) throw new Error(`“${document.name}” cannot be read: ${problem}`)
  workspace.rulesChanged()
  return id
}
