import { describe, expect, it } from 'vitest'
import { document, task } from '../../core/testing/rules'
import { board } from '../views/board'
import { ratesView } from '../views/rates'
import { listPage } from './record-list'
import { refusal } from '../testing/refusal'
import { larkmoor, switchOn } from '../testing/workspace'
import { workDerived } from './derived'
import { formula, roll } from './derived-more.setting'
import { control, titles } from './derived.setting'
import { deliverRates, importRates, planRates, removeRate, setRate, setRatesFrom } from './rates'
import { EMPTY_GROUP } from '../../core/conditions/document'
import type { Workspace } from './workspace'

const cad = (perOwn: number, day = '2026-11-20') => ({ code: 'CAD', day, perOwn })
const deal = (workspace: Workspace, name: string, values: object) =>
  workspace.create('deal', { name, stage: 'hp-visit', owner: 'rosa', ...values }, [], 'ines').ref

describe('rates', () => {
  it('are refused where they cannot be, by place and reason', () => {
    const { workspace } = larkmoor()
    const tried = (rate: { code: string; day: string; perOwn: number }) =>
      refusal(() => setRate(workspace, rate, 'ines'))
    expect(tried({ code: 'EUR', day: '2026-11-20', perOwn: 1 })).toContain('EUR is the currency of this workspace')
    expect(tried({ code: 'JPY', day: '2026-11-20', perOwn: 1 })).toContain('No currency field has the choice JPY')
    expect(tried(cad(1.5, '2026-11-25'))).toContain('in the future')
    expect(refusal(() => planRates(workspace, 'Date,CAD\n2026-11-30,1.5'))).toContain('in the future')
    expect(workspace.store.rates.all()).toEqual([])
  })

  it('sort, sum and add up what records hold, and say what has none', async () => {
    const { workspace } = larkmoor()
    const firm = workspace.create('company', { name: 'Lund', owner: 'rosa' }, [], 'ines').ref
    const made = [
      deal(workspace, 'A', { amount: 100, currency: 'eur' }),
      deal(workspace, 'B', { amount: 120, currency: 'cad' }),
      deal(workspace, 'C', { amount: 300, currency: 'nzd' }),
    ]
    for (const ref of made) workspace.link(ref, firm, '', true, 'ines')
    roll(workspace, 'Open work', { what: 'sum', field: 'amount' }, 'currency')
    await workDerived(workspace, control)
    const sum = () => workspace.world.read(firm)?.values.openWork
    const order = (down: boolean) =>
      listPage(workspace, {
        object: 'deal',
        sort: 'amount',
        down,
        words: '',
        filter: EMPTY_GROUP,
        scope: null,
        offset: 0,
        limit: 10,
      }).rows.map(({ values }) => values.name)
    expect(sum()).toBe(100)
    setRate(workspace, cad(1.5), 'ines')
    await workDerived(workspace, control)
    expect(sum()).toBe(180)
    // What has no rate comes last, whichever way.
    expect([order(false), order(true)]).toEqual([
      ['B', 'A', 'C'],
      ['A', 'B', 'C'],
    ])
    const visit = board(workspace, 'hp', null).find(({ stage }) => stage.id === 'hp-visit')
    expect(visit).toMatchObject({ sum: 180, without: 1, count: 3 })
    expect(ratesView(workspace, null).currencies).toMatchObject([
      { code: 'CAD', amounts: 1, perOwn: 1.5 },
      { code: 'NZD', amounts: 1, perOwn: null },
    ])
  })

  it('start rules by what an amount is worth, whatever changes that: the amount, or its currency', () => {
    const { workspace } = larkmoor()
    setRate(workspace, cad(1.5), 'ines')
    switchOn(
      workspace,
      document({
        when: [['fieldChanges', { field: 'amount', how: 'past', from: null, to: 1000 }]],
        then: [task('Large', { again: true })],
      }),
    )
    const ref = deal(workspace, 'A', { amount: 900, currency: 'cad' })
    workspace.change(ref, { amount: 1400 }, 'ines')
    expect(titles(workspace)).toEqual([])
    workspace.change(ref, { amount: 1600 }, 'ines')
    expect(titles(workspace)).toEqual(['Large'])
    workspace.change(ref, { amount: 1200 }, 'ines')
    workspace.change(ref, { currency: 'eur' }, 'ines')
    expect(titles(workspace)).toEqual(['Large', 'Large'])
    const [run] = workspace.store.runs.list({ limit: 10 })
    expect(run?.because).toBe('amount changed from CA$1,200 to €1,200')
  })

  it('are put into formulas, and what comes out into the currency of the record', async () => {
    const { workspace } = larkmoor()
    setRate(workspace, cad(1.5), 'ines')
    const ref = deal(workspace, 'A', { amount: 1500, currency: 'cad' })
    formula(workspace, 'Fee', 'amount * 0.1 + 10', 'currency')
    await workDerived(workspace, control)
    // €1,000 × 0.1 + €10 = €110, and the fee is kept in the money of the amount.
    expect(workspace.world.read(ref)?.values.fee).toBe(165)
  })

  it('are brought in as a file, counted before, and work out anew what hangs on them', async () => {
    const { workspace } = larkmoor()
    setRate(workspace, cad(1.5), 'ines')
    const text = 'Date,CAD,NZD,USD\n2026-11-20,1.5,1.75,1\n2026-11-21,1.6,,1'
    const { plan } = planRates(workspace, text)
    expect(plan).toMatchObject({ days: 2, added: 2, changed: 0, same: 1, left: ['USD'] })
    expect(workspace.store.rates.all()).toHaveLength(1)
    importRates(workspace, text, 'ines')
    expect(workspace.catalogue().rates.on('CAD')).toBe(1.6)
    expect(importRates(workspace, text, 'ines')).toMatchObject({ added: 0, changed: 0, same: 3 })
    expect(removeRate(workspace, 'CAD', '2026-11-21', 'ines')).toBe(true)
    expect(removeRate(workspace, 'CAD', '2026-11-21', 'ines')).toBe(false)
    expect(workspace.catalogue().rates.on('CAD')).toBe(1.5)
  })

  it('are delivered on working days, once a day, and what was missed is made up for', () => {
    const { workspace, clock } = larkmoor()
    expect(deliverRates(workspace)).toBe(0)
    setRatesFrom(workspace, 'simulated')
    // It is Tuesday morning: Monday's are the newest that are out.
    expect(workspace.store.rates.newestDay()).toBe('2026-11-23')
    expect(deliverRates(workspace)).toBe(0)
    clock.set(Date.UTC(2026, 10, 29, 9))
    expect(deliverRates(workspace)).toBe(4)
    expect(workspace.store.rates.newestDay()).toBe('2026-11-27')
    setRatesFrom(workspace, null)
    clock.set(Date.UTC(2026, 11, 9, 20))
    expect(deliverRates(workspace)).toBe(0)
  })
})
