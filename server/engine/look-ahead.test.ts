import fc from 'fast-check'
import { expect, it } from 'vitest'
import { all, condition, document, set, task, type StepLine } from '../../core/testing/rules'
import type { Condition } from '../../core/conditions/document'
import type { RecordRef } from '../../core/records/kinds'
import { addDays } from '../../core/time/dates'
import { larkmoor } from '../testing/workspace'
import { card, control, deal, told, visit } from './derived.setting'
import { makeDerived, workDerived } from './derived'
import { tellActivities } from './activities'
import { setUpRehearsal, type Assumed, type Wanted } from './rehearsal'
import { makeCard } from './scorecards'
import { makeSegment } from './segments'
import type { Workspace } from './workspace'

const formula = (workspace: Workspace, label: string, text: string, type = 'number') =>
  makeDerived(
    workspace,
    { object: 'deal', label, description: '', type: type as 'number', made: { by: 'formula', text } },
    'ines',
  )

const segment = (workspace: Workspace, object: 'deal' | 'company', name: string, ...filter: readonly Condition[]) =>
  makeSegment(workspace, { object, name, columns: [], sort: '', down: false, filter: all(...filter) }, 'ines')

/** Everything that a rehearsal came to, but for the numbers that things get. */
function come(workspace: Workspace, wanted: Wanted, ahead: boolean) {
  const rehearsal = setUpRehearsal(workspace, wanted)
  if (!ahead) rehearsal.world.aheadToMs = -Infinity
  rehearsal.goOn(() => false)
  const { world } = rehearsal
  const name = ({ object, id }: RecordRef) => `${object} ${id}`
  return {
    runs: world.runs.map(({ run, atMs, end, endMs }) =>
      [atMs, name(run.ref), run.because, end?.state, end?.stop, endMs].join(' | '),
    ),
    tasks: world.tasks.map(({ atMs, ref, title, due }) => [atMs, name(ref), title, due].join(' | ')),
    values: (['deal', 'company'] as const).flatMap((object) =>
      workspace.store.records.behind(object, 0, 500).map((record) => world.read(record)?.values),
    ),
  }
}

it('what is seen ahead for values of the day is what looking at them every day comes to', async () => {
  const { workspace } = larkmoor()
  formula(workspace, 'Days past', 'today() - closeDate')
  formula(workspace, 'Double', 'daysPast * 2')
  formula(workspace, 'Of firm', 'count(companies)')
  const firms = Array.from(
    { length: 6 },
    (_, i) => workspace.create('company', { name: `Firm ${i}`, owner: 'rosa' }, [], 'ines').ref,
  )
  const deals = Array.from({ length: 12 }, (_, i) =>
    deal(
      workspace,
      {
        name: `Deal ${i}`,
        amount: i * 50,
        closeDate: i % 5 ? addDays(workspace.today(), i * 4 - 24) : null,
        kind: i % 2 ? 'hire' : 'purchase',
      },
      i % 3 ? [] : firms.slice(i / 3, i / 3 + 1),
    ),
  )
  makeCard(workspace, 'company', card(visit(9, { fading: { how: 'half', days: 6 } })), 'ines')
  tellActivities(
    workspace,
    firms.map((ref, i) => told(ref, workspace.clock.nowMs() - i * 2 * 86_400_000)),
  )
  const segments = {
    deal: [
      segment(workspace, 'deal', 'Soon', condition('closeDate', 'inNext', { amount: { count: 5, unit: 'days' } })),
      segment(workspace, 'deal', 'Late', condition('double', 'moreThan', { value: 12 })),
    ],
    company: [segment(workspace, 'company', 'Keen', condition('keenness', 'moreThan', { value: 4 }))],
  }
  await workDerived(workspace, control)
  const bySegment = (object: 'deal' | 'company') =>
    fc
      .tuple(fc.constantFrom('segmentEntered' as const, 'segmentLeft' as const), fc.constantFrom(...segments[object]))
      .map(([kind, one]) => [kind, { segment: one }] as const)
  const change = (field: string, most: number) =>
    fc
      .record({ how: fc.constantFrom('past', 'below', 'up'), to: fc.integer({ min: -most, max: most }) })
      .map(({ how, to }) => ['fieldChanges', { field, how, from: null, to: how === 'up' ? null : to }] as const)
  const weekly = fc.constant([
    'recurring',
    { rule: { rule: 'FREQ=WEEKLY;BYDAY=WE', from: '2026-11-01' }, minute: 600, offDays: 'keep' },
  ] as const)
  const waits = (field: string): readonly StepLine[] => [
    ['wait', { until: { at: 'after', amount: { count: 3, unit: 'days' }, minute: null }, recheck: true }],
    ['waitFor', { field, how: 'changes', to: null, most: { count: 4, unit: 'days' }, recheck: false }],
  ]
  const anyRule = fc.oneof(
    fc.record({
      object: fc.constant('deal' as const),
      when: fc.uniqueArray(fc.oneof(change('daysPast', 25), change('double', 30), bySegment('deal'), weekly), {
        minLength: 1,
        maxLength: 2,
      }),
      onlyIf: fc.constantFrom(
        all(),
        all(condition('double', 'moreThan', { value: 3 })),
        all(condition('amount', 'moreThan', { value: 200 })),
      ),
      then: fc.array(
        fc.constantFrom<StepLine>(
          task('Ring {{deal.name}} {{deal.daysPast}} {{deal.double}}', { again: true }),
          ...waits('double'),
          set('closeDate', '2026-12-08'),
          set('closeDate', null),
          set('amount', 100),
        ),
        { minLength: 1, maxLength: 4 },
      ),
    }),
    fc.record({
      object: fc.constant('company' as const),
      when: fc.uniqueArray(fc.oneof(change('keenness', 9), bySegment('company'), weekly), {
        minLength: 1,
        maxLength: 2,
      }),
      onlyIf: fc.constantFrom(all(), all(condition('keenness', 'lessThan', { value: 6 }))),
      then: fc.array(
        fc.constantFrom<StepLine>(
          task('See {{company.name}} {{company.keenness}}', { again: true }),
          ...waits('keenness'),
        ),
        { minLength: 1, maxLength: 3 },
      ),
    }),
  )
  const anyLine = fc.record({
    day: fc.integer({ min: 0, max: 25 }),
    minute: fc.constantFrom(0, 1, 600),
    id: fc.constantFrom(...deals.map(({ id }) => id)),
    values: fc.constantFrom<Assumed['values']>(
      { closeDate: '2026-12-01' },
      { closeDate: '2026-12-24' },
      { amount: 900 },
    ),
  })
  let told30 = 0
  fc.assert(
    fc.property(
      fc.array(anyRule, { minLength: 1, maxLength: 3 }),
      fc.array(anyLine, { maxLength: 4 }),
      (rules, script) => {
        const wanted: Wanted = {
          rules: rules.map((parts, i) => ({ ruleId: i + 1, document: document(parts, `Rule ${i}`) })),
          object: 'deal',
          ids: null,
          filter: null,
          days: 30,
          back: false,
          script,
        }
        const [ahead, daily] = [come(workspace, wanted, true), come(workspace, wanted, false)]
        expect(ahead).toEqual(daily)
        told30 += ahead.tasks.length
      },
    ),
    { numRuns: Number(process.env.SKY_LEVER_CASES ?? 80) },
  )
  expect(told30).toBeGreaterThan(100)
}, 60_000)
