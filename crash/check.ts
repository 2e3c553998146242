import Database from 'better-sqlite3'
import { sameValue, type Value } from '../core/language/value'
import type { FieldChange } from '../core/records/record'
import { Workspace } from '../server/engine/workspace'
import { MIGRATIONS } from './setting'

/** What a database must hold after any number of crashes, told without the engine's help. Empty when all is well. */
export function checkAfter(dbFile: string, acknowledged: readonly number[], rowsInFiles: number): readonly string[] {
  const wrong: string[] = []
  const db = new Database(dbFile)
  const all = <T>(sql: string, ...given: unknown[]): T[] => db.prepare(sql).all(...given) as T[]
  const one = (sql: string): number => (db.prepare(sql).get() as { n: number }).n
  const expect = (good: boolean, text: string): void => {
    if (!good) wrong.push(text)
  }

  const integrity = all<{ integrity_check: string }>('PRAGMA integrity_check')
  expect(
    integrity.length === 1 && integrity[0]?.integrity_check === 'ok',
    `integrity_check: ${integrity.map((row) => row.integrity_check).join(', ')}`,
  )
  expect(all('PRAGMA foreign_key_check').length === 0, 'foreign_key_check found rows')

  // Durable: what was answered is there.
  const seqs = new Set(all<{ seq: number }>('SELECT seq FROM events').map((row) => row.seq))
  const lost = acknowledged.filter((seq) => !seqs.has(seq))
  expect(lost.length === 0, `${lost.length} of ${acknowledged.length} acknowledged changes are lost`)
  expect(
    one("SELECT count(*) AS n FROM events WHERE seq > (SELECT seq FROM event_positions WHERE reader = 'engine')") === 0,
    'events were never shown to rules',
  )

  // Every event's rules ran once: what each rule must have started on is counted from the log alone.
  const events = all<{ seq: number; kind: string; object: string; changes: string }>(
    'SELECT seq, kind, object, changes FROM events ORDER BY seq',
  )
  const due = { Quoted: 0, New: 0, Up: 0, Seen: 0 }
  for (const event of events) {
    if (event.object !== 'deal') continue
    const changes = JSON.parse(event.changes) as FieldChange[]
    const of = (field: string) => changes.find((change) => change.field === field)
    if (of('stage')?.new === 'hp-quoted') due.Quoted++
    if (event.kind === 'created') due.New++
    else {
      const amount = of('amount')
      if (typeof amount?.old === 'number' && typeof amount.new === 'number' && amount.new > amount.old) due.Up++
      if (of('notes')?.new === 'went up') due.Seen++
    }
  }
  for (const [name, count] of Object.entries(due)) {
    const runs = one(
      `SELECT count(*) AS n FROM runs JOIN rule_versions ON rule_versions.id = runs.version_id WHERE json_extract(document, '$.name') = '${name}' AND runs.state = 'done'`,
    )
    expect(runs === count, `rule ${name} ran ${runs} times for ${count} occurrences`)
  }
  expect(one("SELECT count(*) AS n FROM runs WHERE state <> 'done'") === 0, 'runs did not end well')
  // Counted on the way, as many as there are.
  const counted = one('SELECT coalesce(sum(runs), 0) AS n FROM rule_days')
  const runs = one('SELECT count(*) AS n FROM runs')
  expect(counted === runs, `${counted} runs are counted and ${runs} are there`)
  const tasksDue = due.Quoted + due.New + due.Up
  const tasks = one('SELECT count(*) AS n FROM tasks')
  expect(tasks === tasksDue, `${tasks} tasks for ${tasksDue} occurrences`)

  // Each message once, under one key, and at the receiver once.
  const sent = all<{ key: string; state: string }>('SELECT key, state FROM outbox')
  const received = all<{ key: string }>('SELECT key FROM stand_in_mail')
  expect(sent.length === due.Quoted + due.Up, `${sent.length} messages for ${due.Quoted + due.Up} occurrences`)
  expect(
    sent.every((row) => row.state === 'delivered'),
    'messages were left behind',
  )
  expect(
    received.length === sent.length && new Set(received.map((row) => row.key)).size === sent.length,
    `${received.length} messages arrived of ${sent.length}`,
  )

  // Files came in whole, each row once.
  const references = all<{ n: number }>(
    "SELECT count(*) AS n FROM events WHERE kind = 'created' AND object = 'deal' AND json_extract(cause, '$.by') = 'import'",
  )[0]?.n
  expect(references === rowsInFiles, `${references} deals came of ${rowsInFiles} rows`)
  expect(one("SELECT count(*) AS n FROM imports WHERE state <> 'done'") === 0, 'files were left behind')
  db.close()

  // Records are exactly what the log says, and history has every field of every change.
  const workspace = new Workspace({ dbFile, migrationsFolder: MIGRATIONS, floodFrom: Infinity })
  const replayed = new Map<string, { values: Map<string, Value>; version: number }>()
  let fields = 0
  for (const event of workspace.store.events.after(0, 10_000_000)) {
    const key = `${event.ref.object} ${event.ref.id}`
    const record = replayed.get(key) ?? { values: new Map<string, Value>(), version: 0 }
    for (const change of event.changes) {
      expect(
        sameValue(record.values.get(change.field), change.old),
        `event ${event.seq}: ${change.field} of ${key} was not what it says`,
      )
      record.values.set(change.field, change.new)
      fields++
    }
    record.version++
    replayed.set(key, record)
  }
  for (const object of ['deal', 'contact', 'company'] as const) {
    expect(
      workspace.store.records.count(object) === [...replayed.keys()].filter((key) => key.startsWith(object)).length,
      `${object} records without a log`,
    )
    const keys = workspace
      .catalogue()
      .fields(object)
      .map((field) => field.key)
    for (const record of workspace.store.records.scan(object, keys)) {
      const log = replayed.get(`${object} ${record.id}`)
      const off = keys.filter((key) => !sameValue(record.values[key], log?.values.get(key)))
      expect(
        off.length === 0 && record.version === log?.version,
        `${object} ${record.id} differs from its log in ${off.join(', ') || 'its version'}`,
      )
    }
  }
  const history = workspace.db.sqlite.prepare('SELECT count(*) AS n FROM history').get() as { n: number }
  expect(history.n === fields, `${history.n} history rows for ${fields} changed fields`)
  workspace.close()
  return wrong
}
