import type { Db } from '../db/connect'

/** `stock` is what SQLite knows of how values are spread. */
export type Revised = 'rules' | 'catalogue' | 'stock' | 'clock'

/** Counters by which every process and thread on the file notices that what it keeps in memory is out of date. */
export class RevisionStore {
  private readonly read
  private readonly write

  constructor(db: Db) {
    this.read = db.sqlite.prepare<[], { what: Revised; n: number }>('SELECT what, n FROM revisions')
    this.write = db.sqlite.prepare<[Revised]>(
      'INSERT INTO revisions (what, n) VALUES (?, 1) ON CONFLICT (what) DO UPDATE SET n = n + 1',
    )
  }

  bump(what: Revised): void {
    this.write.run(what)
  }

  /** All of them at this moment. */
  now(): { readonly [R in Revised]: number } {
    const found = { rules: 0, catalogue: 0, stock: 0, clock: 0 }
    for (const { what, n } of this.read.all()) found[what] = n
    return found
  }
}
