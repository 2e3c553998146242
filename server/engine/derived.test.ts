import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { Asked, derivationsOf, differing } from '../../core/derived/derivations'
import type { RollUp } from '../../core/derived/making'
import { compileWhere, rollUp } from '../../core/derived/roll-up'
import { addDays, instantOf } from '../../core/time/dates'
import { all, condition, document, task } from '../../core/testing/rules'
import type { RecordRef } from '../../core/records/kinds'
import { refusal } from '../testing/refusal'
import { larkmoor, switchOn } from '../testing/workspace'
import { planClock, workClock } from './clockwork'
import { changeDerived, makeDerived, workDerived } from './derived'
import { changeField, fieldOf } from './fields'
import { deleteRecord, mergeRecords, restoreRecord } from './going'
import { tellHappenings } from './happenings'
import { setUpRehearsal } from './rehearsal'
import { changeCard, makeCard, previewCard, removeCard, scoresOf } from './scorecards'
import { changeSegment, makeSegment, removeSegment } from './segments'
import type { Workspace } from './workspace'
import type { GivenCard } from '../../core/scoring/card'

const control = { awaited: () => false, nowMs: () => 0, pause: () => Promise.resolve() }
const at = (date: string, hour = 9, minute = 0) => instantOf(date, hour, minute, 'Europe/Lisbon')
const deal = (workspace: Workspace, values: object = {}, linkTo: readonly RecordRef[] = []) =>
  workspace.create('deal', { name: 'Room', stage: 'hp-sized', owner: 'rosa', ...values }, linkTo, 'ines').ref
const value = (workspace: Workspace, ref: RecordRef, key: string) =>
  workspace.store.records.read(ref)?.values[key] ?? null
const formula = (workspace: Workspace, label: string, text: string, type = 'number', object = 'deal') =>
  makeDerived(
    workspace,
    { object: object as 'deal', label, description: '', type: type as 'number', made: { by: 'formula', text } },
    'ines',
  )
const roll = (workspace: Workspace, label: string, spec: Partial<RollUp>, type = 'number') =>
  makeDerived(
    workspace,
    {
      object: 'company',
      label,
      description: '',
      type: type as 'number',
      made: { by: 'rollUp', over: 'deal', what: 'count', field: null, order: null, down: false, where: all(), ...spec },
    },
    'ines',
  )
const titles = (workspace: Workspace) =>
  workspace.store.tasks
    .list({ people: null, before: null, limit: 200 })
    .map((one) => one.title)
    .reverse()
const visit = (points: number, more: object = {}) =>
  ({
    id: 'l1',
    points,
    most: null,
    for: { what: 'doing', kind: 'visit', about: '', from: null, fading: { how: 'never' }, ...more },
  }) as GivenCard['lines'][number]
const card = (...lines: GivenCard['lines']): GivenCard => ({
  name: 'Keenness',
  lines,
  least: 0,
  most: 100,
  bands: [
    { id: 'cold', name: 'Cold', from: 0 },
    { id: 'warm', name: 'Warm', from: 20 },
    { id: 'hot', name: 'Hot', from: 40 },
  ],
})
const told = (ref: RecordRef, atMs: number, about = '/prices', key: string | null = null) => ({
  record: ref,
  kind: 'visit' as const,
  about,
  atMs,
  key,
})

/** Lets the clock come to an instant, moment by moment. */
async function until(workspace: Workspace, clock: { set(atMs: number): void }, atMs: number): Promise<void> {
  planClock(workspace)
  for (let day = workspace.today(); at(day, 0) < atMs; day = addDays(day, 1)) {
    if (at(day, 0) <= workspace.clock.nowMs()) continue
    clock.set(at(day, 0))
    await workClock(workspace, control)
  }
  clock.set(atMs)
  await workClock(workspace, control)
}

/** Everything that is worked out and is not what it should be. */
function stale(workspace: Workspace): readonly string[] {
  const { all: every } = derivationsOf(workspace.catalogue())
  return (['deal', 'contact', 'company'] as const).flatMap((object) =>
    [...workspace.store.records.from(object, 0, null)].flatMap((record) => {
      const found = differing(
        every.filter((one) => one.field.object === object),
        new Asked(workspace.world, record, workspace.moment()),
      )
      return Object.entries(found).map(
        ([key, should]) =>
          `${object} ${record.id} ${key}: ${JSON.stringify(record.values[key] ?? null)} instead of ${JSON.stringify(should)}`,
      )
    }),
  )
}

