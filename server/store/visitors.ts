import type { Activity } from '../../core/records/activity'
import type { Values } from '../../core/language/value'
import type { Db } from '../db/connect'

/** What a visitor did of whom nobody knows yet who it is. */
export interface UnknownActivity extends Omit<Activity, 'id'> {
  readonly visitor: string
  readonly key: string | null
}

/** A browser that visited the firm's pages. */
export interface Visitor {
  readonly key: string
  readonly contactId: number | null
  /** The address that was given there, for which there is no contact yet. */
  readonly email: string | null
  readonly seenAt: number
}

type UnknownRow = Omit<UnknownActivity, 'data'> & { readonly data: string }

/** Visitors, and what they did before it was known who they are. */
export class VisitorStore {
  private readonly statements

  constructor({ sqlite }: Db) {
    this.statements = {
      get: sqlite.prepare<[string], Visitor>(
        'SELECT key, contact_id AS contactId, email, seen_at AS seenAt FROM visitors WHERE key = ?',
      ),
      seen: sqlite.prepare(
        `INSERT INTO visitors (key, seen_at) VALUES (?, ?)
         ON CONFLICT (key) DO UPDATE SET seen_at = max(seen_at, excluded.seen_at)`,
      ),
      name: sqlite.prepare('UPDATE visitors SET contact_id = ?, email = ? WHERE key = ?'),
      withEmail: sqlite.prepare<[string], { readonly key: string }>('SELECT key FROM visitors WHERE email = ?'),
      someWait: sqlite.prepare<[], { readonly found: number }>(
        'SELECT EXISTS (SELECT 1 FROM visitors WHERE email IS NOT NULL) AS found',
      ),
      keep: sqlite.prepare(
        `INSERT INTO unknown_activities (visitor, kind, about, data, at_ms, key, told_at)
         VALUES (?, ?, ?, ?, ?, ?, ?) ON CONFLICT DO NOTHING`,
      ),
      take: sqlite.prepare<[string], UnknownRow>(
        'DELETE FROM unknown_activities WHERE visitor = ? RETURNING visitor, kind, about, data, at_ms AS atMs, key',
      ),
      hasKey: sqlite.prepare<[string], { readonly found: number }>(
        'SELECT EXISTS (SELECT 1 FROM unknown_activities WHERE key = ?) AS found',
      ),
      count: sqlite.prepare<[], { readonly visitors: number; readonly activities: number }>(
        'SELECT count(DISTINCT visitor) AS visitors, count(*) AS activities FROM unknown_activities',
      ),
      give: sqlite.prepare('UPDATE visitors SET contact_id = ? WHERE contact_id = ?'),
      ofContact: sqlite.prepare<[number], Visitor>(
        'SELECT key, contact_id AS contactId, email, seen_at AS seenAt FROM visitors WHERE contact_id = ? ORDER BY seen_at',
      ),
      forget: sqlite.prepare('DELETE FROM visitors WHERE contact_id = ?'),
    }
  }

  get(key: string): Visitor | null {
    return this.statements.get.get(key) ?? null
  }

  /** Keeps a visitor, or that they were seen again. */
  seen(key: string, atMs: number): void {
    this.statements.seen.run(key, atMs)
  }

  /** Says whose visits they are: a contact's, or those of somebody with an address that no contact has yet. */
  name(key: string, who: { readonly contactId: number } | { readonly email: string }): void {
    if ('contactId' in who) this.statements.name.run(who.contactId, null, key)
    else this.statements.name.run(null, who.email, key)
  }

  withEmail(email: string): readonly string[] {
    return this.statements.withEmail.all(email).map(({ key }) => key)
  }

  /** Whether an address waits for its contact. */
  someWait(): boolean {
    return this.statements.someWait.get()?.found === 1
  }

  /** Keeps what an unknown one did; answers whether it was new. */
  keep({ visitor, kind, about, data, atMs, key }: UnknownActivity, nowMs: number): boolean {
    return this.statements.keep.run(visitor, kind, about, JSON.stringify(data), atMs, key, nowMs).changes > 0
  }

  hasKey(key: string): boolean {
    return this.statements.hasKey.get(key)?.found === 1
  }

  /** Takes out what a visitor did, the oldest first. */
  take(visitor: string): readonly UnknownActivity[] {
    return this.statements.take
      .all(visitor)
      .map((row) => ({ ...row, data: JSON.parse(row.data) as Values }))
      .sort((a, b) => a.atMs - b.atMs)
  }

  count(): { readonly visitors: number; readonly activities: number } {
    return this.statements.count.get() ?? { visitors: 0, activities: 0 }
  }

  /** A contact was merged into another one. */
  give(from: number, to: number): void {
    this.statements.give.run(to, from)
  }

  ofContact(id: number): readonly Visitor[] {
    return this.statements.ofContact.all(id)
  }

  /** Nobody can tell any more that it was this contact. */
  forget(contactId: number): void {
    this.statements.forget.run(contactId)
  }
}
