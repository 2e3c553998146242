import { describe, expect, it } from 'vitest'
import { EMPTY_GROUP } from '../../core/conditions/document'
import { document, enters, task } from '../../core/testing/rules'
import { larkmoor, switchOn } from '../testing/workspace'
import { runPage } from '../views/journal'
import { ruleLines } from '../views/rule-list'
import { ruleVersions } from '../views/versions'
import { runCases } from './cases'
import { planClock } from './clockwork'
import { retry } from './retry'
import type { Workspace } from './workspace'

const titles = (workspace: Workspace) =>
  workspace.store.tasks.list({ people: null, before: null, limit: 200 }).map((one) => one.title)
const broken = {
  ...document({ when: [enters('hp-quoted')], then: [] }, 'Odd one'),
  steps: [{ kind: 'teleport', id: 's1' }],
}
/** Puts a version into the database as a later release may have left it. */
function breakRule(workspace: Workspace, ruleId: number): void {
  const { sqlite } = workspace.db
  const { lastInsertRowid } = sqlite
    .prepare(
      "INSERT INTO rule_versions (rule_id, number, document, published_by, published_at, note) VALUES (?, 9, ?, 'ines', 0, '')",
    )
    .run(ruleId, JSON.stringify(broken))
  sqlite.prepare('UPDATE rules SET version_id = ? WHERE id = ?').run(lastInsertRowid, ruleId)
}