describe('calculated fields', () => {
  it('are worked out in the change of what they hang on, one behind the other', () => {
    const { workspace } = larkmoor()
    formula(workspace, 'Half', 'amount / 2', 'currency')
    formula(workspace, 'Quarter', 'half / 2', 'currency')
    const ref = deal(workspace, { amount: 100 })
    expect([value(workspace, ref, 'half'), value(workspace, ref, 'quarter')]).toEqual([50, 25])
    const { event } = workspace.change(ref, { amount: 40 }, 'rosa')
    expect(event?.changes.map((change) => [change.field, change.new])).toEqual([
      ['amount', 40],
      ['half', 20],
      ['quarter', 10],
    ])
    workspace.change(ref, { amount: null }, 'rosa')
    expect([value(workspace, ref, 'half'), value(workspace, ref, 'quarter')]).toEqual([null, null])
    expect(refusal(() => workspace.change(ref, { half: 3 }, 'rosa'))).toBe('half: readOnly')
  })

  it('start rules like any other field', () => {
    const { workspace } = larkmoor()
    formula(workspace, 'Half', 'amount / 2', 'currency')
    switchOn(
      workspace,
      document({ when: [['fieldChanges', { field: 'half', how: 'past', from: null, to: 50 }]], then: [task('Large')] }),
    )
    const ref = deal(workspace, { amount: 80 })
    workspace.change(ref, { amount: 120 }, 'rosa')
    expect(titles(workspace)).toEqual(['Large'])
  })

  it('do not count as a change of the record by themselves', async () => {
    const { workspace, clock } = larkmoor()
    formula(workspace, 'Days past', 'today() - closeDate')
    switchOn(workspace, document({ when: [['changed', {}]], then: [task('Changed', { again: true })] }))
    const ref = deal(workspace, { closeDate: '2026-12-01' })
    await workDerived(workspace, control)
    await until(workspace, clock, at('2026-11-27'))
    expect([value(workspace, ref, 'daysPast'), titles(workspace)]).toEqual([-4, []])
    workspace.change(ref, { closeDate: '2026-12-02' }, 'rosa')
    expect(titles(workspace)).toEqual(['Changed'])
  })

  it('are refused with the place and the reason, and where they would go round in a circle', () => {
    const { workspace } = larkmoor()
    expect(refusal(() => formula(workspace, 'A', 'amonut * 2'))).toBe('text: 1–6: there is no “amonut” of a deal')
    expect(refusal(() => formula(workspace, 'A', 'name'))).toBe('type: it comes to a text: kept as text or long text')
    expect(refusal(() => formula(workspace, 'A', 'stageSince - now()'))).toBe(
      'text: now() is another moment all the time: a field can go by today()',
    )
    expect(refusal(() => formula(workspace, 'Amount', '1'))).toBe('label: there is a field “Amount” already')
    const a = formula(workspace, 'First', 'amount + 1')
    formula(workspace, 'Second', 'first + 1')
    const field = fieldOf(workspace, a.id)
    expect(
      refusal(() => field && changeDerived(workspace, field, { made: { by: 'formula', text: 'second + 1' } }, 'ines')),
    ).toMatch(
      /^text: goes round in a circle: (First → Second → First|this field → Second → this field|Second → this field → Second)$/,
    )
    roll(workspace, 'Sum', { what: 'sum', field: 'first' })
    expect(
      refusal(() => field && changeDerived(workspace, field, { made: { by: 'formula', text: 'company.sum' } }, 'ines')),
    ).toContain('goes round in a circle')
    expect(refusal(() => field && changeField(workspace, field, { archived: true }))).toBe(
      'archived: Second is worked out from it',
    )
  })

  it('are worked out for all records when somebody says how, and those that hang on them, as no change of anything', async () => {
    const { workspace } = larkmoor()
    const refs = [100, 200, null].map((amount) => deal(workspace, { amount }))
    const { id } = formula(workspace, 'Half', 'amount / 2', 'currency')
    formula(workspace, 'Double', 'half * 4', 'currency')
    await workDerived(workspace, control)
    const values = () => refs.map((ref) => [value(workspace, ref, 'half'), value(workspace, ref, 'double')])
    expect(values()).toEqual([
      [50, 200],
      [100, 400],
      [null, null],
    ])
    const seq = workspace.store.events.last()
    const field = fieldOf(workspace, id)
    if (field) changeDerived(workspace, field, { made: { by: 'formula', text: 'amount * 0.25' } }, 'ines')
    await workDerived(workspace, control)
    expect(values()).toEqual([
      [25, 100],
      [50, 200],
      [null, null],
    ])
    expect(workspace.store.events.last()).toBe(seq)
    expect(stale(workspace)).toEqual([])
  })

  it('that go by today() follow the day, in small commits, and rules hear of real changes alone', async () => {
    const { workspace, clock } = larkmoor()
    formula(workspace, 'Days past', 'today() - closeDate')
    switchOn(
      workspace,
      document({
        when: [['fieldChanges', { field: 'daysPast', how: 'past', from: null, to: 14 }]],
        then: [task('Ask about {{deal.name}}')],
      }),
    )
    const [near, far, none] = ['2026-11-12', '2026-12-30', null].map((closeDate, i) =>
      deal(workspace, { name: `D${i}`, closeDate }),
    )
    expect([near, far, none].map((ref) => ref && value(workspace, ref, 'daysPast'))).toEqual([12, -36, null])
    await workDerived(workspace, control)
    await until(workspace, clock, at('2026-11-26'))
    expect([near, far, none].map((ref) => ref && value(workspace, ref, 'daysPast'))).toEqual([14, -34, null])
    expect(titles(workspace)).toEqual([])
    await until(workspace, clock, at('2026-12-20'))
    expect(titles(workspace)).toEqual(['Ask about D0'])
    expect(none && workspace.store.events.ofRecord(none, 9)).toHaveLength(1)
    // A whole week in which nothing ran is made up for at once.
    clock.set(at('2026-12-30'))
    await workClock(workspace, control)
    expect([value(workspace, far ?? { object: 'deal', id: 0 }, 'daysPast'), stale(workspace)]).toEqual([0, []])
  })
})

