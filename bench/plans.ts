import { EMPTY_GROUP, type Group } from '../core/conditions/document'
import { all, condition, document } from '../core/testing/rules'
import { MIGRATIONS } from '../crash/setting'
import { Workspace } from '../server/engine/workspace'
import { evidenceFor } from '../server/views/evidence'
import { listPage } from '../server/engine/record-list'

export interface Plan {
  readonly what: string
  /** What SQLite says it does, a line a step. */
  readonly steps: readonly string[]
}

/** How SQLite goes about what screens ask: the statements that really run, by `EXPLAIN QUERY PLAN`. */
export function plans(dbFile: string): readonly Plan[] {
  const workspace = new Workspace({ dbFile, migrationsFolder: MIGRATIONS })
  const { sqlite } = workspace.db
  const prepare = sqlite.prepare.bind(sqlite)
  let heard: string[] = []
  const listening = ((text: string) => {
    heard.push(text)
    return prepare(text)
  }) as typeof sqlite.prepare
  sqlite.prepare = listening
  const explain = (what: string, work: () => unknown, wanted: RegExp): Plan => {
    heard = []
    work()
    const text = heard.find((one) => wanted.test(one))
    if (!text) throw new Error(`${what}: no such statement among ${heard.length}`)
    const marks = text.split('?').length - 1
    return {
      what,
      steps: (
        prepare(`EXPLAIN QUERY PLAN ${text}`).all(...Array.from({ length: marks }, () => 1)) as { detail: string }[]
      ).map((row) => row.detail),
    }
  }
  const page =
    (filter: Group, sort: string, down = false) =>
    () =>
      listPage(workspace, { object: 'deal', scope: null, filter, words: '', sort, down, offset: 0, limit: 100 })
  const open: Group = all({
    kind: 'linked',
    id: 'l1',
    object: 'deal',
    how: 'none',
    count: 1,
    group: { ...all(condition('stage', 'standing', { outcome: 'open' })), id: 'g1' },
  })
  try {
    return [
      explain('the table sorted by name', page(EMPTY_GROUP, 'name'), /ORDER BY k_\d+/),
      explain('the table sorted by amount, downwards', page(EMPTY_GROUP, 'amount', true), /ORDER BY .+ DESC/),
      explain(
        'the table, deals in one stage, sorted by name',
        page(all(condition('stage', 'is', { value: 'hp-quoted' })), 'name'),
        /ORDER BY k_\d+/,
      ),
      explain(
        'the table, one owner, sorted by amount',
        page(all(condition('owner', 'is', { value: 'rosa' })), 'amount'),
        /NULLS LAST/,
      ),
      explain(
        'the evidence with two conditions',
        () =>
          evidenceFor(
            workspace,
            document({
              when: [['created', {}]],
              onlyIf: all(
                condition('stage', 'is', { value: 'hp-quoted' }),
                condition('amount', 'moreThan', { value: 5 }),
              ),
              then: [],
            }),
          ),
        /<< 1/,
      ),
      explain(
        'the evidence: companies without an open deal',
        () => evidenceFor(workspace, document({ object: 'company', when: [['created', {}]], onlyIf: open, then: [] })),
        /FROM links/,
      ),
    ]
  } finally {
    workspace.close()
  }
}
