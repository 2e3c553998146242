import { describe, expect, it } from 'vitest'
import { checkRule } from '../../core/rules/check'
import { ruleFor, sayHabit } from '../../core/habits/as-rule'
import { document, enters } from '../../core/testing/rules'
import { larkmoor, switchOn } from '../testing/workspace'
import { suggestions } from '../views/habits'
import { searchHabits } from './habits'
import { REHEARSED_EVENTS_MOST, rehearseBack } from './rehearse-back'
import type { Workspace } from './workspace'

const control = { awaited: () => false, nowMs: () => 0, pause: () => Promise.resolve() }
const DAY = 86_400_000

/** Forty deals that are labelled by hand after they are quoted, but for every tenth; and much else beside it. */
function labelled(by: 'hand' | 'rule' = 'hand') {
  const { workspace, clock } = larkmoor()
  if (by === 'rule')
    switchOn(
      workspace,
      document({
        when: [enters('hp-quoted')],
        then: [['changeLabels', { how: 'add', labels: ['press'], field: 'labels' }]],
      }),
    )
  for (let i = 0; i < 40; i++) {
    const values = { name: `Deal ${i}`, stage: 'hp-sized', owner: 'rosa', amount: 1000 + i * 777 }
    const { ref } = workspace.create('deal', values, [], 'ines')
    clock.set(clock.nowMs() + DAY / 2)
    workspace.change(ref, { kind: i % 3 === 0 ? 'hire' : 'purchase' }, 'rosa')
    clock.set(clock.nowMs() + DAY * (2 + ((i * 7) % 13)))
    workspace.change(ref, { stage: 'hp-quoted' }, 'rosa')
    clock.set(clock.nowMs() + DAY / 3)
    if (by === 'hand' && i % 10 !== 9) workspace.change(ref, { labels: ['press'] }, 'rosa')
    clock.set(clock.nowMs() + DAY)
  }
  clock.set(clock.nowMs() + 10 * DAY)
  return { workspace, clock }
}
const said = (workspace: Workspace) =>
  workspace.store.habits.open().map(({ habit, object }) => sayHabit(habit, object, workspace.catalogue()))

describe('what people do again and again', () => {
  it('is found, with what a rule would have done, and becomes a rule that can be switched on', async () => {
    const { workspace } = labelled()
    await searchHabits(workspace, control)
    expect(said(workspace)).toEqual([
      expect.stringMatching(/^After a deal enters Quoted, someone adds “Press” within 1 day \(\d+ of \d+ deals\)\.$/),
    ])
    const [row] = workspace.store.habits.open()
    if (!row) throw new Error('nothing found')
    expect(row.past).toMatchObject({ days: 90, missed: 0, rehearsed: true })
    expect(row.past.right + row.past.tooMuch).toBeGreaterThan(5)
    expect(row.past.right / (row.past.right + row.past.tooMuch)).toBeGreaterThan(0.8)
    expect(row.habit.not).toHaveLength(row.habit.of - row.habit.followed)
    const rule = ruleFor(row.habit, 'deal', workspace.catalogue())
    if (!rule) throw new Error('no rule')
    expect(rule.name).toBe('A deal enters Quoted: add “Press”')
    expect(checkRule(rule, workspace.catalogue())).toEqual([])
  })

  it('is not told where a rule does it already, or did', async () => {
    const { workspace } = labelled()
    switchOn(
      workspace,
      document({
        when: [enters('hp-signed')],
        then: [['changeLabels', { how: 'add', labels: ['press'], field: 'labels' }]],
      }),
    )
    await searchHabits(workspace, control)
    expect(said(workspace)).toEqual([])
    const byRule = labelled('rule')
    await searchHabits(byRule.workspace, control)
    expect(said(byRule.workspace)).toEqual([])
  })

  it('stays away once it was put aside, whatever is searched again', async () => {
    const { workspace, clock } = labelled()
    await searchHabits(workspace, control)
    workspace.store.habits.dismiss(workspace.store.habits.open()[0]?.id ?? 0, 'ines')
    clock.set(clock.nowMs() + DAY + 1)
    await searchHabits(workspace, control)
    expect(said(workspace)).toEqual([])
  })

  it('can be stopped, and is begun again when somebody asks', async () => {
    const { workspace } = labelled()
    workspace.store.habits.ask('begin', workspace.clock.nowMs())
    // So many that they are read in several pieces.
    workspace.db.sqlite.exec(`WITH RECURSIVE n (i) AS (SELECT 1 UNION ALL SELECT i + 1 FROM n WHERE i < 60)
      INSERT INTO events (at_ms, kind, object, record_id, changes, cause, chain_id, depth, rules_off)
      SELECT at_ms, kind, object, record_id + 1000 * i, changes, cause, chain_id, depth, rules_off FROM events, n`)
    let pauses = 0
    await searchHabits(workspace, {
      ...control,
      pause() {
        pauses++
        workspace.store.habits.ask('stop', workspace.clock.nowMs())
        return Promise.resolve()
      },
    })
    expect(pauses).toBe(1)
    expect(workspace.store.habits.search()).toMatchObject({ state: 'stopped', asked: null })
    await searchHabits(workspace, control)
    expect(workspace.store.habits.search()?.state).toBe('stopped')
    workspace.store.habits.ask('begin', workspace.clock.nowMs())
    await searchHabits(workspace, control)
    expect(workspace.store.habits.search()?.state).toBe('done')
  })

  it('is rehearsed on what happened, or counted where there is too much of it, and the page says which', async () => {
    const { workspace } = labelled()
    await searchHabits(workspace, control)
    expect(suggestions(workspace).suggestions[0]?.past.rehearsed).toBe(true)
    const rule = ruleFor(workspace.store.habits.open()[0]!.habit, 'deal', workspace.catalogue())
    if (!rule) throw new Error('no rule')
    const acts = await rehearseBack(workspace, rule, 90, control)
    // Once for each deal that was quoted in those days, and nothing of it is written.
    const quoted = workspace.store.records
      .behind('deal', 0, 100)
      .filter(
        ({ values }) => values.stage === 'hp-quoted' && Number(values.stageSince) > workspace.clock.nowMs() - 90 * DAY,
      )
    expect(acts?.size).toBe(quoted.length)
    expect([...(acts?.values() ?? [])].every((times) => times.length === 1)).toBe(true)
    expect(workspace.store.runs.list({ limit: 9 })).toEqual([])
    workspace.db.sqlite
      .exec(`WITH RECURSIVE n (i) AS (SELECT 1 UNION ALL SELECT i + 1 FROM n WHERE i < ${REHEARSED_EVENTS_MOST})
      INSERT INTO events (at_ms, kind, object, record_id, changes, cause, chain_id, depth, rules_off)
      SELECT ${workspace.clock.nowMs() - DAY}, 'changed', 'company', 9, '[]', '{"by":"person","personId":"rosa"}', i, 0, 1 FROM n`)
    expect(await rehearseBack(workspace, rule, 90, control)).toBe(null)
    workspace.store.habits.ask('begin', workspace.clock.nowMs())
    await searchHabits(workspace, control)
    expect(suggestions(workspace).suggestions[0]?.past.rehearsed).toBe(false)
  })
})
