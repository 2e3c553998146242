import { describe, expect, it } from 'vitest'
import { all, document, given, task, type StepLine } from '../../core/testing/rules'
import type { Values } from '../../core/language/value'
import { instantAt } from '../../core/time/moments'
import { simpleParser } from 'mailparser'
import { aheadOf } from '../views/ahead'
import { whyFor } from '../views/why'
import { mailboxRows } from '../stand-ins/mailbox'
import { larkmoor, switchOn } from '../testing/workspace'
import type { SetClock } from './clock'
import { workClock } from './clockwork'
import { optOut, takeIncoming, type Incoming } from './messages'
import type { Workspace } from './workspace'

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
    expect(workspace.store.happenings.of(ref).map(({ kind }) => kind)).toEqual(['messageSent'])
    expect(lastRun(workspace, rule).run?.state).toBe('done')
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
    const [done] = workspace.store.happenings.of(ref).filter(({ kind }) => kind === 'message')
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
    expect(workspace.store.happenings.of(ref).map(({ kind }) => kind)).toContain('messageAutomatic')
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
    expect(workspace.store.happenings.of(ref).map(({ kind }) => kind)).toContain('messageBounced')
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
    expect(lastRun(workspace, rule).text).toContain('Vera Lima has no email')
  })
})
