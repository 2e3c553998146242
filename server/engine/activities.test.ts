import { describe, expect, it } from 'vitest'
import { larkmoor, switchOn } from '../testing/workspace'
import { workClock } from './clockwork'
import { mergeRecords, restoreRecord } from './going'
import { whyFor } from '../views/why'
import { readActivities, tellActivities } from './activities'
import { ACTIVITY_NAMES } from '../../core/activities'
import { listOf } from '../../core/language/counts'
import type { RecordRef } from '../../core/records/kinds'
import { document, enters, given, task } from '../../core/testing/rules'

describe('activities', () => {
  it('are read from a file with its columns in any order, row by row', () => {
    const { workspace } = larkmoor()
    const { given, refused } = readActivities(
      workspace,
      'Key;Kind;contact;About;At;email\nk1;visit;7;/prices;24.11.2026 09:00;\n;form;;Quote;;ada@x.example\n;dance;7;;;\n;visit;x7;;;\n;visit;;;;\n;visit;7;;yesterday;\n',
    )
    expect(given).toEqual([
      {
        row: 2,
        record: { object: 'contact', id: 7 },
        kind: 'visit',
        about: '/prices',
        data: {},
        atMs: Date.UTC(2026, 10, 24, 9),
        key: 'k1',
      },
      { row: 3, record: { email: 'ada@x.example' }, kind: 'form', about: 'Quote', data: {}, atMs: null, key: null },
    ])
    expect(refused).toEqual([
      { row: 4, text: `“dance” is not a kind of activity. Use ${listOf(ACTIVITY_NAMES, 'or')}.` },
      { row: 5, text: '“x7” is not the number of a contact.' },
      { row: 6, text: 'No record given.' },
      { row: 7, text: '“yesterday” is not a date and time. Use 2026-11-24 9:30.' },
    ])
    expect(readActivities(workspace, 'a,b\n1,2\n').refused).toEqual([
      { row: 1, text: 'The file needs a column “kind” and one of “email”, “contact”, “company”, “deal”.' },
    ])
  })

  it('are kept once by their key, for records that are there, and not ahead of the clock', () => {
    const { workspace } = larkmoor()
    const nowMs = workspace.clock.nowMs()
    const ref = workspace.create('contact', { name: 'Ada', email: 'Ada@X.example' }, [], 'ines').ref
    const one = {
      record: { email: ' ADA@x.example ' },
      kind: 'visit',
      about: ' /prices ',
      atMs: nowMs - 1000,
      key: 'a',
    } as const
    expect(
      tellActivities(workspace, [
        one,
        one,
        { ...one, key: null },
        { ...one, key: 'b', atMs: nowMs + 60_000 },
        { ...one, key: 'c', atMs: nowMs + 3_600_000 },
        { ...one, key: 'd', record: { object: 'deal', id: 99 } },
      ]),
    ).toEqual({
      kept: 3,
      known: 1,
      unknown: 0,
      refused: [
        { row: 5, text: 'The time is in the future.' },
        { row: 6, text: 'Deal 99 does not exist.' },
      ],
    })
    // A sender's clock that runs ahead a little does not date anything into the future.
    expect(workspace.store.activities.of(ref).map(({ about, atMs }) => [about, atMs])).toEqual([
      ['/prices', nowMs - 1000],
      ['/prices', nowMs - 1000],
      ['/prices', nowMs],
    ])
    expect(workspace.store.events.ofRecord(ref, 9).filter((event) => event.kind === 'happened')).toHaveLength(3)
  })

  it('go with a record that is merged, and back when it is taken back', () => {
    const { workspace } = larkmoor()
    const [a, b] = ['a', 'b'].map(
      (name) => workspace.create('contact', { name, email: `${name}@x.example` }, [], 'ines').ref,
    )
    if (!a || !b) throw new Error('two contacts')
    for (const ref of [a, b, b])
      tellActivities(workspace, [{ record: ref, kind: 'call', about: '', atMs: null, key: null }])
    mergeRecords(workspace, a, b.id, [], 'ines')
    tellActivities(workspace, [{ record: a, kind: 'form', about: 'since', atMs: null, key: null }])
    expect([a, b].map((ref) => workspace.store.activities.of(ref).length)).toEqual([4, 0])
    restoreRecord(workspace, b, 'ines')
    expect([a, b].map((ref) => workspace.store.activities.of(ref).map((one) => one.kind))).toEqual([
      ['call', 'form'],
      ['call', 'call'],
    ])
  })

  const prices = { kind: 'visit', by: 'contact', about: 'Prices', late: false } as const
  const visit = (record: RecordRef, more: object = {}) =>
    ({ record, kind: 'visit', about: '/prices?size=2', atMs: null, key: null, ...more }) as const

  it('start rules of the contact and of what it is linked to, each once, and nobody else’s is named there', () => {
    const { workspace } = larkmoor()
    const ref = workspace.create('contact', { name: 'Ada Lind', owner: 'rosa' }, [], 'ines').ref
    const linked = workspace.create('deal', { name: 'Cold room', stage: 'hp-sized', owner: 'rosa' }, [ref], 'ines').ref
    const other = workspace.create('deal', { name: 'Other', stage: 'hp-sized', owner: 'rosa' }, [], 'ines').ref
    const ruleId = switchOn(workspace, document({ when: [['activity', prices]], then: [task('Ring')] }))
    const own = switchOn(
      workspace,
      document({ object: 'contact', when: [['activity', prices]], then: [task('Greet')] }),
    )
    tellActivities(workspace, [visit(ref, { key: 'a' }), visit(ref, { key: 'a' }), visit(ref, { about: '/about' })])
    const runs = (rule: number) =>
      workspace.store.runs.list({ ruleId: rule, limit: 9 }).map((run) => [run.object, run.recordId, run.because])
    expect(runs(ruleId)).toEqual([['deal', linked.id, 'a contact visited a page: /prices?size=2']])
    expect(runs(own)).toEqual([['contact', ref.id, 'Ada Lind visited a page: /prices?size=2']])
    expect(workspace.store.events.ofRecord(other, 9).map((event) => event.kind)).toEqual(['created'])
  })

  it('start nothing when they are told of late, unless the rule wants it', () => {
    const { workspace } = larkmoor()
    const ref = workspace.create('contact', { name: 'Ada Lind', owner: 'rosa' }, [], 'ines').ref
    const rule = (late: boolean) =>
      switchOn(
        workspace,
        document({ object: 'contact', when: [['activity', { ...prices, late }]], then: [task('Greet')] }),
      )
    const [strict, open] = [rule(false), rule(true)]
    const nowMs = workspace.clock.nowMs()
    tellActivities(workspace, [visit(ref, { atMs: nowMs - 3_600_001 })])
    const runs = (id: number) => workspace.store.runs.list({ ruleId: id, limit: 9 }).length
    expect([runs(strict), runs(open)]).toEqual([0, 1])
    const rule_ = workspace.store.rules.get(strict)
    expect(rule_ && whyFor(workspace, rule_, ref)?.answer).toBe(
      'Its trigger has not happened: a contact visits a page whose address contains “Prices”, received within an hour. Ada Lind visited a page: /prices?size=2, but it was received more than an hour later (24 Nov 2026, 9:12).',
    )
    tellActivities(workspace, [visit(ref, { atMs: nowMs - 3_600_000 })])
    expect([runs(strict), runs(open)]).toEqual([1, 2])
  })

  it('end a wait for them when they are done behind its beginning, whenever one is told', () => {
    const { workspace, clock } = larkmoor()
    const ref = workspace.create('contact', { name: 'Ada Lind', owner: 'rosa' }, [], 'ines').ref
    const ruleId = switchOn(
      workspace,
      document({
        when: [enters('hp-quoted')],
        then: [
          [
            'waitForActivity',
            { kind: 'message', by: 'contact', about: '', most: { count: 3, unit: 'days' }, recheck: false },
            [null, task('Thank')],
            [null, task('Ring')],
          ],
        ],
      }),
    )
    const { ref: deal } = workspace.create(
      'deal',
      { name: 'Cold room', stage: 'hp-sized', owner: 'rosa' },
      [ref],
      'ines',
    )
    workspace.change(deal, { stage: 'hp-quoted' }, 'ines')
    const began = clock.nowMs()
    clock.set(began + 2 * 3_600_000)
    const answer = { record: ref, kind: 'message', about: 'Re: quote', key: null } as const
    const states = () => workspace.store.runs.list({ ruleId, limit: 9 }).map((run) => run.state)
    tellActivities(workspace, [{ ...answer, atMs: began - 1 }])
    expect(states()).toEqual(['waiting'])
    tellActivities(workspace, [{ ...answer, atMs: began + 60_000 }])
    expect(states()).toEqual(['done'])
    expect(workspace.store.tasks.openFor('rosa', '9999-12-31').map((one) => one.title)).toEqual(['Thank'])
  })

  it('answer “since step 2”, in a run that waited meanwhile, only by what was done behind that step', async () => {
    const ring = async (answeredAfterMs: number) => {
      const { workspace, clock } = larkmoor()
      const day = { at: 'after', amount: { count: 1, unit: 'days' }, minute: null } as const
      switchOn(
        workspace,
        document({
          object: 'contact',
          when: [['created', {}]],
          then: [
            ['wait', { until: day, recheck: false }],
            task('Send it'),
            ['wait', { until: day, recheck: false }],
            [
              'choosePath',
              {},
              [
                given('g1', {
                  kind: 'did',
                  id: 'd1',
                  how: 'none',
                  count: 1,
                  activity: 'message',
                  by: 'contact',
                  span: 'step',
                  days: 1,
                  step: 's2',
                  group: { kind: 'group', id: 'd1w', mode: 'all', items: [] },
                }),
                task('Ring'),
              ],
              [null],
            ],
          ],
        }),
      )
      const { ref } = workspace.create('contact', { name: 'Ada Lind', owner: 'rosa' }, [], 'ines')
      const began = clock.nowMs()
      for (let hour = 1; hour <= 50; hour++) {
        clock.set(began + hour * 3_600_000)
        if (hour * 3_600_000 === answeredAfterMs)
          tellActivities(workspace, [{ record: ref, kind: 'message', about: 'Re', atMs: null, key: null }])
        await workClock(workspace, { awaited: () => false, nowMs: () => 0, pause: () => Promise.resolve() })
      }
      return workspace.store.tasks.openFor('rosa', '9999-12-31').map((one) => one.title)
    }
    expect(await ring(3 * 3_600_000)).toEqual(['Send it', 'Ring'])
    expect(await ring(30 * 3_600_000)).toEqual(['Send it'])
  })
})
