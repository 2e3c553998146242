import { describe, expect, it } from 'vitest'
import { document, enters, set, task } from '../../core/testing/rules'
import { OWNER } from '../../core/rules/who'
import { larkmoor, switchOn } from '../testing/workspace'
import { recordPage } from '../views/record'
import { deal } from './derived.setting'
import type { Workspace } from './workspace'

const told = (workspace: Workspace, personId: string) =>
  workspace.store.notices.of(personId, null, 50).map(({ id, subject, body }) => ({
    subject,
    body,
    more: workspace.store.notices.bundledWith(id, 50).count,
  }))
const quote = (workspace: Workspace, values: object = {}) => {
  const ref = deal(workspace, values)
  workspace.change(ref, { stage: 'hp-quoted' }, 'rosa')
  workspace.drain()
}
const divides = document(
  {
    when: [enters('hp-quoted')],
    then: [['setField', { field: 'amount', source: { from: 'formula', text: '1 / margin' } }]],
  },
  'Divides',
)

describe('what goes wrong', () => {
  it('is told at once to whoever changed the rule: a run that fails, with the reason', () => {
    const { workspace } = larkmoor()
    switchOn(workspace, divides)
    quote(workspace, { margin: 0 })
    expect(told(workspace, 'ines')).toEqual([
      { subject: 'Rule “Divides” failed', body: expect.stringContaining('it divides by zero') as string, more: 0 },
    ])
    expect(told(workspace, 'rosa')).toEqual([])
  })

  it('and a task that nobody is there for', () => {
    const { workspace } = larkmoor()
    switchOn(workspace, document({ when: [enters('hp-quoted')], then: [task('Ring')] }, 'Rings'))
    quote(workspace, { owner: null })
    expect(told(workspace, 'ines').map(({ subject }) => subject)).toEqual(['Rule “Rings” left something out'])
  })

  it('is one line for several within ten minutes, and another one once that was read or is long ago', () => {
    const { workspace, clock } = larkmoor()
    switchOn(workspace, divides)
    for (let i = 0; i < 5; i++) quote(workspace, { margin: 0 })
    expect(told(workspace, 'ines').map(({ more }) => more)).toEqual([4])
    expect(workspace.store.notices.unread('ines')).toBe(1)
    workspace.store.notices.read('ines', null, clock.nowMs())
    expect(workspace.store.notices.unread('ines')).toBe(0)
    quote(workspace, { margin: 0 })
    clock.set(clock.nowMs() + 11 * 60_000)
    quote(workspace, { margin: 0 })
    expect(told(workspace, 'ines').map(({ more }) => more)).toEqual([0, 0, 4])
  })

  it('what a rule tells people is bundled alike, and other rules stand for themselves', () => {
    const { workspace } = larkmoor()
    const tells = (name: string) =>
      document(
        { when: [enters('hp-quoted')], then: [['notify', { who: OWNER, subject: name, body: '', email: false }]] },
        name,
      )
    switchOn(workspace, tells('One'))
    switchOn(workspace, tells('Other'))
    for (let i = 0; i < 3; i++) quote(workspace)
    expect(told(workspace, 'rosa').map(({ subject, more }) => [subject, more])).toEqual([
      ['Other', 2],
      ['One', 2],
    ])
  })

  it('nothing is told of a run that does what it should', () => {
    const { workspace } = larkmoor()
    switchOn(workspace, document({ when: [enters('hp-quoted')], then: [set('units', 3)] }, 'Fine'))
    quote(workspace)
    expect(told(workspace, 'ines')).toEqual([])
  })

  it('says once on the timeline of its record that it failed', () => {
    const { workspace } = larkmoor()
    switchOn(workspace, divides)
    const ref = deal(workspace, { margin: 0 })
    workspace.change(ref, { stage: 'hp-quoted' }, 'rosa')
    const failed = recordPage(workspace, ref)?.timeline.flatMap((one) => (one.what === 'run' ? [one] : []))
    expect(failed).toMatchObject([
      { state: 'failed', text: expect.stringMatching(/^(?!failed).*divides by zero/) as string },
    ])
  })
})
