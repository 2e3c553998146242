import Database from 'better-sqlite3'
import { describe, expect, it } from 'vitest'
import { EMPTY_GROUP } from '../../core/conditions/document'
import { all, condition, document, enters, move, set, task } from '../../core/testing/rules'
import { larkmoor, MIGRATIONS, switchOn } from '../testing/workspace'
import { board } from '../views/board'
import { evidenceFor } from '../views/evidence'
import { journalPage, runPage } from '../views/journal'
import { listPage } from './record-list'
import { recordPage } from '../views/record'
import { EmptyWorkspaceError, RefusedError, Workspace } from './workspace'
import type { LiveMessage } from './live'

const deal = (workspace: Workspace, values: Readonly<Record<string, string | number | null>> = {}) =>
  workspace.create('deal', { name: 'Two rooms', stage: 'hp-sized', owner: 'rosa', ...values }, [], 'ines').ref

describe('a workspace on SQLite', () => {
  it('commits record, history and event together, and rules make their task', () => {
    const { workspace } = larkmoor()
    const rule = switchOn(
      workspace,
      document(
        { when: [enters('hp-quoted')], then: [set('units', 3), task('Ring {{deal.name}}', { email: true })] },
        'Quoted',
      ),
    )
    const ref = deal(workspace)
    const { event, reports } = workspace.change(ref, { stage: 'hp-quoted' }, 'rosa')
    expect(event).toMatchObject({ kind: 'changed', depth: 0, cause: { by: 'person', personId: 'rosa' } })
    expect(reports).toMatchObject([{ ruleId: rule, state: 'done' }])
    expect(workspace.store.records.read(ref)?.values).toMatchObject({ stage: 'hp-quoted', pipeline: 'hp', units: 3 })
    const [made] = workspace.store.tasks.ofRecord(ref)
    expect(made).toMatchObject({
      title: 'Ring Two rooms',
      assigneeId: 'rosa',
      state: 'open',
      because: 'the deal moved from Sized to Quoted',
    })
    const writers = recordPage(workspace, ref)?.writers
    expect(writers?.units?.doer).toMatchObject({ by: 'rule', name: 'Quoted' })
    expect(writers?.stage?.doer).toMatchObject({ by: 'person', name: 'Rosa Amara' })
    const history = workspace.db.sqlite
      .prepare('SELECT count(*) AS n FROM history WHERE event_seq = ?')
      .get(event?.seq) as { n: number }
    expect(history.n).toBe(event?.changes.length)
  })

  it('tells open screens what changed and what rules did', () => {
    const { workspace } = larkmoor()
    switchOn(workspace, document({ when: [enters('hp-quoted')], then: [task('Ring')] }, 'Quoted'))
    const ref = deal(workspace)
    const heard: LiveMessage[] = []
    const stop = workspace.live.listen(({ message }) => heard.push(message))
    workspace.live.listen(() => {
      throw new Error('a window that went away')
    })
    workspace.change(ref, { stage: 'hp-quoted' }, 'rosa')
    stop()
    workspace.change(ref, { units: 9 }, 'rosa')
    expect(heard).toMatchObject([
      { about: 'records', refs: [ref] },
      {
        about: 'run',
        ruleName: 'Quoted',
        recordName: 'Two rooms',
        text: 'created task for Rosa Amara, due 26 Nov: “Ring”',
      },
      { about: 'tasks', people: ['rosa'] },
    ])
  })

  it('after a crash between change and rules, the next start makes every task exactly once', () => {
    const { workspace, reopen } = larkmoor()
    switchOn(workspace, document({ when: [enters('hp-quoted')], then: [task('Ring')] }))
    const ref = deal(workspace)
    // The change is committed; the process dies before any rule has seen it.
    workspace.world.write(
      ref,
      { stage: 'hp-quoted' },
      { by: 'person', personId: 'rosa' },
      { chainId: 'crash', depth: 0 },
    )
    workspace.close()
    const second = reopen()
    expect(second.drain()).toMatchObject([{ state: 'done' }])
    second.close()
    const third = reopen()
    expect(third.drain()).toEqual([])
    expect(third.store.tasks.ofRecord(ref)).toHaveLength(1)
  })

  it('a commit that breaks off leaves nothing behind, and the event waits', () => {
    const { workspace } = larkmoor()
    switchOn(workspace, document({ when: [enters('hp-quoted')], then: [task('Ring'), set('units', 4)] }))
    const ref = deal(workspace)
    workspace.db.sqlite.exec(
      "CREATE TRIGGER full_disk BEFORE INSERT ON runs BEGIN SELECT RAISE(ABORT, 'database or disk is full'); END",
    )
    expect(() => workspace.change(ref, { stage: 'hp-quoted' }, 'rosa')).toThrow('database or disk is full')
    expect(workspace.store.tasks.ofRecord(ref)).toEqual([])
    expect(workspace.store.records.read(ref)?.values).toMatchObject({ stage: 'hp-quoted', units: null })
    workspace.db.sqlite.exec('DROP TRIGGER full_disk')
    expect(workspace.drain()).toMatchObject([{ state: 'done' }])
    expect(workspace.store.tasks.ofRecord(ref)).toHaveLength(1)
    expect(workspace.db.sqlite.pragma('integrity_check', { simple: true })).toBe('ok')
  })

  it('a run that throws fails alone: what it wrote is gone, what the others wrote is there once', () => {
    const { workspace } = larkmoor()
    switchOn(workspace, document({ when: [enters('hp-quoted')], then: [task('First')] }, 'One'))
    const broken = switchOn(
      workspace,
      document({ when: [enters('hp-quoted')], then: [set('units', 4), task('Cursed')] }, 'Two'),
    )
    switchOn(workspace, document({ when: [enters('hp-quoted')], then: [task('Last')] }, 'Three'))
    const ref = deal(workspace)
    workspace.db.sqlite.exec(
      "CREATE TRIGGER cursed BEFORE INSERT ON tasks WHEN new.title = 'Cursed' BEGIN SELECT RAISE(ABORT, 'cursed'); END",
    )
    const { reports } = workspace.change(ref, { stage: 'hp-quoted' }, 'rosa')
    expect(reports.map((report) => [report.ruleName, report.state])).toEqual([
      ['One', 'done'],
      ['Two', 'failed'],
      ['Three', 'done'],
    ])
    expect(runPage(workspace, reports[1]?.runId ?? 0)).toMatchObject({ ruleId: broken, state: 'failed' })
    expect(
      workspace.store.tasks
        .ofRecord(ref)
        .map((one) => one.title)
        .sort(),
    ).toEqual(['First', 'Last'])
    expect(workspace.store.records.read(ref)?.values).toMatchObject({ stage: 'hp-quoted', units: null })
    expect(workspace.store.events.ofRecord(ref, 10)).toHaveLength(2)
  })

  it('keeps what it read only as long as nobody else can have written', () => {
    const { workspace, reopen } = larkmoor()
    const other = reopen()
    const ref = deal(workspace)
    const cause = { by: 'person', personId: 'rosa' } as const
    const units = () => workspace.world.read(ref)?.values.units
    workspace.world.write(ref, { units: 1 }, cause, { chainId: 'a', depth: 0 })
    expect(units()).toBe(1)
    other.world.write(ref, { units: 2 }, cause, { chainId: 'b', depth: 0 })
    expect(units()).toBe(2)
    workspace.db.atomically(() => {
      expect(() =>
        workspace.db.atomically(() => {
          workspace.world.write(ref, { units: 3 }, cause, { chainId: 'c', depth: 0 })
          expect(units()).toBe(3)
          throw new Error('dropped')
        }),
      ).toThrow('dropped')
      expect(units()).toBe(2)
    })
    other.world.write(ref, { units: 4 }, cause, { chainId: 'd', depth: 0 })
    workspace.db.atomically(() => {
      expect(units()).toBe(4)
    })
  })

  it('delivers a message once although the receiver fails, and although we crash after delivering', async () => {
    const { workspace, clock, reopen } = larkmoor()
    switchOn(workspace, document({ when: [enters('hp-quoted')], then: [task('Ring', { email: true })] }))
    const ref = deal(workspace)
    workspace.close()
    const received: string[] = []
    let down = true
    const second = reopen((message) => {
      if (down) throw new Error('no route to host')
      received.push(message.key)
    })
    second.change(ref, { stage: 'hp-quoted' }, 'rosa')
    await second.courier.run()
    const [run] = journalPage(second, { limit: 1 }).lines
    expect(second.store.outbox.ofRun(run?.id ?? 0)).toMatchObject([
      { state: 'pending', attempts: 1, lastError: 'no route to host' },
    ])
    expect(await second.courier.run()).toBe(0)
    down = false
    clock.set(clock.nowMs() + 10_000)
    expect(await second.courier.run()).toBe(1)
    expect(await second.courier.run()).toBe(0)
    expect(received).toEqual([`run-${run?.id}-s1`])
    // The note of the delivery is lost; the stand-in mailbox drops the repeat by its key.
    second.db.sqlite.exec("UPDATE outbox SET state = 'pending', next_at = 0")
    second.close()
    const third = reopen()
    await third.courier.run()
    third.db.sqlite.exec("UPDATE outbox SET state = 'pending', next_at = 0")
    await third.courier.run()
    expect(third.db.sqlite.prepare('SELECT count(*) AS n FROM stand_in_mail').get()).toEqual({ n: 1 })
  })

  it('gives a message up after its last try', async () => {
    const { workspace, clock, reopen } = larkmoor()
    switchOn(workspace, document({ when: [enters('hp-quoted')], then: [task('Ring', { email: true })] }))
    const ref = deal(workspace)
    workspace.close()
    const second = reopen(() => {
      throw new Error('down for good')
    })
    second.change(ref, { stage: 'hp-quoted' }, 'rosa')
    for (let i = 0; i < 8; i++) {
      clock.set(clock.nowMs() + 24 * 3_600_000)
      await second.courier.run()
    }
    expect(second.db.sqlite.prepare('SELECT state, attempts FROM outbox').get()).toEqual({
      state: 'givenUp',
      attempts: 6,
    })
  })

  it('refuses values with every reason and writes nothing', () => {
    const { workspace } = larkmoor()
    const ref = deal(workspace)
    try {
      workspace.change(ref, { amount: 'much', pipeline: 'enq', units: 5 }, 'ines')
      expect.unreachable()
    } catch (error) {
      expect(error).toBeInstanceOf(RefusedError)
      expect((error as RefusedError).problems.map((problem) => problem.path)).toEqual(['amount', 'pipeline'])
    }
    expect(workspace.store.records.read(ref)?.values.units).toBeNull()
  })

  it('keeps published versions and the log of changes as they are, whoever tries', () => {
    const { workspace } = larkmoor()
    const id = switchOn(workspace, document({ when: [enters('hp-quoted')], then: [task('Ring')] }))
    const { sqlite } = workspace.db
    expect(() => sqlite.exec(`UPDATE rule_versions SET document = '{}' WHERE rule_id = ${id}`)).toThrow(
      'cannot be changed',
    )
    expect(() => sqlite.exec('DELETE FROM rule_versions')).toThrow('cannot be deleted')
    deal(workspace)
    expect(() => sqlite.exec('UPDATE events SET depth = 7')).toThrow('only ever added to')
  })

  it('a run keeps the version it ran with when the rule is published anew', () => {
    const { workspace } = larkmoor()
    const first = document({ when: [enters('hp-quoted')], then: [set('units', 1)] }, 'First name')
    const id = switchOn(workspace, first)
    const ref = deal(workspace)
    workspace.change(ref, { stage: 'hp-quoted' }, 'ines')
    const next = { ...first, name: 'Second name' }
    workspace.store.rules.saveDraft(id, next, 1, 'ines', 1)
    expect(workspace.store.rules.publish(id, next, 'ines', 1)).toBe(2)
    workspace.rulesChanged()
    const [line] = journalPage(workspace, { limit: 1 }).lines
    expect(runPage(workspace, line?.id ?? 0)).toMatchObject({
      ruleName: 'First name',
      version: 1,
      because: 'the deal moved from Sized to Quoted',
    })
    expect(workspace.store.rules.saveDraft(id, first, 1, 'ines', 1)).toBeNull()
  })

  it('shows a cut circle with its whole chain', () => {
    const { workspace } = larkmoor()
    switchOn(workspace, document({ when: [enters('hp-terms')], then: [move('hp-sized')] }, 'Back'))
    switchOn(workspace, document({ when: [enters('hp-sized')], then: [move('hp-terms')] }, 'Forth'))
    const ref = deal(workspace, { stage: 'hp-visit' })
    const { reports } = workspace.change(ref, { stage: 'hp-terms' }, 'ines')
    const page = runPage(workspace, reports.at(-1)?.runId ?? 0)
    expect(page?.stop).toContain('to prevent a loop: the rule already ran for this record in this chain (run 1)')
    expect(page?.chain.map((entry) => `${entry.depth} ${entry.what} ${entry.text}`.slice(0, 44))).toEqual([
      '0 change Ines Calloway: stage: Site visit → ',
      '0 run Back: done',
      '1 change Back: stage: Terms → Sized',
      '1 run Forth: done',
      '2 change Forth: stage: Sized → Terms',
      '2 run Back: to prevent a loop: the rule alre',
    ])
  })

  it('sees choices and links, and fills merge fields from the main linked records', () => {
    const { workspace } = larkmoor()
    const { ref: company } = workspace.create('company', { name: 'Lund' }, [], 'ines')
    const { ref: contact } = workspace.create(
      'contact',
      { name: 'Ida', email: 'IDA@lund.example', optedOut: false },
      [company],
      'ines',
    )
    switchOn(
      workspace,
      document({ when: [['created', {}]], then: [task('Greet {{contact.name}} of {{company.name}}')] }),
    )
    const { ref } = workspace.create(
      'deal',
      { name: 'D', stage: 'hp-visit', owner: 'piet' },
      [company, contact],
      'ines',
    )
    expect(workspace.store.tasks.ofRecord(ref)).toMatchObject([{ title: 'Greet Ida of Lund', assigneeId: 'rosa' }])
    expect(workspace.store.records.read(contact)?.values).toMatchObject({ email: 'ida@lund.example', optedOut: false })
    expect(recordPage(workspace, company)?.links.map((link) => link.name)).toEqual(['Ida', 'D'])
    workspace.store.links.add(ref, company, '', 1)
    expect(workspace.store.links.of(ref)).toHaveLength(2)
    expect(() => workspace.store.links.add(company, ref, '', 1)).toThrow(RangeError)
  })

  it('an empty file is an empty workspace, and says how to fill it', () => {
    const workspace = new Workspace({ dbFile: ':memory:', migrationsFolder: MIGRATIONS })
    expect(() => workspace.catalogue()).toThrow(EmptyWorkspaceError)
    workspace.close()
  })

  it('waits for another writer instead of failing', () => {
    const { workspace, dbFile } = larkmoor()
    const ref = deal(workspace)
    const other = new Database(dbFile)
    other.exec('BEGIN IMMEDIATE')
    workspace.db.sqlite.pragma('busy_timeout = 50')
    expect(() => workspace.change(ref, { units: 1 }, 'ines')).toThrow('database is locked')
    other.exec('COMMIT')
    other.close()
    expect(workspace.change(ref, { units: 1 }, 'ines').event).not.toBeNull()
  })
})

