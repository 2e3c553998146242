import { describe, expect, it } from 'vitest'
import { document, enters, task, type StepLine } from '../../core/testing/rules'
import { STEPS } from '../../core/rules/steps'
import { sayProblem } from '../../core/language/problems'
import { instantAt } from '../../core/time/moments'
import { callRows } from '../stand-ins/phone'
import { larkmoor, switchOn } from '../testing/workspace'
import { askedOf } from '../views/asked'
import { answerTask } from './answer-task'
import { answerLink, readAnswerLink } from './answer-link'
import { answerPhone, callEnded } from './calls'
import type { SetClock } from './clock'
import { workClock } from './clockwork'
import { RefusedError, type Workspace } from './workspace'

const HOUR_MS = 3_600_000
const control = { awaited: () => false, nowMs: () => 0, pause: () => Promise.resolve() }
const LIMITS = { most: { count: 2, unit: 'workdays' }, recheck: false }

const call = (more: object, made: readonly StepLine[], late: readonly StepLine[] = []): StepLine => [
  'makeCall',
  { ...STEPS.makeCall.start, ...LIMITS, ...more },
  ...([
    [null, ...made],
    [null, ...late],
  ] as unknown as []),
]
const approve = (more: object, ...ends: readonly (readonly StepLine[])[]): StepLine => [
  'approval',
  {
    ...STEPS.approval.start,
    ...LIMITS,
    title: 'Approve {{deal.name}}',
    who: { by: 'person', person: 'maren' },
    ...more,
  },
  ...(ends.map((end) => [null, ...end]) as unknown as []),
]
const titles = (workspace: Workspace, person = 'rosa') =>
  workspace.store.tasks.openFor(person, '9999-12-31').map((one) => one.title)
const first = (workspace: Workspace, person: string) => {
  const [open] = workspace.store.tasks.openFor(person, '9999-12-31')
  if (!open) throw new Error(`${person} has no task`)
  return open
}
function quoted(workspace: Workspace, values: object = {}) {
  const { ref } = workspace.create(
    'deal',
    { name: 'Two rooms', stage: 'hp-sized', owner: 'rosa', ...values },
    [],
    'ines',
  )
  const contact = workspace.create(
    'contact',
    { name: 'Vera Lima', phone: '+351912000123', owner: 'rosa' },
    [],
    'ines',
  ).ref
  workspace.link(ref, contact, '', true, 'ines')
  workspace.change(ref, { stage: 'hp-quoted' }, 'rosa')
  return { ref, contact }
}
/** Why an answer is refused, with the place. */
function refusal(work: () => void): string {
  try {
    work()
  } catch (error) {
    if (error instanceof RefusedError)
      return error.problems.map(({ path, problem }) => `${path}: ${sayProblem(problem)}`).join('; ')
    throw error
  }
  return ''
}
async function until(workspace: Workspace, clock: SetClock, toMs: number): Promise<void> {
  for (let atMs = clock.nowMs(); atMs <= toMs; atMs += HOUR_MS / 4) {
    clock.set(atMs)
    await workClock(workspace, control)
    await workspace.courier.run()
  }
}
const onQuoted = (...then: readonly StepLine[]) => document({ when: [enters('hp-quoted')], then })

