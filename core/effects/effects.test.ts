import { describe, expect, it } from 'vitest'
import { catalogue } from '../testing/setting'
import type { RecordRef } from '../records/kinds'
import { EFFECTS, type EffectLeft, type EffectName } from './index'
import { MARKS, type MarkLeft, type MarkName } from './marks'
import { Undoing, type UndoFacts } from './undoing'
import { readWrote, sayWrote, summaryOf, undoWrote, type Wrote } from './wrote'

const deal: RecordRef = { object: 'deal', id: 1 }
const company: RecordRef = { object: 'company', id: 2 }

interface Case {
  readonly left: Wrote
  readonly says: string
  /** What taking it back puts into the plan while nothing has happened since. */
  readonly back: object
}
/** One of every kind: a kind without a case does not compile. */
const CASES: {
  readonly [K in EffectName | MarkName]: Case & { readonly left: (EffectLeft | MarkLeft) & { what: K } }
} = {
  fields: {
    left: {
      what: 'fields',
      eventSeq: 7,
      changes: [
        { field: 'units', old: null, new: 3 },
        { field: 'pipeline', old: 'a', new: 'b' },
      ],
    },
    says: 'units: empty → 3',
    back: { written: [{ ref: deal, field: 'units', old: null, value: 3 }, { field: 'pipeline' }] },
  },
  task: {
    left: { what: 'task', taskId: 4, title: 'Ring', assigneeId: 'rosa', due: '2026-11-26' },
    says: 'created task for Rosa Amara, due 26 Nov: “Ring”',
    back: { tasks: [{ id: 4, title: 'Ring' }] },
  },
  message: {
    left: { what: 'message', key: 'run-1-s1', recipient: 'vera@example.com', subject: 'Hello' },
    says: 'emailed vera@example.com',
    back: { left: ['the email to vera@example.com was sent'] },
  },
  letter: {
    left: {
      what: 'letter',
      key: 'letter-1',
      channel: 'mail',
      who: { object: 'contact', id: 5 },
      name: 'Vera Lima',
      address: 'vera@lima.example',
      subject: 'Hello',
      label: 'welcome',
    },
    says: 'email to Vera Lima (vera@lima.example): “Hello”',
    back: { left: ['the email to Vera Lima was sent'] },
  },
  request: {
    left: { what: 'request', key: 'web-1-s1', method: 'POST', path: '/orders', connection: 1 },
    says: 'sent POST /orders to Order system',
    back: { left: ['the request POST /orders was sent'] },
  },
  notice: {
    left: { what: 'notice', personId: 'rosa', subject: 'Look' },
    says: 'notified Rosa Amara: “Look”',
    back: { left: ['Rosa Amara was notified'] },
  },
  created: {
    left: { what: 'created', ref: company, eventSeq: 9, name: 'Lund' },
    says: 'created company “Lund”',
    back: { remove: [{ ref: company, name: 'Lund' }] },
  },
  link: {
    left: { what: 'link', from: deal, to: company, name: 'Lund' },
    says: 'linked to Lund',
    back: { unlink: [{ from: deal, to: company, say: 'link to Lund' }] },
  },
  label: {
    left: { what: 'label', ref: deal, eventSeq: 8, field: 'labels', old: ['press'], new: ['urgent'] },
    says: 'added “Urgent” to labels; removed “Press” from labels',
    back: { labels: [{ ref: deal, field: 'labels', added: ['urgent'], removed: ['press'] }], own: new Set([8]) },
  },
  unlink: {
    left: { what: 'unlink', from: deal, to: { object: 'contact', id: 3 }, role: 'payer', name: 'Ana' },
    says: 'unlinked from Ana',
    back: { link: [{ from: deal, to: { object: 'contact', id: 3 }, role: 'payer', say: 'link to Ana' }] },
  },
  ended: {
    left: { what: 'ended', runs: 1, because: 'qualified' },
    says: 'ended 1 waiting run: qualified',
    back: { left: ['waiting runs were ended: qualified'] },
  },
  turn: { left: { what: 'turn' }, says: '', back: {} },
  way: { left: { what: 'way', branch: 'b1', say: 'kind is Hire', seen: [] }, says: 'kind is Hire', back: {} },
  gave: {
    left: { what: 'gave', values: { 's1.gift': 'hamper' }, say: 'Gift: hamper' },
    says: 'Gift: hamper',
    back: {},
  },
  waited: {
    left: { what: 'waited', fromMs: 0, toMs: Date.UTC(2026, 10, 26, 9), say: '' },
    says: 'waited until 26 Nov 2026, 9:00',
    back: {},
  },
  planned: {
    left: { what: 'planned', dueMs: Date.UTC(2026, 10, 26, 9), say: 'after 2 days' },
    says: 'after 2 days: 26 Nov 2026, 9:00',
    back: {},
  },
  held: {
    left: { what: 'held', untilMs: Date.UTC(2026, 10, 26, 9), say: 'it is night there' },
    says: 'postponed: it is night there',
    back: {},
  },
  stop: { left: { what: 'stop', because: 'enough' }, says: 'stopped: enough', back: {} },
  unread: { left: { what: 'unread', say: 'can’t be read' }, says: 'can’t be read', back: {} },
}