describe('a document that cannot be read', () => {
  it('of a rule is set aside by name, path and reason, and every other rule goes on', () => {
    const { workspace, reopen } = larkmoor()
    const odd = switchOn(workspace, document({ when: [enters('hp-quoted')], then: [task('Odd')] }, 'Odd one'))
    switchOn(workspace, document({ when: [enters('hp-quoted')], then: [task('Good')] }, 'Good one'))
    breakRule(workspace, odd)
    const again = reopen()
    planClock(again)
    const { ref } = again.create('deal', { name: 'Room', stage: 'hp-visit', owner: 'rosa' }, [], 'ines')
    again.change(ref, { stage: 'hp-quoted' }, 'ines')
    expect(titles(again)).toEqual(['Good'])
    expect(ruleLines(again).map((line) => [line.name, line.unreadable])).toEqual([
      ['Odd one', expect.stringMatching(/^Version 9 can’t be read and doesn’t run: steps\.0\.?\w*: /)],
      ['Good one', null],
    ])
    // What is published over it runs again.
    const rule = again.store.rules.get(odd)
    if (!rule) throw new Error('there is a rule')
    again.store.rules.publish(odd, rule.draft, 'ines', 0)
    again.rulesChanged()
    again.change(ref, { stage: 'hp-visit' }, 'ines')
    again.change(ref, { stage: 'hp-quoted' }, 'ines')
    expect(titles(again)).toContain('Odd')
  })

  it('of a draft leaves what runs alone, and a version can be restored over it', () => {
    const { workspace, reopen } = larkmoor()
    const odd = switchOn(workspace, document({ when: [enters('hp-quoted')], then: [task('Odd')] }, 'Odd one'))
    workspace.db.sqlite.prepare('UPDATE rules SET draft = ? WHERE id = ?').run(JSON.stringify(broken), odd)
    const again = reopen()
    const rule = again.store.rules.get(odd)
    if (!rule) throw new Error('there is a rule')
    expect(rule.draft.name).toBe('Odd one')
    expect(rule.draftProblem).toMatch(/^steps\.0/)
    expect(ruleVersions(again, rule)).toMatchObject({ draftDiffers: true, versions: [{ number: 1, problem: null }] })
    expect(again.store.rules.stored(odd, 'draft')).toEqual(broken)
    const { ref } = again.create('deal', { name: 'Room', stage: 'hp-visit', owner: 'rosa' }, [], 'ines')
    again.change(ref, { stage: 'hp-quoted' }, 'ines')
    expect(titles(again)).toEqual(['Odd'])
  })

  it('fails a run that waits by it, which can be tried again once it can be read', () => {
    const { workspace, reopen } = larkmoor()
    const odd = switchOn(
      workspace,
      document(
        {
          when: [enters('hp-quoted')],
          then: [
            [
              'waitFor',
              { field: 'units', how: 'filled', to: null, most: { count: 90, unit: 'days' }, recheck: true },
            ] as never,
            task('Later'),
          ],
        },
        'Waits',
      ),
    )
    const { ref } = workspace.create('deal', { name: 'Room', stage: 'hp-visit', owner: 'rosa' }, [], 'ines')
    const [report] = workspace.change(ref, { stage: 'hp-quoted' }, 'ines').reports
    const runId = report?.runId ?? 0
    expect(workspace.store.runs.get(runId)?.state).toBe('waiting')
    const { versionId } = workspace.store.runs.get(runId) ?? { versionId: 0 }
    const { sqlite } = workspace.db
    const good = sqlite.prepare('SELECT document FROM rule_versions WHERE id = ?').pluck().get(versionId) as string
    sqlite.exec('DROP TRIGGER rule_versions_stay')
    const write = (text: string) =>
      sqlite.prepare('UPDATE rule_versions SET document = ? WHERE id = ?').run(text, versionId)
    write(JSON.stringify(broken))
    const again = reopen()
    again.change(ref, { units: 4 }, 'ines')
    expect(again.store.runs.get(runId)).toMatchObject({ state: 'failed', stop: { code: 'unreadable' } })
    expect(again.store.waits.ofRun(runId)).toEqual([])
    const page = runPage(again, runId)
    expect(page?.outcome).toBe('the version of the rule that it began with can’t be read')
    expect(page?.notes[0]).toMatch(/^Version 1 of the rule can’t be read: steps\.0/)
    expect(retry(again, runId, 'ines')).toBeNull()
    write(good)
    const mended = reopen()
    retry(mended, runId, 'ines')
    expect(mended.store.runs.get(runId)?.state).toBe('waiting')
    expect(odd).toBe(1)
  })

  it('of a segment, a test case or a line of the journal takes nothing with it', () => {
    const { workspace } = larkmoor()
    const rule = switchOn(workspace, document({ when: [enters('hp-quoted')], then: [task('Ring')] }, 'Ring'))
    const { ref } = workspace.create('deal', { name: 'Room', stage: 'hp-visit', owner: 'rosa' }, [], 'ines')
    const [report] = workspace.change(ref, { stage: 'hp-quoted' }, 'ines').reports
    const { segments, cases } = workspace.store
    const given = { object: 'deal', filter: EMPTY_GROUP, columns: [], sort: 'name', down: false } as const
    segments.add({ ...given, name: 'Fine' }, 'ines', 0)
    const odd = segments.add({ ...given, name: 'Odd', filter: { kind: 'teleport' } as never }, 'ines', 0)
    expect(segments.all('deal').map((one) => one.name)).toEqual(['Fine', 'Odd (filter can’t be read)'])
    const { filter } = segments.get(odd) ?? given
    expect(workspace.world.matching('deal', filter, 0, 10)).toEqual([])

    cases.add({ name: 'Old', ruleIds: [rule], document: { format: 7 } as never, changedBy: 'ines', changedAt: 0 })
    expect(runCases(workspace, { ruleId: rule, document: null })).toEqual([
      expect.objectContaining({ name: 'Old', wrong: [expect.stringMatching(/^Can’t run: format: /)] }),
    ])

    workspace.db.sqlite
      .prepare('UPDATE run_steps SET result = ? WHERE run_id = ?')
      .run(JSON.stringify({ state: 'done', wrote: [{ what: 'teleported', to: 'Mars' }] }), report?.runId)
    expect(JSON.stringify(runPage(workspace, report?.runId ?? 0)?.steps)).toContain(
      '“teleported” can’t be read: it is no kind of effect',
    )
  })
})