describe('roll-ups', () => {
  it('follow linked records and links, deletions, merges and what comes back', () => {
    const { workspace } = larkmoor()
    roll(workspace, 'Deals', {})
    roll(workspace, 'Sum', { what: 'sum', field: 'amount' }, 'currency')
    roll(
      workspace,
      'Next end',
      {
        what: 'first',
        field: 'closeDate',
        order: 'amount',
        down: true,
        where: all(condition('kind', 'is', { value: 'hire' })),
      },
      'date',
    )
    roll(workspace, 'Earliest', { what: 'earliest', field: 'closeDate' }, 'date')
    const [a, b] = ['A', 'B'].map((name) => workspace.create('company', { name }, [], 'ines').ref) as [
      RecordRef,
      RecordRef,
    ]
    const of = (ref: RecordRef) => ['deals', 'sum', 'nextEnd', 'earliest'].map((key) => value(workspace, ref, key))
    expect(of(a)).toEqual([0, null, null, null])
    const one = deal(workspace, { amount: 10, closeDate: '2026-12-01', kind: 'hire' }, [a])
    const two = deal(workspace, { amount: 30.5, closeDate: '2026-12-24', kind: 'purchase' })
    expect(of(a)).toEqual([1, 10, '2026-12-01', '2026-12-01'])
    workspace.link(two, a, '', false, 'ines')
    expect(of(a)).toEqual([2, 40.5, '2026-12-01', '2026-12-01'])
    workspace.change(two, { kind: 'hire' }, 'rosa')
    expect(of(a)).toEqual([2, 40.5, '2026-12-24', '2026-12-01'])
    workspace.unlink(one, a, 'ines')
    expect(of(a)).toEqual([1, 30.5, '2026-12-24', '2026-12-24'])
    deleteRecord(workspace, two, 'ines')
    expect(of(a)).toEqual([0, null, null, null])
    restoreRecord(workspace, two, 'ines')
    expect(of(a)).toEqual([1, 30.5, '2026-12-24', '2026-12-24'])
    workspace.link(one, b, '', false, 'ines')
    mergeRecords(workspace, a, b.id, [], 'ines')
    expect([...of(a), stale(workspace)]).toEqual([2, 40.5, '2026-12-24', '2026-12-01', []])
  })

  it('start rules, in the chain of the change that they follow', () => {
    const { workspace } = larkmoor()
    roll(workspace, 'Deals', { where: all(condition('stage', 'is', { value: 'hp-signed' })) })
    switchOn(
      workspace,
      document({
        object: 'company',
        when: [['fieldChanges', { field: 'deals', how: 'up', from: null, to: null }]],
        then: [task('Thank {{company.name}}')],
      }),
    )
    const company = workspace.create('company', { name: 'A', owner: 'rosa' }, [], 'ines').ref
    const ref = deal(workspace, {}, [company])
    workspace.change(ref, { stage: 'hp-signed' }, 'rosa')
    expect(titles(workspace)).toEqual(['Thank A'])
    const events = workspace.store.events.ofRecord(company, 1)
    expect(events[0]).toMatchObject({
      cause: { by: 'kept', of: ['deal', ref.id] },
      depth: 0,
      chainId: workspace.store.events.ofRecord(ref, 1)[0]?.chainId,
    })
  })

  it('are dates that rules go by, and move what hangs on them', async () => {
    const { workspace, clock } = larkmoor()
    roll(
      workspace,
      'Renewal',
      { what: 'latest', field: 'closeDate', where: all(condition('stage', 'is', { value: 'hp-signed' })) },
      'date',
    )
    await workDerived(workspace, control)
    switchOn(
      workspace,
      document({
        object: 'company',
        when: [
          [
            'atDate',
            {
              field: 'renewal',
              side: 'before',
              amount: { count: 3, unit: 'days' },
              minute: 510,
              zone: 'workspace',
              every: 'once',
              leap: 'feb28',
              months: [],
              weekdays: [],
            },
          ],
        ],
        then: [task('Renew {{company.name}}')],
      }),
    )
    const company = workspace.create('company', { name: 'A', owner: 'rosa' }, [], 'ines').ref
    const first = deal(workspace, { stage: 'hp-signed', closeDate: '2026-12-01' }, [company])
    planClock(workspace)
    expect(workspace.store.waits.timers()[0]?.dueMs).toBe(at('2026-11-28', 8, 30))
    deal(workspace, { stage: 'hp-signed', closeDate: '2026-12-20' }, [company])
    await until(workspace, clock, at('2026-12-10'))
    expect(titles(workspace)).toEqual([])
    deleteRecord(workspace, first, 'ines')
    await until(workspace, clock, at('2026-12-18'))
    expect(titles(workspace)).toEqual(['Renew A'])
  })

  it('do not go round for ever when rules link because of them', () => {
    const { workspace } = larkmoor()
    roll(workspace, 'Deals', {})
    switchOn(
      workspace,
      document({
        object: 'company',
        when: [['fieldChanges', { field: 'deals', how: 'anything', from: null, to: null }]],
        then: [['createRecord', { make: 'deal', name: 'again', stage: 'hp-visit', again: true }]],
      }),
    )
    const company = workspace.create('company', { name: 'A' }, [], 'ines').ref
    deal(workspace, {}, [company])
    expect(workspace.store.records.count('deal')).toBeLessThan(15)
    expect(stale(workspace)).toEqual([])
  })
})

