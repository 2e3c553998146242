import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { derivationsOf } from '../../core/derived/derivations'
import { compileWhere, rollUp } from '../../core/derived/roll-up'
import { addDays } from '../../core/time/dates'
import { all, condition, document, task } from '../../core/testing/rules'
import type { RecordRef } from '../../core/records/kinds'
import { larkmoor, switchOn } from '../testing/workspace'
import { planClock, workClock } from './clockwork'
import { workDerived } from './derived'
import { deleteRecord, mergeRecords, restoreRecord } from './going'
import { tellActivities } from './activities'
import { makeCard } from './scorecards'
import { makeSegment } from './segments'
import type { Workspace } from './workspace'
import { control, at, visit, card, told, stale } from './derived.setting'
import { formula, roll } from './derived-more.setting'

async function turnTo(workspace: Workspace, clock: { set(atMs: number): void }, day: string): Promise<void> {
  clock.set(at(day, 0))
  await workClock(workspace, control)
  clock.set(at(day))
}

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
              if (ref) tellActivities(workspace, [told(ref, workspace.clock.nowMs() - op.ago * 86_400_000)])
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
                  world,
                  workspace.moment(),
                  workspace.catalogue(),
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
