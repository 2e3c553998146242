import { describe, expect, it } from 'vitest'
import type { Ask, Group } from '../../core/conditions/document'
import { sayProblem } from '../../core/language/problems'
import { all, condition, document, task } from '../../core/testing/rules'
import { checkRule } from '../../core/rules/check'
import { refusal } from '../testing/refusal'
import { larkmoor, switchOn } from '../testing/workspace'
import { changeSegment, makeSegment, removeSegment } from './segments'
import { control, deal, stale, titles } from './derived.setting'
import { workDerived } from './derived'
import { roll } from './derived-more.setting'
import type { Workspace } from './workspace'

const inside = (segment: number, not = false): Ask => ({ kind: 'inSegment', id: 'a1', not, segment })
const holds = (text: string, not = false): Ask => ({ kind: 'formula', id: 'a2', not, text })
const group = (...items: Group['items']): Group => ({ kind: 'group', id: 'c0', mode: 'all', items })
const segment = (workspace: Workspace, name: string, filter: Group, object: 'deal' | 'company' = 'deal'): number =>
  makeSegment(workspace, { object, name, filter, columns: [], sort: '', down: false }, 'ines')
const large = (value = 1000): Group => all(condition('amount', 'moreThan', { value }))
const on = (onlyIf: Group, title: string) =>
  document(
    {
      when: [['fieldChanges', { field: 'units', how: 'anything', from: null, to: null }]],
      onlyIf,
      then: [task(title, { again: true })],
    },
    title,
  )

describe('a rule that asks about the record as a whole', () => {
  it('goes by the segment as it is then, and by a formula, either way round', () => {
    const { workspace } = larkmoor()
    const id = segment(workspace, 'Large', large())
    switchOn(workspace, on(group(inside(id)), 'In it'))
    switchOn(workspace, on(group(inside(id, true)), 'Not in it'))
    switchOn(workspace, on(group(holds('amount > 3 * margin')), 'Cheap'))
    const ref = deal(workspace, { amount: 5000, margin: 2000 })
    workspace.change(ref, { units: 1 }, 'ines')
    expect(titles(workspace)).toEqual(['In it'])
    workspace.change(ref, { margin: 1000 }, 'ines')
    workspace.change(ref, { units: 2 }, 'ines')
    expect(titles(workspace)).toEqual(['In it', 'In it', 'Cheap'])
    const other = workspace.store.segments.get(id)
    if (other) changeSegment(workspace, other, { filter: large(9000) }, 'ines')
    workspace.change(ref, { units: 3 }, 'ines')
    expect(titles(workspace).slice(3)).toEqual(['Not in it', 'Cheap'])
    // No field was made for it: a segment is kept in one only where a trigger watches it.
    expect(workspace.catalogue().data.fields.filter(({ made }) => made)).toEqual([])
    const run = workspace.store.runs.list({ limit: 50 }).find(({ stop }) => stop?.code === 'conditions')
    expect(run?.seen[0]).toMatchObject({ text: 'it is in the segment “Large”', value: 'not in it', holds: false })
  })

  it('says what is missing or is no question', () => {
    const { workspace } = larkmoor()
    const firms = segment(workspace, 'Firms', all(), 'company')
    const said = (ask: Ask) =>
      checkRule(on(group(ask), 'x'), workspace.catalogue()).map(({ problem }) => sayProblem(problem))
    expect(said(inside(99))[0]).toContain('segment')
    expect(said(inside(firms))[0]).toContain('Firms')
    expect(said(holds(''))[0]).toContain('formula')
    expect(said(holds('amount *'))[0]).not.toBe(undefined)
    expect(said(holds('amount * 2'))[0]).toContain('true or false. This one gives a number')
    expect(said(holds('amount > 2'))).toEqual([])
  })
})

describe('a segment that others ask about', () => {
  it('is neither deleted nor turned upon itself while they do', () => {
    const { workspace } = larkmoor()
    const id = segment(workspace, 'Large', large())
    const other = segment(workspace, 'Others', group(inside(id, true)))
    const known = workspace.store.segments.get(id)!
    expect(refusal(() => removeSegment(workspace, id))).toContain('used by the segment “Others”')
    expect(refusal(() => changeSegment(workspace, known, { filter: group(inside(other)) }, 'ines'))).toContain(
      'can’t ask about itself',
    )
    expect(refusal(() => segment(workspace, 'Bad', group(holds('amount'))))).toContain('filter.a2.text: notTrueOrFalse')
    removeSegment(workspace, other)
    const rule = switchOn(workspace, on(group(inside(id)), 'By it'))
    expect(refusal(() => removeSegment(workspace, id))).toContain('By it')
    expect(rule).toBeGreaterThan(0)
  })

  it('has what hangs on it worked out anew when it changes, and when its records do', async () => {
    const { workspace } = larkmoor()
    const firm = workspace.create('company', { name: 'Lund', owner: 'rosa' }, [], 'ines').ref
    const id = segment(workspace, 'Large', large())
    const ref = deal(workspace, { amount: 5000 }, [firm])
    roll(workspace, 'Large deals', { where: group(inside(id)) })
    await workDerived(workspace, control)
    const count = () => workspace.world.read(firm)?.values.largeDeals
    expect(count()).toBe(1)
    workspace.change(ref, { amount: 10 }, 'ines')
    expect(count()).toBe(0)
    changeSegment(workspace, workspace.store.segments.get(id)!, { filter: large(5) }, 'ines')
    await workDerived(workspace, control)
    expect([count(), stale(workspace)]).toEqual([1, []])
    expect(refusal(() => removeSegment(workspace, id))).toContain('used by the field “Large deals”')
  })
})