describe('scores', () => {
  const many = async (): Promise<
    ReturnType<typeof larkmoor> & { readonly contact: RecordRef; readonly company: RecordRef }
  > => {
    const made = larkmoor()
    const { workspace } = made
    makeCard(
      workspace,
      'contact',
      card({ ...visit(5), most: 30, for: { ...visit(5).for, about: '/prices' } } as GivenCard['lines'][number], {
        id: 'l2',
        points: 12,
        most: null,
        for: { what: 'being', where: all(condition('buyingRole', 'is', { value: 'decides' })) },
      }),
      'ines',
    )
    makeCard(
      workspace,
      'company',
      { ...card(visit(2, { from: 'contact', fading: { how: 'half', days: 10 } })), name: 'Stir' },
      'ines',
    )
    await workDerived(workspace, control)
    const company = workspace.create('company', { name: 'Oven & Co' }, [], 'ines').ref
    const contact = workspace.create(
      'contact',
      { name: 'Ada', email: 'ada@oven.example', owner: 'rosa' },
      [company],
      'ines',
    ).ref
    return { ...made, contact, company }
  }

  it('grow with what happens and what a record is, up to where a line ends, and say why', async () => {
    const { workspace, contact, company } = await many()
    expect(value(workspace, contact, 'keenness')).toBe(0)
    expect(
      tellHappenings(workspace, [
        ...Array.from({ length: 8 }, (_, i) =>
          told(contact, workspace.clock.nowMs() - i * 1000, '/prices/rooms', `k${i}`),
        ),
        told(contact, workspace.clock.nowMs(), '/jobs'),
        told(contact, 0, '', 'k0'),
        { ...told(contact, 0), record: { email: 'nobody@x.example' } },
      ]),
    ).toEqual({ kept: 9, known: 1, refused: [{ row: 11, text: 'no contact has the address nobody@x.example' }] })
    expect([
      value(workspace, contact, 'keenness'),
      value(workspace, contact, 'keennessBand'),
      value(workspace, company, 'stir'),
    ]).toEqual([30, 'warm', 18])
    workspace.change(contact, { buyingRole: 'decides' }, 'ines')
    expect([value(workspace, contact, 'keenness'), value(workspace, contact, 'keennessBand')]).toEqual([42, 'hot'])
    expect(scoresOf(workspace, contact)).toMatchObject([
      {
        card: { name: 'Keenness' },
        points: 42,
        band: 'Hot',
        lines: [
          { text: 'visits of a page with “/prices” in its address', points: 30, times: 8, capped: true },
          { text: 'its buying role is Decides', points: 12, times: 1 },
        ],
      },
    ])
    expect(stale(workspace)).toEqual([])
  })

  it('fade as days go by', async () => {
    const { workspace, clock, contact, company } = await many()
    tellHappenings(
      workspace,
      Array.from({ length: 10 }, () => told(contact, workspace.clock.nowMs())),
    )
    expect(value(workspace, company, 'stir')).toBe(20)
    await until(workspace, clock, at('2026-12-04'))
    expect(value(workspace, company, 'stir')).toBe(10)
    await until(workspace, clock, at('2026-12-14'))
    expect([value(workspace, company, 'stir'), stale(workspace)]).toEqual([5, []])
  })

  it('start a rule at each crossing once, and again only after having gone back far enough', async () => {
    const { workspace, contact } = await many()
    switchOn(
      workspace,
      document({
        object: 'contact',
        when: [['scoreCrosses', { field: 'keenness', how: 'past', points: 40, margin: 5, band: null }]],
        then: [task('Ring', { again: true })],
      }),
    )
    tellHappenings(
      workspace,
      Array.from({ length: 6 }, () => told(contact, workspace.clock.nowMs())),
    )
    const set = (role: string | null) => workspace.change(contact, { buyingRole: role }, 'ines')
    set('decides')
    expect([value(workspace, contact, 'keenness'), titles(workspace).length]).toEqual([42, 1])
    // Back to 30, which is far enough.
    set(null)
    set('decides')
    expect(titles(workspace)).toHaveLength(2)
    const [one] = workspace.catalogue().data.scorecards ?? []
    if (one)
      changeCard(
        workspace,
        one,
        {
          ...one,
          lines: [
            ...one.lines,
            {
              id: 'l3',
              points: -3,
              most: null,
              for: { what: 'being', where: all(condition('language', 'isEmpty', {}, true)) },
            },
          ],
          least: one.least,
          most: one.most,
          bands: [...one.bands],
          name: one.name,
        } as GivenCard,
        'ines',
      )
    await workDerived(workspace, control)
    for (const language of ['Polish', null, 'Polish', null]) workspace.change(contact, { language }, 'ines')
    expect([value(workspace, contact, 'keenness'), titles(workspace).length]).toEqual([42, 2])
  })

  it('take a contact that has become keen enough to a deal on the board', async () => {
    const { workspace, contact, company } = await many()
    switchOn(
      workspace,
      document({
        object: 'contact',
        when: [['scoreCrosses', { field: 'keennessBand', how: 'band', points: 0, margin: 0, band: 'warm' }]],
        then: [task('x')],
      }),
    )
    switchOn(
      workspace,
      document({
        object: 'contact',
        when: [['scoreCrosses', { field: 'keenness', how: 'band', points: 0, margin: 0, band: 'warm' }]],
        then: [['qualify', { stage: 'enq-fresh', name: '{{contact.name}}', company: true, again: false }]],
      }),
    )
    tellHappenings(
      workspace,
      Array.from({ length: 4 }, () => told(contact, workspace.clock.nowMs())),
    )
    const [link] = workspace.store.links.linked(contact, 'deal')
    expect(link && workspace.store.records.read({ object: 'deal', id: link.id })?.values).toMatchObject({
      name: 'Ada',
      stage: 'enq-fresh',
    })
    expect(titles(workspace)).toEqual([])
    expect(value(workspace, company, 'stir')).toBe(8)
  })

  it('show what a change of the card would do before it is kept', async () => {
    const { workspace, contact } = await many()
    workspace.create('contact', { name: 'Bo' }, [], 'ines')
    tellHappenings(
      workspace,
      Array.from({ length: 4 }, () => told(contact, workspace.clock.nowMs())),
    )
    const [one] = workspace.catalogue().data.scorecards ?? []
    const preview = previewCard(workspace, 'contact', card(visit(15)), one?.id ?? null)
    expect(preview).toMatchObject({
      looked: 2,
      total: 2,
      crossings: 1,
      crossing: [{ name: 'Ada', before: 20, after: 60, from: 'Warm', to: 'Hot' }],
      lines: [{ id: 'l1', points: 60, records: 1 }],
      bands: [
        { name: 'Cold', before: 1, after: 1 },
        { name: 'Warm', before: 1, after: 0 },
        { name: 'Hot', before: 0, after: 1 },
      ],
    })
    expect([preview.before, preview.after].map((bars) => bars?.reduce((sum, bar) => sum + bar, 0))).toEqual([2, 2])
    expect(value(workspace, contact, 'keenness')).toBe(20)
  })

  it('are refused when their bands or lines do not fit, and stay while something goes by them', async () => {
    const { workspace } = await many()
    expect(refusal(() => makeCard(workspace, 'contact', { ...card(visit(1)), name: 'keenness' }, 'ines'))).toBe(
      'name: there is a scorecard “Keenness” already',
    )
    expect(refusal(() => makeCard(workspace, 'contact', { ...card(visit(0)), name: 'X' }, 'ines'))).toBe(
      'lines.0.points: a line gives or takes some points',
    )
    expect(
      refusal(() =>
        makeCard(
          workspace,
          'contact',
          {
            ...card(visit(1)),
            name: 'X',
            bands: [
              { id: 'a', name: 'A', from: 5 },
              { id: 'b', name: 'B', from: 5 },
            ],
          },
          'ines',
        ),
      ),
    ).toBe('bands.1.from: B begins where the band before it does, or below')
    const [one] = workspace.catalogue().data.scorecards ?? []
    const rule = switchOn(
      workspace,
      document(
        {
          object: 'contact',
          when: [['scoreCrosses', { field: 'keenness', how: 'past', points: 4, margin: 0, band: null }]],
          then: [task('x')],
        },
        'Keen',
      ),
    )
    expect(refusal(() => one && removeCard(workspace, one))).toBe(': the rule “Keen” names it')
    workspace.store.rules.setState(rule, 'archived', 'ines', 0)
    if (one) removeCard(workspace, one)
    expect(workspace.catalogue().field('contact', 'keenness')).toBeNull()
  })
})

