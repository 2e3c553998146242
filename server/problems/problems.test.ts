import { afterEach, describe, expect, it, vi } from 'vitest'
import { document, enters, set, task, type StepLine } from '../../core/testing/rules'
import { rules as rulesTable } from '../db/schema/rules'
import { larkmoor, switchOn } from '../testing/workspace'
import type { Workspace } from '../engine/workspace'
import { eq } from 'drizzle-orm'
import { STEPS } from '../../core/rules/steps'
import { PROBLEMS, lookForProblems } from '.'

const callStart = STEPS.makeCall.start

afterEach(() => vi.unstubAllEnvs())

const MINUTE = 60_000
const DAY = 86_400_000
const of = (workspace: Workspace, kind: string) => workspace.store.problems.all().filter((one) => one.kind === kind)
const says = (workspace: Workspace, kind: string) => of(workspace, kind).map((one) => one.says)

/** A workspace without problems of its own: everybody owned, nobody left. */
function quiet() {
  const { workspace, clock } = larkmoor()
  lookForProblems(workspace)
  const tick = (ms = MINUTE): void => {
    clock.set(clock.nowMs() + ms)
    lookForProblems(workspace)
  }
  return { workspace, clock, tick }
}
function deal(workspace: Workspace, values: object = {}) {
  return workspace.create('deal', { name: 'Two rooms', stage: 'hp-sized', owner: 'rosa', ...values }, [], 'ines').ref
}
const divides = document(
  {
    when: [enters('hp-quoted')],
    then: [['setField', { field: 'amount', source: { from: 'formula', text: '1 / margin' } }]],
  },
  'Divides',
)