describe('what screens read', () => {
  it('the ledger filters, sorts with empty ones last, and pages', () => {
    const { workspace } = larkmoor()
    for (const amount of [300, null, 100, 200]) deal(workspace, { name: `Deal ${amount}`, amount })
    const page = (more: object) =>
      listPage(workspace, {
        object: 'deal',
        scope: null,
        filter: EMPTY_GROUP,
        words: '',
        sort: 'amount',
        down: false,
        offset: 0,
        limit: 10,
        ...more,
      })
    expect(page({}).rows.map((row) => row.values.amount)).toEqual([100, 200, 300, null])
    expect(page({ down: true }).rows.map((row) => row.values.amount)).toEqual([300, 200, 100, null])
    expect(page({ offset: 1, limit: 2 }).rows.map((row) => row.values.amount)).toEqual([200, 300])
    expect(page({ words: 'DEAL 3' })).toMatchObject({ total: 4, matched: 1 })
    expect(page({ filter: all(condition('amount', 'moreThan', { value: 150 })) }).matched).toBe(2)
    expect(page({ sort: 'owner' }).rows).toHaveLength(4)
  })

  it('evidence counts what matches, what each condition lets through, and the nearest misses first', () => {
    const { workspace } = larkmoor()
    for (const amount of [90, 50, 99, 120, 200]) deal(workspace, { amount, kind: amount === 200 ? null : 'hire' })
    const rule = document({
      when: [enters('hp-sized')],
      onlyIf: all(
        condition('amount', 'moreThan', { value: 100 }, false, 'a'),
        condition('kind', 'is', { value: 'hire' }, false, 'k'),
      ),
      then: [set('units', 1)],
    })
    const found = evidenceFor(workspace, rule)
    expect(found).toMatchObject({ total: 5, matched: 1, near: 4, alone: { a: 2, k: 4 }, started: { t1: 5 } })
    expect(found.misses.map((miss) => [miss.values.amount, miss.missId, miss.why])).toEqual([
      [99, 'a', '€99: €1 below the limit'],
      [90, 'a', '€90: €10 below the limit'],
      [50, 'a', '€50: €50 below the limit'],
      [200, 'k', 'empty'],
    ])
  })

  it('the board sums by currency and ages by stage', () => {
    const { workspace, clock } = larkmoor()
    deal(workspace, { amount: 100 })
    deal(workspace, { amount: 50, currency: 'cad' })
    clock.set(clock.nowMs() + 9 * 86_400_000)
    deal(workspace, { amount: 1, owner: 'jude' })
    const sized = board(workspace, 'hp', null).find((stage) => stage.stage.id === 'hp-sized')
    expect(sized).toMatchObject({
      count: 3,
      sums: [
        { currency: 'EUR', sum: 101 },
        { currency: 'CAD', sum: 50 },
      ],
      ages: [1, 2, 0, 0],
    })
    expect(board(workspace, 'hp', 'jude').find((stage) => stage.stage.id === 'hp-sized')?.count).toBe(1)
  })
})