const facts = (more: Partial<UndoFacts> = {}): UndoFacts => ({
  catalogue: () => catalogue,
  nowMs: () => 0,
  read: (ref) => ({ ...ref, version: 1, values: {} }),
  lastWrite: () => null,
  task: () => ({ open: true, touched: false }),
  linked: (_from, to) => to.object === 'company',
  changedSince: () => false,
  nameOf: (ref) => `${ref.object} ${ref.id}`,
  ...more,
})
const undone = (left: Wrote, more: Partial<UndoFacts> = {}) => {
  const undoing = new Undoing(facts(more), deal)
  undoWrote(left, undoing)
  return undoing
}

describe.each(Object.entries(CASES))('%s', (_kind, { left, says, back }) => {
  it('says what was done', () => {
    expect(sayWrote(left, { catalogue, object: 'deal' }, '2026-11-24')).toBe(says)
  })
  it('is read from the journal as it was written', () => {
    expect(readWrote(JSON.parse(JSON.stringify(left)) as Wrote)).toEqual(left)
  })
  it('is taken back, or says why not', () => {
    expect(undone(left)).toMatchObject(back)
  })
})

describe('what is left of effects', () => {
  it('stays where something newer stands on it', () => {
    expect(undone(CASES.task.left, { task: () => ({ open: true, touched: true }) }).left).toEqual([
      'task “Ring” has been worked on',
    ])
    expect(undone(CASES.task.left, { task: () => null }).left).toEqual(['task “Ring” is no longer open'])
    expect(undone(CASES.created.left, { changedSince: () => true }).left).toEqual(['“Lund” has changed since'])
    expect(undone(CASES.created.left, { read: () => null })).toMatchObject({ left: [], remove: [] })
    expect(undone(CASES.link.left, { linked: () => false }).unlink).toEqual([])
    expect(undone(CASES.unlink.left, { linked: () => true }).link).toEqual([])
  })
  it('of several writes of a field, goes back to what stood before the first', () => {
    const undoing = new Undoing(facts(), deal)
    for (const [eventSeq, old, value] of [
      [1, null, 3],
      [2, 3, 5],
    ] as const)
      undoWrote({ what: 'fields', eventSeq, changes: [{ field: 'units', old, new: value }] }, undoing)
    expect(undoing.written).toEqual([{ ref: deal, field: 'units', old: null, value: 5 }])
    expect([...undoing.own]).toEqual([1, 2])
  })
  it('names the kind that it does not know, or cannot read', () => {
    const unread = (say: string) => ({ what: 'unread', say: expect.stringContaining(say) as string })
    expect(readWrote({ what: 'confetti' })).toEqual(unread('“confetti” can’t be read: it is no kind of effect'))
    expect(readWrote({ what: 'task', title: 3 } as never)).toEqual(unread('“task” can’t be read: '))
    expect(readWrote({ what: 'toString' })).toEqual(unread('“toString”'))
  })
  it('tells whom it concerns', () => {
    expect(summaryOf(CASES.task.left).task).toEqual({ id: 4, assigneeId: 'rosa', queue: null })
    expect(summaryOf(CASES.created.left).made).toEqual(company)
    expect(summaryOf(CASES.notice.left).noticed).toBe('rosa')
    expect([summaryOf(CASES.waited.left).ahead, summaryOf(CASES.stop.left).ahead]).toEqual([true, false])
  })
})

it('a kind of effect is kept under its own name', () => {
  for (const [name, { kind }] of Object.entries(EFFECTS)) expect(kind).toBe(name)
  expect(Object.keys(MARKS).filter((name) => Object.hasOwn(EFFECTS, name))).toEqual([])
})
