import { describe, expect, it } from 'vitest'
import { USUAL_TELLING, type Telling } from '../../core/telling/telling'
import { document, enters, type StepLine } from '../../core/testing/rules'
import { larkmoor, switchOn } from '../testing/workspace'
import { nextTold, tellOutside } from './tell-outside'
import type { Workspace } from './workspace'

const notify = (subject: string): StepLine => [
  'notify',
  { who: { by: 'person', person: 'ines' }, subject, body: 'Soon.', email: false },
]
function firm(telling: Partial<Telling>) {
  const { workspace, clock } = larkmoor()
  const wanted: Telling = { ...USUAL_TELLING, by: 'mail', daysOff: true, ...telling }
  workspace.store.tellings.set('ines', wanted, nextTold(workspace, 'ines', wanted, clock.nowMs()), clock.nowMs())
  switchOn(workspace, document({ when: [enters('hp-quoted')], then: [notify('Look at {{deal.name}}')] }))
  return { workspace, clock }
}
function quote(workspace: Workspace, name: string): void {
  const { ref } = workspace.create('deal', { name, stage: 'hp-sized', owner: 'rosa' }, [], 'rosa')
  workspace.change(ref, { stage: 'hp-quoted' }, 'rosa')
}
const gone = (workspace: Workspace) =>
  workspace.db.sqlite
    .prepare("SELECT channel, recipient, subject, body FROM outbox WHERE key LIKE 'told-%' ORDER BY id")
    .all()

describe('notifications outside of the app', () => {
  it('go by mail at once, once each', () => {
    const { workspace, clock } = firm({ often: 'now' })
    tellOutside(workspace)
    expect(gone(workspace)).toEqual([])
    quote(workspace, 'Two rooms')
    tellOutside(workspace)
    tellOutside(workspace)
    const email = workspace.catalogue().person('ines')?.email
    const first = { channel: 'mail', recipient: email, subject: 'Look at Two rooms' }
    expect(gone(workspace)).toMatchObject([first])
    clock.set(clock.nowMs() + 3_600_000)
    quote(workspace, 'Freezer')
    tellOutside(workspace)
    expect(gone(workspace)).toMatchObject([first, { subject: 'Look at Freezer' }])
  })

  it('go once a day as one list, without what was read meanwhile', () => {
    const { workspace, clock } = firm({ often: 'day' })
    quote(workspace, 'Two rooms')
    clock.set(clock.nowMs() + 3_600_000)
    quote(workspace, 'Freezer')
    tellOutside(workspace)
    expect(gone(workspace)).toEqual([])
    clock.set(clock.nowMs() + 26 * 3_600_000)
    tellOutside(workspace)
    expect(gone(workspace)).toMatchObject([{ subject: expect.stringMatching(/^2 notifications from/) as string }])
    quote(workspace, 'Fridge')
    workspace.store.notices.read('ines', null, clock.nowMs())
    clock.set(clock.nowMs() + 26 * 3_600_000)
    tellOutside(workspace)
    expect(gone(workspace)).toHaveLength(1)
  })

  it('go to a chat address as a text, which nobody is shown again', async () => {
    const { workspace } = firm({ by: 'chat', often: 'now' })
    workspace.store.tellings.setChat('ines', 'https://chat.larkmoor.example/hooks/very-secret')
    quote(workspace, 'Two rooms')
    tellOutside(workspace)
    expect(gone(workspace)).toMatchObject([
      { channel: 'web', recipient: 'ines', body: 'Look at Two rooms (Two rooms)\nSoon.' },
    ])
    const stored = workspace.db.sqlite.prepare('SELECT value FROM secrets').pluck().all().join(' ')
    expect(stored).not.toContain('very-secret')
    await workspace.courier.stop()
  })

  it('tell a specialist of problems, but for those that they want to hear nothing of', () => {
    const { workspace, clock } = firm({ often: 'now', muted: ['unowned'] })
    const found = { count: 3, ruleId: null, object: null, recordId: null, path: '/' }
    clock.set(clock.nowMs() + 1000)
    const note = (kind: string, says: string) =>
      workspace.store.problems.note({ ...found, kind, key: 'x', says }, clock.nowMs())
    note('disk', 'The disk is full')
    note('unowned', '3 deals have no owner')
    tellOutside(workspace)
    tellOutside(workspace)
    expect(gone(workspace)).toMatchObject([
      { subject: 'The disk is full', body: 'The disk is full (Problem, and 2 more)' },
    ])
  })

  it('say nothing of what came before they were wanted', () => {
    const { workspace, clock } = firm({ by: 'app' })
    quote(workspace, 'Two rooms')
    const wanted: Telling = { ...USUAL_TELLING, by: 'mail', often: 'now', daysOff: true }
    workspace.store.tellings.set('ines', wanted, clock.nowMs(), clock.nowMs())
    tellOutside(workspace)
    expect(gone(workspace)).toEqual([])
  })
})
