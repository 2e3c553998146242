import { describe, expect, it } from 'vitest'
import { checkRule } from '../../core/rules/check'
import { all, document, enters, given, task, type StepLine } from '../../core/testing/rules'
import type { Values } from '../../core/language/value'
import { instantAt } from '../../core/time/moments'
import { simpleParser } from 'mailparser'
import { aheadOf } from '../views/ahead'
import { whyFor } from '../views/why'
import { mailboxRows } from '../stand-ins/mailbox'
import { larkmoor, MIGRATIONS, switchOn } from '../testing/workspace'
import type { SetClock } from './clock'
import { turnClock, workClock } from './clockwork'
import { setMessaging } from './message-settings'
import { optOut, takeIncoming, type Incoming } from './messages'
import { Workspace } from './workspace'

const HOUR_MS = 3_600_000
const control = { awaited: () => false, nowMs: () => 0, pause: () => Promise.resolve() }

export const letter = (more: object = {}): StepLine => [
  'sendMessage',
  {
    channel: 'mail',
    to: 'main',
    from: 'owner',
    copy: [],
    template: null,
    subject: 'Welcome, {{contact.firstName or "there"}}',
    body: 'Good to have you.',
    phone: 'phone',
    otherPhone: false,
    again: 0,
    urgent: '',
    answered: false,
    label: 'welcome',
    ...more,
  },
]
const onCreated = (...then: readonly StepLine[]) => document({ object: 'contact', when: [['created', {}]], then })
const vera = (workspace: Workspace, values: Values = {}) =>
  workspace.create(
    'contact',
    { name: 'Vera Lima', email: 'Vera@lima.example', phone: '+351912000123', owner: 'rosa', ...values },
    [],
    'ines',
  ).ref
const mails = (workspace: Workspace) => mailboxRows(workspace.db, 100)
const titles = (workspace: Workspace) => workspace.store.tasks.openFor('rosa', '9999-12-31').map((one) => one.title)
/** What the newest run of a rule did, as the journal has it. */
const lastRun = (workspace: Workspace, ruleId: number) => {
  const [run] = workspace.store.runs.list({ ruleId, limit: 1 })
  const steps = run ? workspace.store.runs.steps([run.id]).map(({ result }) => result) : []
  return { run, steps, text: JSON.stringify(steps) }
}
async function until(workspace: Workspace, clock: SetClock, toMs: number): Promise<void> {
  for (let atMs = clock.nowMs(); atMs <= toMs; atMs += HOUR_MS / 2) {
    clock.set(atMs)
    await workClock(workspace, control)
    await workspace.courier.run()
  }
}
const answer = (more: Partial<Incoming> = {}): Incoming => ({
  channel: 'mail',
  from: 'vera@lima.example',
  subject: 'Re: Welcome, Vera',
  text: 'Yes please, Tuesday.',
  messageId: `a-${Math.abs(JSON.stringify(more).length)}`,
  answers: [],
  automatic: false,
  bounce: null,
  ...more,
})

