import { describe, expect, it } from 'vitest'
import { all, condition, document, task } from '../../core/testing/rules'
import type { RecordRef } from '../../core/records/kinds'
import { refusal } from '../testing/refusal'
import { larkmoor, switchOn } from '../testing/workspace'
import { workDerived } from './derived'
import { tellActivities } from './activities'
import { changeCard, makeCard, previewCard, removeCard, scoresOf } from './scorecards'
import { changeSegment, makeSegment, removeSegment } from './segments'
import type { GivenCard } from '../../core/scoring/card'
import { control, at, deal, value, titles, visit, card, told, until, stale } from './derived.setting'

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
      tellActivities(workspace, [
        ...Array.from({ length: 8 }, (_, i) =>
          told(contact, workspace.clock.nowMs() - i * 1000, '/prices/rooms', `k${i}`),
        ),
        told(contact, workspace.clock.nowMs(), '/jobs'),
        told(contact, 0, '', 'k0'),
        { ...told(contact, 0), record: { email: 'nobody@x.example' } },
      ]),
    ).toEqual({ kept: 9, known: 1, unknown: 1, refused: [] })
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
          { text: 'page visits with “/prices” in the address', points: 30, times: 8, capped: true },
          { text: 'the buying role is Decides', points: 12, times: 1 },
        ],
      },
    ])
    expect(stale(workspace)).toEqual([])
  })

  it('fade as days go by', async () => {
    const { workspace, clock, contact, company } = await many()
    tellActivities(
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
    tellActivities(
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
    tellActivities(
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

  it('keep a band that a rule names, and let go of one that none does', async () => {
    const { workspace } = await many()
    const [one] = workspace.catalogue().data.scorecards ?? []
    if (!one) throw new Error('there is no scorecard')
    const [, warm, hot] = one.bands
    switchOn(
      workspace,
      document(
        {
          object: 'contact',
          when: [['scoreCrosses', { field: one.key, how: 'band', points: 0, margin: 0, band: warm?.id ?? null }]],
          then: [task('x')],
        },
        'Warm now',
      ),
    )
    const without = (id: string | undefined) =>
      ({ ...one, lines: [...one.lines], bands: one.bands.filter((band) => band.id !== id) }) as GivenCard
    expect(refusal(() => changeCard(workspace, one, without(warm?.id), 'ines'))).toBe(
      `bands: “${warm?.name}” can’t be removed: it is used by rule “Warm now”. Remove it there first.`,
    )
    changeCard(workspace, one, without(hot?.id), 'ines')
    expect(workspace.catalogue().data.scorecards?.[0]?.bands).toHaveLength(one.bands.length - 1)
  })

  it('show what a change of the card would do before it is kept', async () => {
    const { workspace, contact } = await many()
    workspace.create('contact', { name: 'Bo' }, [], 'ines')
    tellActivities(
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
      'name: A scorecard named “Keenness” already exists.',
    )
    expect(refusal(() => makeCard(workspace, 'contact', { ...card(visit(0)), name: 'X' }, 'ines'))).toBe(
      'lines.0.points: Enter points other than 0.',
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
    ).toBe('bands.1.from: “B” must start above the band before it.')
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
    expect(refusal(() => one && removeCard(workspace, one))).toBe(
      ': “Keenness” can’t be deleted: it is used by rule “Keen”. Remove it there first.',
    )
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
    if (segment)
      changeSegment(workspace, segment, { filter: all(condition('stage', 'is', { value: 'hp-visit' })) }, 'ines')
    expect([titles(workspace).length, stale(workspace)]).toEqual([3, []])
    expect(refusal(() => removeSegment(workspace, past))).toBe(
      ': “Long past” can’t be deleted: it is used by rules “Enters” and “Leaves”. Remove it there first.',
    )
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