describe('problems', () => {
  it('are looked for once a minute by the workspace’s clock', () => {
    const { workspace, clock, tick } = quiet()
    deal(workspace, { owner: null })
    clock.set(clock.nowMs() + MINUTE - 1)
    lookForProblems(workspace)
    expect(of(workspace, 'unowned')).toEqual([])
    tick(1)
    expect(says(workspace, 'unowned')).toEqual(['1 deal has no owner'])
  })

  it('failed runs: once for a cause, gone when they were tried again with success', () => {
    const { workspace, tick } = quiet()
    switchOn(workspace, divides)
    const refs = [0, 0].map((margin) => deal(workspace, { margin }))
    for (const ref of refs) workspace.change(ref, { stage: 'hp-quoted' }, 'rosa')
    tick()
    tick()
    const [problem, ...others] = of(workspace, 'failedRuns')
    expect(others).toEqual([])
    expect(problem).toMatchObject({ count: 2 })
    expect(problem?.says).toMatch(/^“Divides” fails at step 1: .*divides by zero/)
    const kind = PROBLEMS.find((one) => one.kind === 'failedRuns')
    expect(kind?.again?.(workspace, problem?.key ?? '', 'ines')).toEqual({ tried: 2, done: 0 })
    for (const ref of refs) workspace.change(ref, { margin: 2 }, 'rosa')
    expect(kind?.again?.(workspace, problem?.key ?? '', 'ines')).toEqual({ tried: 2, done: 2 })
    tick()
    expect(of(workspace, 'failedRuns')).toEqual([])
  })

  it('what could not be delivered, gone when it was tried again', async () => {
    const { workspace, tick } = quiet()
    workspace.store.outbox.add(
      { key: 'm1', channel: 'mail', recipient: 'mila@bakery.example', subject: 'x', body: '', runId: null, more: null },
      workspace.clock.nowMs(),
    )
    workspace.db.sqlite
      .prepare("UPDATE outbox SET state = 'givenUp', last_error = 'mailbox full' WHERE key = 'm1'")
      .run()
    tick()
    expect(says(workspace, 'undelivered')).toEqual([
      'Email to mila@bakery.example could not be delivered: mailbox full',
    ])
    const [problem] = of(workspace, 'undelivered')
    const kind = PROBLEMS.find((one) => one.kind === 'undelivered')
    expect(kind?.again?.(workspace, problem?.key ?? '', 'ines')).toEqual({ tried: 1, done: 1 })
    await workspace.courier.run()
    tick()
    expect(of(workspace, 'undelivered')).toEqual([])
  })

  it.each([
    ['no one owns the record', { owner: null }, { owner: 'rosa' }],
    ['its owner has left and has no deputy', { owner: 'gone' }, { owner: 'rosa' }],
  ])('what was left out because %s, gone when that is mended', (why, wrong, right) => {
    const { workspace, tick } = quiet()
    workspace.store.people.add(
      {
        ...(workspace.catalogue().person('rosa') as NonNullable<
          ReturnType<ReturnType<Workspace['catalogue']>['person']>
        >),
        id: 'gone',
        name: 'Gone Person',
        email: 'gone@larkmoor.example',
        active: true,
      },
      null,
    )
    workspace.catalogueChanged()
    switchOn(workspace, document({ when: [enters('hp-quoted')], then: [task('Ring')] }, 'Rings'))
    const ref = deal(workspace, wrong)
    workspace.db.sqlite.prepare("UPDATE people SET active = 0 WHERE id = 'gone'").run()
    workspace.catalogueChanged()
    workspace.change(ref, { stage: 'hp-quoted' }, 'rosa')
    tick()
    tick()
    expect(says(workspace, 'leftOut')).toEqual([`“Rings” leaves something out: ${why}`])
    workspace.change(ref, right, 'ines')
    tick()
    expect(of(workspace, 'leftOut')).toEqual([])
  })

  it('messages that were left out because the contact has no address', () => {
    const { workspace, tick } = quiet()
    const write: StepLine = [
      'sendMessage',
      { ...STEPS.sendMessage.start, subject: 'Hello', body: 'Hello', urgent: 'test' },
    ]
    switchOn(workspace, document({ when: [enters('hp-quoted')], then: [write] }, 'Writes'))
    const contact = workspace.create('contact', { name: 'Mila', owner: 'rosa' }, [], 'ines').ref
    const { ref } = workspace.create('deal', { name: 'Oven', stage: 'hp-sized', owner: 'rosa' }, [contact], 'ines')
    workspace.change(ref, { stage: 'hp-quoted' }, 'rosa')
    tick()
    expect(says(workspace, 'leftOut')).toEqual(['“Writes” leaves something out: the contact has no address'])
    workspace.change(contact, { email: 'mila@bakery.example' }, 'ines')
    tick()
    expect(of(workspace, 'leftOut')).toEqual([])
  })

  it('paused rules, until somebody lets them go on', () => {
    const { workspace, tick } = quiet()
    const id = switchOn(workspace, document({ when: [enters('hp-quoted')], then: [set('name', 'x')] }, 'Runs wild'))
    workspace.store.ruleJobs.pause(id, { atMs: workspace.clock.nowMs(), starts: 900, usual: 3 })
    tick()
    expect(says(workspace, 'pausedRules')).toEqual(['“Runs wild” is paused: it started 900 times in an hour'])
    workspace.db.orm.update(rulesTable).set({ paused: null }).where(eq(rulesTable.id, id)).run()
    tick()
    expect(of(workspace, 'pausedRules')).toEqual([])
  })

  it('rules that stopped running, until they run again', () => {
    const { workspace, clock, tick } = quiet()
    const id = switchOn(workspace, document({ when: [enters('hp-quoted')], then: [task('Ring')] }, 'Rings'))
    for (let i = 0; i < 40; i++) {
      clock.set(clock.nowMs() + DAY)
      workspace.change(deal(workspace), { stage: 'hp-quoted' }, 'rosa')
    }
    tick()
    expect(of(workspace, 'silentRules')).toEqual([])
    tick(22 * DAY)
    expect(says(workspace, 'silentRules')).toEqual(['“Rings” usually runs 5 times a week, and has not for three weeks'])
    expect(of(workspace, 'silentRules')).toMatchObject([{ ruleId: id }])
    workspace.change(deal(workspace), { stage: 'hp-quoted' }, 'rosa')
    tick()
    expect(of(workspace, 'silentRules')).toEqual([])
  })

  it('people who left and still own something, until it is handed over', () => {
    const { workspace, tick } = quiet()
    const ref = deal(workspace, { owner: 'jude' })
    workspace.db.sqlite.prepare("UPDATE people SET active = 0 WHERE id = 'jude'").run()
    workspace.catalogueChanged()
    tick()
    expect(says(workspace, 'peopleLeft')).toEqual(['Jude Okell has left and still has 1 deal'])
    workspace.change(ref, { owner: 'rosa' }, 'ines')
    tick()
    expect(of(workspace, 'peopleLeft')).toEqual([])
  })

  it('keys that expire soon, until they are revoked', () => {
    const { workspace, clock, tick } = quiet()
    const { keys } = workspace.store
    keys.create('ines', 'Website', clock.nowMs(), {
      readOnly: true,
      areas: null,
      expiresAt: clock.nowMs() + 10 * DAY,
    })
    tick()
    expect(says(workspace, 'expiring')[0]).toMatch(/^API key “Website” of Ines Calloway expires on /)
    keys.revokeAll('ines', clock.nowMs())
    tick()
    expect(of(workspace, 'expiring')).toEqual([])
  })

  it('addresses that bounce, until the contact has another one', () => {
    const { workspace, clock, tick } = quiet()
    const ref = workspace.create('contact', { name: 'Mila', email: 'Mila@bakery.example' }, [], 'ines').ref
    workspace.store.addresses.stop({
      channel: 'mail',
      address: 'mila@bakery.example',
      because: 'bounced',
      how: 'no such user',
      atMs: clock.nowMs(),
    })
    tick()
    expect(says(workspace, 'bounced')).toEqual(['1 address bounces, mila@bakery.example'])
    workspace.change(ref, { email: 'mila@oven.example' }, 'ines')
    tick()
    expect(of(workspace, 'bounced')).toEqual([])
  })

  it('amounts in a currency without a rate, until there is one', () => {
    const { workspace, clock, tick } = quiet()
    deal(workspace, { amount: 900, currency: 'NZD' })
    tick()
    expect(says(workspace, 'noRate')).toEqual(['1 deal has an amount (Amount) in a currency without a rate'])
    workspace.store.rates.put([{ code: 'NZD', day: '2026-11-01', perOwn: 1.9 }])
    workspace.catalogueChanged()
    clock.set(clock.nowMs() + 1000)
    tick()
    expect(of(workspace, 'noRate')).toEqual([])
  })

  it('rules that can’t be read, until they can', () => {
    const { workspace, tick } = quiet()
    const rule = document({ when: [enters('hp-quoted')], then: [task('Ring')] }, 'Odd one')
    const id = switchOn(workspace, rule)
    const write = (draft: object): void => {
      workspace.db.sqlite
        .prepare('UPDATE rules SET draft = ?, draft_rev = draft_rev + 1 WHERE id = ?')
        .run(JSON.stringify(draft), id)
      workspace.rulesChanged()
      tick()
    }
    write({ ...rule, steps: [{ id: 's1', kind: 'levitate', params: {} }] })
    expect(says(workspace, 'unreadable')[0]).toMatch(/^“Odd one” can’t be read: steps\.0/)
    write(rule)
    expect(of(workspace, 'unreadable')).toEqual([])
  })

  it('a disk that is nearly full, until there is room', () => {
    const { workspace, tick } = quiet()
    vi.stubEnv('SKY_LEVER_FREE_BYTES', '1000000')
    tick()
    expect(says(workspace, 'disk')).toEqual(['Only 1.0 MB are free on the disk'])
    vi.unstubAllEnvs()
    vi.stubEnv('SKY_LEVER_FREE_BYTES', '100000000000000')
    tick()
    expect(of(workspace, 'disk')).toEqual([])
  })

  it('time zones of contacts, while rules write to them', () => {
    const { workspace, tick } = quiet()
    const ref = workspace.create('contact', { name: 'Mila' }, [], 'ines').ref
    tick()
    expect(of(workspace, 'zonesUnknown')).toEqual([])
    switchOn(
      workspace,
      document(
        {
          when: [enters('hp-quoted')],
          then: [['makeCall', { ...callStart }]],
        },
        'Calls',
      ),
    )
    tick()
    expect(says(workspace, 'zonesUnknown')).toEqual(['1 contact has no time zone, and rules write to contacts'])
    workspace.change(ref, { zone: 'Europe/Warsaw' }, 'ines')
    tick()
    expect(of(workspace, 'zonesUnknown')).toEqual([])
  })

  it('that somebody accepted are counted no more until then', () => {
    const { workspace, clock, tick } = quiet()
    deal(workspace, { owner: null })
    tick()
    const [one] = of(workspace, 'unowned')
    const open = () => workspace.store.problems.open(clock.nowMs())
    expect(open()).toBe(1)
    workspace.store.problems.accept(one?.id ?? 0, clock.nowMs() + DAY, 'ines')
    expect(open()).toBe(0)
    tick(2 * DAY)
    expect(open()).toBe(1)
    expect(of(workspace, 'unowned')).toMatchObject([{ id: one?.id, sinceMs: one?.sinceMs }])
  })
})