describe('segments that start rules', () => {
  it('hear of changes, links and days, and of nothing that was so before', async () => {
    const { workspace, clock } = larkmoor()
    const past = makeSegment(
      workspace,
      {
        object: 'deal',
        name: 'Long past',
        columns: [],
        sort: '',
        down: false,
        filter: all(
          condition('closeDate', 'longAgo', { amount: { count: 2, unit: 'weeks' } }),
          condition('stage', 'isAnyOf', { values: ['hp-sized', 'hp-quoted'] }),
        ),
      },
      'ines',
    )
    const inside = deal(workspace, { name: 'Inside', closeDate: '2026-11-01' })
    switchOn(
      workspace,
      document({ when: [['segmentEntered', { segment: past }]], then: [task('In {{deal.name}}')] }, 'Enters'),
    )
    switchOn(
      workspace,
      document({ when: [['segmentLeft', { segment: past }]], then: [task('Out {{deal.name}}')] }, 'Leaves'),
    )
    expect(titles(workspace)).toEqual([])
    deal(workspace, { name: 'Soon', closeDate: '2026-11-12' })
    workspace.change(inside, { stage: 'hp-signed' }, 'rosa')
    workspace.change(inside, { stage: 'hp-quoted' }, 'rosa')
    expect(titles(workspace)).toEqual(['Out Inside', 'In Inside'])
    await until(workspace, clock, at('2026-11-28'))
    expect(titles(workspace)).toEqual(['Out Inside', 'In Inside', 'In Soon'])
    const segment = workspace.store.segments.get(past)
    if (segment) changeSegment(workspace, segment, { filter: all(condition('stage', 'is', { value: 'hp-visit' })) })
    expect([titles(workspace).length, stale(workspace)]).toEqual([3, []])
    expect(refusal(() => removeSegment(workspace, past))).toBe(': the rule “Enters” names it')
  })

  it('follow records two links away', () => {
    const { workspace } = larkmoor()
    const linked = (object: 'company' | 'deal', group: object) =>
      ({ kind: 'linked', id: `k-${object}`, object, how: 'any', count: 1, group }) as const
    const id = makeSegment(
      workspace,
      {
        object: 'contact',
        name: 'Of busy firms',
        columns: [],
        sort: '',
        down: false,
        filter: all(
          linked('company', {
            ...all(linked('deal', { ...all(condition('amount', 'moreThan', { value: 100 })), id: 'g2' }) as never),
            id: 'g1',
          }) as never,
        ),
      },
      'ines',
    )
    switchOn(
      workspace,
      document({ object: 'contact', when: [['segmentEntered', { segment: id }]], then: [task('In {{contact.name}}')] }),
    )
    const company = workspace.create('company', { name: 'A' }, [], 'ines').ref
    workspace.create('contact', { name: 'Ada', owner: 'rosa' }, [company], 'ines')
    const ref = deal(workspace, { amount: 50 }, [company])
    expect(titles(workspace)).toEqual([])
    workspace.change(ref, { amount: 500 }, 'rosa')
    expect(titles(workspace)).toEqual(['In Ada'])
    expect(stale(workspace)).toEqual([])
  })
})