describe('a message to a customer', () => {
  it('goes once, in the owner’s name, and parses as a mail with a way to object', async () => {
    const { workspace } = larkmoor()
    const rule = switchOn(workspace, onCreated(letter()))
    const ref = vera(workspace)
    await workspace.courier.run()
    const [mail] = mails(workspace)
    expect(mail).toMatchObject({ recipient: 'vera@lima.example', subject: 'Welcome, Vera', senderName: 'Rosa Amara' })
    const parsed = await simpleParser(mail?.raw ?? '')
    expect(parsed.from?.value).toEqual([{ name: 'Rosa Amara', address: 'rosa@larkmoor.example' }])
    expect(parsed.messageId).toBe(`<${mail?.messageId ?? ''}>`)
    expect(parsed.text).toContain('Good to have you.')
    expect(parsed.html).toContain('/preferences/')
    expect(parsed.headerLines.map(({ line }) => line).join('\n')).toContain('List-Unsubscribe=One-Click')
    expect(workspace.store.messages.ofContactPage(ref.id, 1e9, 9)).toMatchObject([{ state: 'sent', label: 'welcome' }])
    expect(workspace.store.activities.of(ref).map(({ kind }) => kind)).toEqual(['messageSent'])
    expect(lastRun(workspace, rule).run?.state).toBe('done')
  })

  it('goes to every contact whose link has a role, however it is spelt, and to nobody else', async () => {
    const { workspace } = larkmoor()
    const deal = workspace.create('deal', { name: 'Two rooms', owner: 'rosa', stage: 'hp-sized' }, [], 'ines').ref
    for (const [name, role] of [
      ['Ada', 'Buyer'],
      ['Ben', 'architect'],
      ['Cem', ' buyer'],
    ] as const)
      workspace.link(
        deal,
        workspace.create('contact', { name, email: `${name}@x.example`, owner: 'rosa' }, [], 'ines').ref,
        role,
        name === 'Ben',
        'ines',
      )
    const step = letter({ to: 'role', role: 'BUYER ' })
    switchOn(workspace, document({ when: [enters('hp-quoted')], then: [step] }))
    const unsaid = document({ when: [enters('hp-quoted')], then: [letter({ to: 'role', role: ' ' })] })
    expect(checkRule(unsaid, workspace.catalogue()).map(({ text }) => text)).toEqual(['Enter a role'])
    workspace.change(deal, { stage: 'hp-quoted' }, 'rosa')
    await workspace.courier.run()
    expect(
      mails(workspace)
        .map(({ recipient }) => recipient)
        .sort(),
    ).toEqual(['ada@x.example', 'cem@x.example'])
  })

  it('that is one too many in an hour pauses its rule, which asks before it sends more', async () => {
    const { workspace, clock } = larkmoor()
    setMessaging(workspace, { ...workspace.catalogue().messaging, ruleHour: 2 })
    const rule = switchOn(workspace, onCreated(letter({ subject: 'Hello {{contact.name}}' })))
    for (const name of ['A', 'B', 'C', 'D', 'E'])
      workspace.create('contact', { name, email: `${name}@x.example`, owner: 'rosa' }, [], 'ines')
    await workspace.courier.run()
    expect(mails(workspace)).toHaveLength(2)
    const paused = () => workspace.store.rules.get(rule)?.paused
    expect(paused()).toMatchObject({ messages: 2 })
    expect(lastRun(workspace, rule).text).toContain('the rule sent 2 in an hour')
    const [notice] = workspace.store.notices.of('ines', null, 9)
    expect(`${notice?.subject}: ${notice?.body}`).toContain('is paused: It sent 2 messages in an hour')
    // Nobody is started any more, and what waits does not go by itself when the hour is over.
    expect(workspace.store.ruleJobs.heldCount(rule)).toBe(2)
    await until(workspace, clock, clock.nowMs() + 3 * HOUR_MS)
    expect(mails(workspace)).toHaveLength(2)
    workspace.goOn(rule)
    await until(workspace, clock, clock.nowMs() + HOUR_MS)
    expect(paused()).toBe(null)
    expect(mails(workspace)).toHaveLength(3)
  })

  it('at three in the night waits for the morning of whoever gets it, and asks the conditions again', async () => {
    const { workspace, clock } = larkmoor()
    const rule = switchOn(workspace, onCreated(letter(), task('Ring')))
    clock.set(instantAt('2026-11-24', 190, 'Europe/Lisbon'))
    vera(workspace)
    await until(workspace, clock, instantAt('2026-11-24', 450, 'Europe/Lisbon'))
    expect(mails(workspace)).toEqual([])
    expect(titles(workspace)).toEqual([])
    expect(lastRun(workspace, rule).text).toContain('it goes on 24 Nov 2026, 8:00 their time')
    const nowMs = clock.nowMs()
    const ahead = aheadOf(workspace, { fromMs: nowMs, toMs: nowMs + 48 * HOUR_MS, limit: 9, scope: null })
    expect(ahead.lines.map(({ what }) => what)).toEqual(['send “Welcome, Vera”'])
    await until(workspace, clock, instantAt('2026-11-24', 490, 'Europe/Lisbon'))
    expect(mails(workspace)).toHaveLength(1)
    expect(titles(workspace)).toEqual(['Ring'])
  })

  it('that waited does not go to somebody who opted out meanwhile', async () => {
    const { workspace, clock } = larkmoor()
    const rule = switchOn(workspace, onCreated(letter()))
    clock.set(instantAt('2026-11-24', 190, 'Europe/Lisbon'))
    vera(workspace)
    optOut(workspace, 'mail', 'vera@lima.example', 'by link')
    await until(workspace, clock, instantAt('2026-11-24', 700, 'Europe/Lisbon'))
    expect(mails(workspace)).toEqual([])
    expect(lastRun(workspace, rule).text).toContain('Vera Lima opted out (by link)')
  })

  it('goes 300 times to one address only once', async () => {
    const { workspace } = larkmoor()
    const rule = switchOn(workspace, document({ object: 'contact', when: [['changed', {}]], then: [letter()] }))
    const ref = vera(workspace)
    for (let n = 0; n < 300; n++) workspace.change(ref, { name: `Vera Lima ${n}` }, 'ines')
    await workspace.courier.run()
    expect(mails(workspace)).toHaveLength(1)
    expect(lastRun(workspace, rule).text).toContain('got the same text on 24 Nov 2026')
  })

  it('with a gap in it does not go, and says what is blank; with words for the gap it does', async () => {
    const { workspace } = larkmoor()
    const [gap, words] = [
      switchOn(workspace, onCreated(letter({ body: 'About {{contact.birthday}}' }))),
      switchOn(workspace, onCreated(letter({ body: 'About {{contact.birthday or "your enquiry"}}' }))),
    ]
    vera(workspace)
    await workspace.courier.run()
    expect(mails(workspace).map(({ body }) => body)).toEqual(['About your enquiry'])
    expect(lastRun(workspace, gap).text).toContain('birthday of Vera Lima is empty')
    expect(lastRun(workspace, words).run?.state).toBe('done')
  })

  it('by text never goes to a landline, but to another number of theirs where that may be', async () => {
    const { workspace } = larkmoor()
    const rule = switchOn(workspace, onCreated(letter({ channel: 'text' })))
    vera(workspace, { phone: '+351210000123' })
    await workspace.courier.run()
    expect(mails(workspace)).toEqual([])
    expect(lastRun(workspace, rule).text).toContain('+351210000123 of Vera Lima is a landline')
    vera(workspace, { phone: '+351912000124', email: 'other@lima.example' })
    await workspace.courier.run()
    expect(mails(workspace)).toMatchObject([{ channel: 'text', recipient: '+351912000124', body: 'Good to have you.' }])
  })

  it('of two rules on one day: the third of them waits for the next', async () => {
    const { workspace, clock } = larkmoor()
    for (const subject of ['One', 'Two', 'Three']) switchOn(workspace, onCreated(letter({ subject })))
    vera(workspace)
    await workspace.courier.run()
    expect(mails(workspace)).toHaveLength(2)
    await until(workspace, clock, clock.nowMs() + 24 * HOUR_MS)
    expect(mails(workspace)).toHaveLength(3)
  })

  it('keeps hostile texts as texts', async () => {
    const { workspace } = larkmoor()
    switchOn(
      workspace,
      onCreated(letter({ body: 'Hi {{contact.name}} <img src=x onerror=alert(1)> [x](javascript:alert(1))' })),
    )
    vera(workspace, { name: '<script>alert(1)</script>' })
    await workspace.courier.run()
    const parsed = await simpleParser(mails(workspace)[0]?.raw ?? '')
    expect(parsed.html).not.toMatch(/<script|<img|href="javascript/i)
    expect(parsed.html).toContain('&lt;img')
  })
})

describe('an answer', () => {
  const waits = (more: object = {}): StepLine => [
    'waitForActivity',
    { kind: 'message', by: 'contact', about: '', most: { count: 2, unit: 'workdays' }, recheck: false, ...more },
    [null, task('Thank')],
    [null, task('Ring')],
  ]

  it('is found by the message it names, tells its kind, and ends the wait for it', async () => {
    const { workspace } = larkmoor()
    switchOn(workspace, onCreated(letter(), waits()))
    const ref = vera(workspace)
    await workspace.courier.run()
    const [mail] = mails(workspace)
    expect(takeIncoming(workspace, answer({ from: 'v.lima@home.example', answers: [mail?.messageId ?? ''] }))).toBe(
      'answer',
    )
    expect(titles(workspace)).toEqual(['Thank'])
    const [done] = workspace.store.activities.of(ref).filter(({ kind }) => kind === 'message')
    expect(done?.data).toEqual({ channel: 'mail', answer: 'Yes please, Tuesday.', kind: 'positive', label: 'welcome' })
    // Told again it changes nothing.
    expect(takeIncoming(workspace, answer({ from: 'v.lima@home.example', answers: [mail?.messageId ?? ''] }))).toBe(
      'known',
    )
  })

  it('of long ago is not taken for the answer', async () => {
    const { workspace, clock } = larkmoor()
    const ref = vera(workspace)
    expect(takeIncoming(workspace, answer({ text: 'old' }))).toBe('answer')
    clock.set(clock.nowMs() + HOUR_MS)
    const rule = switchOn(
      workspace,
      document({
        object: 'contact',
        when: [['changed', {}]],
        then: [
          letter(),
          ['wait', { until: { at: 'after', amount: { count: 1, unit: 'days' }, minute: null }, recheck: false }],
          [
            'choosePath',
            {},
            [
              given('g', {
                kind: 'did',
                id: 'd',
                how: 'none',
                count: 1,
                activity: 'message',
                by: 'contact',
                span: 'step',
                step: 's1',
                days: 1,
                group: { ...all(), id: 'dw' },
              }),
              task('Ring'),
            ],
            [null],
          ],
        ],
      }),
    )
    workspace.change(ref, { name: 'Vera Maria Lima' }, 'ines')
    await until(workspace, clock, clock.nowMs() + 26 * HOUR_MS)
    expect(lastRun(workspace, rule).run?.state).toBe('done')
    expect(titles(workspace)).toEqual(['Ring'])
  })

  it('that came by itself ends nothing', async () => {
    const { workspace } = larkmoor()
    switchOn(workspace, onCreated(letter(), waits()))
    const ref = vera(workspace)
    await workspace.courier.run()
    expect(takeIncoming(workspace, answer({ automatic: true, text: 'Out of office' }))).toBe('automatic')
    expect(titles(workspace)).toEqual([])
    expect(workspace.store.activities.of(ref).map(({ kind }) => kind)).toContain('messageAutomatic')
  })

  it('ends a series: whoever answered gets no more of it', async () => {
    const { workspace, clock } = larkmoor()
    const rule = switchOn(
      workspace,
      onCreated(
        letter(),
        ['wait', { until: { at: 'after', amount: { count: 1, unit: 'days' }, minute: null }, recheck: false }],
        letter({ subject: 'Once more' }),
      ),
    )
    vera(workspace)
    await workspace.courier.run()
    clock.set(clock.nowMs() + HOUR_MS)
    takeIncoming(workspace, answer())
    await until(workspace, clock, clock.nowMs() + 30 * HOUR_MS)
    expect(mails(workspace)).toHaveLength(1)
    expect(lastRun(workspace, rule).text).toContain('Vera Lima answered on 24 Nov 2026')
  })

  it('is of one thread with what a run wrote before, whoever reads it', async () => {
    const { workspace, clock } = larkmoor()
    switchOn(
      workspace,
      onCreated(
        letter(),
        ['wait', { until: { at: 'after', amount: { count: 1, unit: 'days' }, minute: null }, recheck: false }],
        letter({ subject: 'Once more' }),
      ),
    )
    vera(workspace)
    await until(workspace, clock, clock.nowMs() + 30 * HOUR_MS)
    const [second, first] = await Promise.all(mails(workspace).map(({ raw }) => simpleParser(raw ?? '')))
    expect(second?.inReplyTo).toBe(first?.messageId)
    expect(second?.references).toBe(first?.messageId)
  })

  it('“STOP” by text opts out, and a mail that comes back for good stops the address', async () => {
    const { workspace } = larkmoor()
    switchOn(workspace, onCreated(letter({ channel: 'text' }), letter()))
    const ref = vera(workspace)
    await workspace.courier.run()
    expect(takeIncoming(workspace, answer({ channel: 'text', from: '+351912000123', text: ' Stop ' }))).toBe('stop')
    expect(workspace.store.addresses.stopped('text', '+351912000123')).toMatchObject({ because: 'optedOut' })
    expect(workspace.store.addresses.stopped('mail', 'vera@lima.example')).toBeNull()
    const bounce = { recipient: 'vera@lima.example', final: true, reason: '550 no such mailbox' }
    expect(takeIncoming(workspace, answer({ from: 'postmaster@lima.example', bounce }))).toBe('bounce')
    expect(workspace.store.addresses.stopped('mail', 'VERA@lima.example')).toMatchObject({ because: 'bounced' })
    expect(workspace.store.activities.of(ref).map(({ kind }) => kind)).toContain('messageBounced')
  })

  it('of nobody, to nothing, is left', () => {
    const { workspace } = larkmoor()
    expect(takeIncoming(workspace, answer({ from: 'nobody@nowhere.example' }))).toBe('unknown')
  })

  it('names its rule when one asks why a record got none', () => {
    const { workspace } = larkmoor()
    const rule = switchOn(workspace, onCreated(letter()))
    const ref = vera(workspace, { email: null })
    const stored = workspace.store.rules.get(rule) ?? expect.fail('it is gone')
    expect(whyFor(workspace, stored, ref)?.ran).toBe(true)
    expect(lastRun(workspace, rule).text).toContain('"code":"noAddress","name":"Vera Lima","field":"email"')
  })
})

describe('simulated customers', () => {
  it('act by themselves on a clock that is turned, each at its moment, once, and before what waits for it ends', async () => {
    const { workspace: first, dbFile } = larkmoor()
    const rule = switchOn(first, onCreated(letter({ urgent: 'a test' }), task('Sent')))
    first.store.catalogue.setSimulatedShare(100)
    const workspace = new Workspace({ dbFile, migrationsFolder: MIGRATIONS })
    const begunMs = workspace.clock.nowMs()
    for (let n = 0; n < 40; n++)
      workspace.create('contact', { name: `Ada ${n}`, email: `ada${n}@x.example`, owner: 'rosa' }, [], 'ines')
    await turnClock(workspace, begunMs + 48 * HOUR_MS, control)
    const rows = mailboxRows(workspace.db, 100)
    expect(rows.map(({ key }) => key)).toHaveLength(40)
    expect(rows.every(({ act, actAt }) => act !== null && actAt === null)).toBe(true)
    const kinds = rows.map(({ act }) => act?.as)
    const heard = rows.flatMap(({ messageId }) => workspace.store.messages.answersTo(messageId ?? ''))
    // Each answer came at its own moment on the way, not when the clock arrived.
    expect(heard.length).toBeGreaterThanOrEqual(kinds.filter((as) => as === 'answer').length)
    expect(new Set(heard.map(({ atMs }) => atMs)).size).toBe(heard.length)
    for (const { atMs } of heard) expect(atMs - begunMs).toBeLessThan(31 * HOUR_MS)
    expect(workspace.store.runs.list({ ruleId: rule, limit: 100 })).toHaveLength(40)
    await turnClock(workspace, begunMs + 96 * HOUR_MS, control)
    expect(rows.flatMap(({ messageId }) => workspace.store.messages.answersTo(messageId ?? ''))).toHaveLength(
      heard.length,
    )
    workspace.close()
  })
})