describe('a call', () => {
  it('is a task with the number, and what came of it stands on the contact and leads the rule on', () => {
    const { workspace } = larkmoor()
    switchOn(workspace, onQuoted(call({}, [task('Write to them')], [task('Too late')])))
    const { contact } = quoted(workspace)
    const open = first(workspace, 'rosa')
    expect(open).toMatchObject({ title: 'Call Vera Lima', asks: { about: 'call', number: '+351912000123' } })
    expect(refusal(() => answerTask(workspace, open, 'rosa', 'done', undefined))).toMatch(/outcome/)
    expect(refusal(() => answerTask(workspace, open, 'rosa', '', { outcome: 'busy', ended: 'interested' }))).toMatch(
      /talked/,
    )
    answerTask(workspace, open, 'rosa', '', { outcome: 'finished', ended: 'interested', notes: 'Two', minutes: 4 })
    expect(titles(workspace)).toEqual(['Write to them'])
    const [happened] = workspace.store.activities.of(contact)
    expect(happened).toMatchObject({
      kind: 'call',
      data: { direction: 'out', outcome: 'finished', ended: 'interested', notes: 'Two', minutes: 4 },
    })
    expect(workspace.store.tasks.get(open.id)?.outcome).toBe('Talked, 4 minutes: Interested. Two')
  })

  it('that reaches nobody is tried again after a while, at most so often, and then leads on', () => {
    const { workspace, clock } = larkmoor()
    switchOn(workspace, onQuoted(call({ tries: 2, pause: { count: 3, unit: 'hours' } }, [task('On we go')])))
    quoted(workspace)
    const open = first(workspace, 'rosa')
    const begunMs = clock.nowMs()
    answerTask(workspace, open, 'rosa', '', { outcome: 'noAnswer' })
    expect(titles(workspace)).toEqual(['Call Vera Lima'])
    expect(first(workspace, 'rosa')).toMatchObject({
      asks: { attempt: 2, notBeforeMs: begunMs + 3 * HOUR_MS },
      remindAt: begunMs + 3 * HOUR_MS,
    })
    answerTask(workspace, first(workspace, 'rosa'), 'rosa', '', { outcome: 'busy' })
    expect(titles(workspace)).toEqual(['On we go'])
  })

  it('takes the path of its outcome, and inside it that of how it ended; what nobody planned for goes otherwise', async () => {
    const paths: StepLine = [
      'pathPerValue',
      { field: 's1.outcome' },
      ...([
        ['busy', task('busy')],
        [
          'finished',
          ['pathPerValue', { field: 's1.ended' }, ['interested', task('interested')], [null, task('ended else')]],
        ],
        [null, task('else')],
      ] as unknown as []),
    ]
    for (const [result, title] of [
      [{ outcome: 'busy' }, 'busy'],
      [{ outcome: 'finished', ended: 'interested' }, 'interested'],
      [{ outcome: 'finished', ended: 'callBack' }, 'ended else'],
      [{ outcome: 'voicemail' }, 'else'],
    ] as const) {
      const { workspace } = larkmoor()
      switchOn(workspace, onQuoted(call({ by: 'dialler', tries: 1 }, [paths])))
      quoted(workspace)
      await workspace.courier.run()
      const [ringing] = callRows(workspace.db, 9)
      expect(titles(workspace)).toEqual([])
      expect(answerPhone(workspace, ringing?.key ?? '', { ended: null, notes: '', minutes: null, ...result })).toBe(
        'taken',
      )
      expect(titles(workspace)).toEqual([title])
    }
  })

  it('by the dialler is placed once for each try, in decent hours, and told twice changes nothing', async () => {
    const { workspace, clock } = larkmoor()
    clock.set(instantAt('2026-11-24', 200, 'Europe/Lisbon'))
    switchOn(
      workspace,
      onQuoted(call({ by: 'dialler', tries: 2, pause: { count: 30, unit: 'minutes' } }, [task('On')])),
    )
    quoted(workspace)
    await workspace.courier.run()
    expect(callRows(workspace.db, 9)).toEqual([])
    await until(workspace, clock, instantAt('2026-11-24', 485, 'Europe/Lisbon'))
    const [ringing, ...others] = callRows(workspace.db, 9)
    expect([ringing?.number, others]).toEqual(['+351912000123', []])
    const busy = { outcome: 'busy', ended: null, notes: '', minutes: null } as const
    const key = ringing?.key ?? ''
    expect([answerPhone(workspace, key, busy), answerPhone(workspace, key, busy)]).toEqual(['taken', 'known'])
    expect(callEnded(workspace, key, busy)).toBe('known')
    expect(callEnded(workspace, 'call-999-1', busy)).toBe('unknown')
    await until(workspace, clock, clock.nowMs() + HOUR_MS)
    expect(callRows(workspace.db, 9).map((one) => one.key)).toEqual(['call-1-2', 'call-1-1'])
    answerPhone(workspace, 'call-1-2', { ...busy, outcome: 'voicemail' })
    expect(titles(workspace)).toEqual(['On'])
  })
})