describe('a rehearsal', () => {
  it('turns the day and works values out as the live world does', async () => {
    const { workspace, clock } = larkmoor()
    formula(workspace, 'Days past', 'today() - closeDate')
    const segment = makeSegment(
      workspace,
      {
        object: 'deal',
        name: 'Past',
        columns: [],
        sort: '',
        down: false,
        filter: all(condition('daysPast', 'moreThan', { value: 3 })),
      },
      'ines',
    )
    for (const [name, closeDate] of [
      ['A', '2026-11-25'],
      ['B', '2026-12-01'],
      ['C', '2026-11-01'],
    ] as const)
      deal(workspace, { name, closeDate })
    await workDerived(workspace, control)
    const rules = [
      document(
        {
          when: [['fieldChanges', { field: 'daysPast', how: 'past', from: null, to: 5 }]],
          then: [task('Past 5: {{deal.name}}')],
        },
        'Five',
      ),
      document({ when: [['segmentEntered', { segment }]], then: [task('In: {{deal.name}}')] }, 'Segment'),
    ]
    const rehearsal = setUpRehearsal(workspace, {
      rules: rules.map((one, i) => ({ ruleId: 100 + i, document: one })),
      object: 'deal',
      ids: null,
      filter: null,
      days: 20,
      back: false,
      script: [],
    })
    rehearsal.goOn(() => false)
    const foretold = rehearsal.world.tasks.map((one) => one.title)
    for (const one of rules) switchOn(workspace, one)
    await until(workspace, clock, at('2026-12-14'))
    expect(foretold).toEqual(['In: A', 'Past 5: A', 'In: B', 'Past 5: B'])
    expect(titles(workspace)).toEqual(foretold)
  })
})