describe('an approval', () => {
  const ends = [[task('Send it')], [task('Talk')], [task('Nobody decided')]] as const

  it('asks nobody up to the limit, and somebody beyond it', () => {
    const { workspace } = larkmoor()
    switchOn(workspace, onQuoted(approve({ field: 'amount', limit: 1000 }, ...ends)))
    quoted(workspace, { amount: 1000 })
    expect(titles(workspace)).toEqual(['Send it'])
    expect(titles(workspace, 'maren')).toEqual([])
    quoted(workspace, { amount: 1001 })
    expect(first(workspace, 'maren')).toMatchObject({
      asks: { about: 'approval', facts: [{ label: 'Amount', value: '€1,001' }] },
    })
  })

  it.each([
    [{ decision: 'approved' }, 'Send it'],
    [{ decision: 'declined', reason: 'too much' }, 'Talk'],
  ])('leads on by what was decided: %o', (answers, title) => {
    const { workspace } = larkmoor()
    switchOn(workspace, onQuoted(approve({}, ...ends)))
    quoted(workspace)
    expect(
      refusal(() => answerTask(workspace, first(workspace, 'maren'), 'maren', '', { decision: 'declined' })),
    ).toMatch(/why it is declined/)
    answerTask(workspace, first(workspace, 'maren'), 'maren', '', answers)
    expect(titles(workspace)).toEqual([title])
  })

  it('that nobody decides in time has a path of its own, with a reminder before', async () => {
    const { workspace, clock } = larkmoor()
    switchOn(workspace, onQuoted(approve({ remind: 'onDay' }, ...ends)))
    quoted(workspace)
    await until(workspace, clock, instantAt('2026-11-26', 600, 'Europe/Lisbon'))
    expect(workspace.store.notices.of('maren', null, 9).map(({ subject }) => subject)).toContain(
      'Reminder: Approve Two rooms',
    )
    expect(titles(workspace)).toEqual(['Nobody decided'])
    // Nobody has to decide any more: an answer would lead nowhere.
    expect(titles(workspace, 'maren')).toEqual([])
  })

  it('goes to the deputy of whoever is away', () => {
    const { workspace } = larkmoor()
    workspace.store.people.update('maren', { awayFrom: '2026-11-20', awayTo: '2026-11-30', deputyId: 'jude' })
    workspace.catalogueChanged()
    switchOn(workspace, onQuoted(approve({}, ...ends)))
    quoted(workspace)
    expect([titles(workspace, 'maren'), titles(workspace, 'jude')]).toEqual([[], ['Approve Two rooms']])
  })

  it('is answered by a signed link once, and by nobody else’s', async () => {
    const { workspace } = larkmoor()
    switchOn(workspace, onQuoted(approve({ email: true }, ...ends)))
    quoted(workspace)
    const open = first(workspace, 'maren')
    const sent = workspace.store.outbox.ofRun(open.runId)
    const [, token = ''] = /\/answer\/(\S+)/.exec(sent[0]?.body ?? '') ?? []
    expect(readAnswerLink(workspace.store, token)).toMatchObject({ task: { id: open.id }, personId: 'maren' })
    expect(readAnswerLink(workspace.store, `${token.slice(0, -1)}${token.endsWith('A') ? 'B' : 'A'}`)).toBe(null)
    expect(answerLink(workspace.store, open.runId, open.stepId, 'jude')).toBe(null)
    answerTask(workspace, open, 'maren', '', { decision: 'approved' })
    expect(answerLink(workspace.store, open.runId, open.stepId, 'maren')).toBe(null)
    await workspace.courier.run()
    expect(titles(workspace)).toEqual(['Send it'])
  })
})

describe('a question in the middle', () => {
  it('is answered in types, and the answers are at hand further down', () => {
    const { workspace } = larkmoor()
    const questions = [
      { key: 'units', label: 'How many?', type: 'number', choices: [], required: true },
      { key: 'lorry', label: 'Which lorry?', type: 'choice', choices: ['Small', 'Large'], required: true },
      { key: 'note', label: 'Anything else?', type: 'text', choices: [], required: false },
    ]
    const step: StepLine = [
      'askColleague',
      { ...STEPS.askColleague.start, ...LIMITS, title: 'About {{deal.name}}', facts: ['amount'], questions },
      ...([[null, task('Book {{s1.lorry}} for {{s1.units}}')], [null]] as unknown as []),
    ]
    switchOn(workspace, onQuoted(step))
    quoted(workspace, { amount: 5 })
    const open = first(workspace, 'rosa')
    expect(refusal(() => answerTask(workspace, open, 'rosa', '', { units: 'many', lorry: 'Small' }))).toMatch(/units/)
    expect(refusal(() => answerTask(workspace, open, 'rosa', '', { units: 2 }))).toMatch(/Which lorry/)
    answerTask(workspace, open, 'rosa', '', { units: 2, lorry: 'Large' })
    expect(titles(workspace)).toEqual(['Book Large for 2'])
    expect(workspace.store.tasks.get(open.id)?.outcome).toBe('How many? 2 · Which lorry? Large')
  })

  it('stands with the notifications of whoever is asked until they have answered, and a call does not', () => {
    const { workspace } = larkmoor()
    switchOn(
      workspace,
      document({ when: [enters('hp-quoted')], then: [approve({ facts: ['amount'] }, [], [], [])] }, 'Large'),
    )
    const { ref } = quoted(workspace, { amount: 70_000 })
    const [asked, ...others] = askedOf(workspace, 'maren', null)
    expect(others).toEqual([])
    expect(asked).toMatchObject({
      title: 'Approve Two rooms',
      ref,
      recordName: 'Two rooms',
      ruleName: 'Large',
      asks: { about: 'approval' },
    })
    expect(askedOf(workspace, 'rosa', null)).toEqual([])
    // What is asked is said, and of whom it is only to those who may see that.
    expect(askedOf(workspace, 'maren', new Set(['jude']))[0]).toMatchObject({
      title: 'Approve Two rooms',
      recordName: '',
    })
    answerTask(workspace, first(workspace, 'maren'), 'maren', '', { decision: 'approved' })
    expect(askedOf(workspace, 'maren', null)).toEqual([])

    const calls = larkmoor().workspace
    switchOn(calls, document({ when: [enters('hp-quoted')], then: [call({}, [], [])] }, 'Calls'))
    quoted(calls)
    expect(titles(calls)).toHaveLength(1)
    expect(askedOf(calls, 'rosa', null)).toEqual([])
  })
})