describe('after any operations', () => {
  it(
    'everything that is worked out is what it would be from scratch, and both ways of a roll-up agree',
    async () => {
      const runs = Number(process.env.SKY_LEVER_CASES ?? 150)
      const { workspace, clock } = larkmoor()
      formula(workspace, 'Half', 'amount / 2', 'currency')
      formula(workspace, 'Days past', 'today() - closeDate')
      formula(workspace, 'Of firm', 'sum(companies.coldVolume) + count(contacts)')
      roll(workspace, 'Deals', {
        where: all(condition('closeDate', 'inNext', { amount: { count: 10, unit: 'days' } })),
      })
      roll(
        workspace,
        'Sum',
        { what: 'sum', field: 'half', where: all(condition('kind', 'is', { value: 'hire' })) },
        'currency',
      )
      roll(workspace, 'Most', { what: 'most', field: 'daysPast' })
      roll(workspace, 'Last end', { what: 'first', field: 'closeDate', order: 'amount', down: true }, 'date')
      makeCard(workspace, 'contact', card(visit(7, { fading: { how: 'half', days: 5 } })), 'ines')
      makeCard(
        workspace,
        'company',
        {
          ...card(visit(3, { from: 'contact', fading: { how: 'gone', days: 4 } }), {
            id: 'l2',
            points: 5,
            most: null,
            for: { what: 'being', where: all(condition('deals', 'moreThan', { value: 0 })) },
          }),
          name: 'Stir',
        },
        'ines',
      )
      const segment = makeSegment(
        workspace,
        {
          object: 'company',
          name: 'Stirred',
          columns: [],
          sort: '',
          down: false,
          filter: all(condition('stir', 'moreThan', { value: 4 })),
        },
        'ines',
      )
      switchOn(
        workspace,
        document({ object: 'company', when: [['segmentEntered', { segment }]], then: [task('x', { again: true })] }),
      )
      await workDerived(workspace, control)
      planClock(workspace)
      const id = fc.integer({ min: 0, max: 5 })
      const date = fc.option(fc.constantFrom('2026-11-20', '2026-11-30', '2026-12-04', '2026-12-20'))
      const deals = fc.record({
        amount: fc.option(fc.constantFrom(0, 10, 99.9, 250)),
        closeDate: date,
        kind: fc.option(fc.constantFrom('hire', 'purchase')),
      })
      const operation = fc.oneof(
        fc.record({ do: fc.constant('deal' as const), values: deals, to: id }),
        fc.record({ do: fc.constant('change' as const), id, values: deals }),
        fc.record({ do: fc.constant('volume' as const), id, volume: fc.option(fc.constantFrom(1, 20)) }),
        fc.record({ do: fc.constantFrom('link' as const, 'unlink' as const), id, to: id }),
        fc.record({ do: fc.constant('visit' as const), id, ago: fc.integer({ min: 0, max: 9 }) }),
        fc.record({ do: fc.constant('join' as const), id, to: id }),
        fc.record({ do: fc.constantFrom('delete' as const, 'merge' as const), id, to: id }),
        fc.constant({ do: 'restore' as const }),
        fc.constant({ do: 'day' as const }),
      )
      const of = (object: 'deal' | 'contact' | 'company', n: number): RecordRef | null => {
        const refs = workspace.store.records.behind(object, 0, 500)
        return refs[n % Math.max(1, refs.length)] ?? null
      }
      for (const name of ['A', 'B', 'C']) workspace.create('company', { name, owner: 'rosa' }, [], 'ines')
      for (const name of ['Ada', 'Bo', 'Cy']) workspace.create('contact', { name }, [], 'ines')
      const gone: RecordRef[] = []
      await fc.assert(
        fc.asyncProperty(operation, async (op) => {
          switch (op.do) {
            case 'deal': {
              const to = of('company', op.to)
              if (workspace.store.records.count('deal') < 25)
                workspace.create('deal', { name: 'D', stage: 'hp-sized', ...op.values }, to ? [to] : [], 'ines')
              break
            }
            case 'change': {
              const ref = of('deal', op.id)
              if (ref) workspace.change(ref, op.values, 'ines')
              break
            }
            case 'volume': {
              const ref = of('company', op.id)
              if (ref) workspace.change(ref, { coldVolume: op.volume }, 'ines')
              break
            }
            case 'link':
            case 'unlink': {
              const [from, to] = [of('deal', op.id), of(op.to % 2 ? 'company' : 'contact', op.to)]
              if (from && to) {
                if (op.do === 'link') workspace.link(from, to, '', op.id % 2 === 0, 'ines')
                else workspace.unlink(from, to, 'ines')
              }
              break
            }
            case 'join': {
              const [from, to] = [of('contact', op.id), of('company', op.to)]
              if (from && to) workspace.link(from, to, '', false, 'ines')
              break
            }
            case 'visit': {
              const ref = of('contact', op.id)
              if (ref) tellHappenings(workspace, [told(ref, workspace.clock.nowMs() - op.ago * 86_400_000)])
              break
            }
            case 'delete': {
              const ref = of('deal', op.id)
              if (ref && workspace.store.records.count('deal') > 2) {
                deleteRecord(workspace, ref, 'ines')
                gone.push({ object: 'deal', id: ref.id })
              }
              break
            }
            case 'merge': {
              const [a, b] = [of('contact', op.id), of('contact', op.to)]
              if (a && b && a.id !== b.id && workspace.store.records.count('contact') > 2) {
                mergeRecords(workspace, { object: 'contact', id: a.id }, b.id, [], 'ines')
                gone.push({ object: 'contact', id: b.id })
              }
              break
            }
            case 'restore': {
              const ref = gone.pop()
              if (ref && workspace.store.gone.get(ref)) {
                const row = workspace.store.gone.get(ref)
                if (
                  row &&
                  (row.intoId === null || workspace.store.records.read({ object: ref.object, id: row.intoId }))
                )
                  restoreRecord(workspace, ref, 'ines')
              }
              break
            }
            case 'day':
              await turnTo(workspace, clock, addDays(workspace.today(), 1))
              break
          }
          expect(stale(workspace)).toEqual([])
          const { world } = workspace
          for (const { field } of derivationsOf(workspace.catalogue()).all) {
            const { made } = field
            if (made?.by !== 'rollUp') continue
            for (const record of workspace.store.records.behind('company', 0, 10)) {
              expect(world.rollUp(record, field, made, workspace.moment())).toEqual(
                rollUp(
                  made,
                  compileWhere(made, workspace.catalogue()),
                  world.linked(record, made.over),
                  (ref, object) => world.linked(ref, object),
                  workspace.moment(),
                ),
              )
            }
          }
        }),
        { numRuns: runs, endOnFailure: true },
      )
    },
    60_000 + 200 * Number(process.env.SKY_LEVER_CASES ?? 0),
  )
})

async function turnTo(workspace: Workspace, clock: { set(atMs: number): void }, day: string): Promise<void> {
  clock.set(at(day, 0))
  await workClock(workspace, control)
  clock.set(at(day))
}
