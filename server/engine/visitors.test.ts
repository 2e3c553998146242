import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { document, task } from '../../core/testing/rules'
import type { RecordRef } from '../../core/records/kinds'
import { larkmoor, switchOn } from '../testing/workspace'
import { mergeRecords } from './going'
import { tellActivities, type GivenActivity } from './activities'
import { makeCard } from './scorecards'
import type { Workspace } from './workspace'

const HOUR_MS = 3_600_000

const visited = (visitor: string, more: Partial<GivenActivity> = {}): GivenActivity => ({
  record: { visitor },
  kind: 'visit',
  about: '/prices',
  atMs: null,
  key: null,
  ...more,
})

function person(workspace: Workspace, name: string): RecordRef {
  return workspace.create('contact', { name, email: `${name}@x.example`, owner: 'rosa' }, [], 'ines').ref
}
const did = (workspace: Workspace, ref: RecordRef) =>
  workspace.store.activities.of(ref).map(({ kind, about }) => `${kind} ${about}`)

describe('a visitor', () => {
  it('is nobody until they say who they are, and then everything they did is theirs', () => {
    const { workspace, clock } = larkmoor()
    const ada = person(workspace, 'ada')
    expect(tellActivities(workspace, [visited('v1'), visited('v2', { about: '/about' })])).toMatchObject({
      kept: 0,
      unknown: 2,
    })
    expect(did(workspace, ada)).toEqual([])
    clock.set(clock.nowMs() + HOUR_MS)
    const form = visited('v1', { record: { visitor: 'v1', email: ' ADA@x.example' }, kind: 'form', about: 'Visit' })
    expect(tellActivities(workspace, [form])).toMatchObject({ kept: 1, unknown: 0 })
    expect(did(workspace, ada)).toEqual(['visit /prices', 'form Visit'])
    tellActivities(workspace, [visited('v1', { about: '/buildings' })])
    expect(did(workspace, ada)).toEqual(['visit /prices', 'form Visit', 'visit /buildings'])
    expect(workspace.store.visitors.count()).toEqual({ visitors: 1, activities: 1 })
  })

  it('is known once a contact has the address that was given', () => {
    const { workspace } = larkmoor()
    tellActivities(workspace, [visited('v1'), visited('v1', { record: { visitor: 'v1', email: 'new@x.example' } })])
    // One who is told of by address alone waits for the contact too.
    tellActivities(workspace, [visited('', { record: { email: 'New@x.example' }, kind: 'call', about: 'asked' })])
    const made = workspace.create('contact', { name: 'New', email: 'New@X.example' }, [], 'ines').ref
    expect(did(workspace, made).sort()).toEqual(['call asked', 'visit /prices', 'visit /prices'])
    const other = person(workspace, 'other')
    tellActivities(workspace, [visited('v9', { record: { visitor: 'v9', email: 'late@x.example' } })])
    workspace.change(other, { email: 'late@x.example' }, 'ines')
    expect(did(workspace, other)).toEqual(['visit /prices'])
  })

  it('starts no rule by what was done more than an hour before it was known who did it', () => {
    const { workspace, clock } = larkmoor()
    const ada = person(workspace, 'ada')
    switchOn(
      workspace,
      document({
        object: 'contact',
        when: [['activity', { kind: 'visit', by: 'contact', about: '', late: false }]],
        then: [task('Ring')],
      }),
    )
    const tasks = () => workspace.store.tasks.ofRecord(ada).length
    tellActivities(workspace, [visited('v1')])
    clock.set(clock.nowMs() + HOUR_MS + 1)
    tellActivities(workspace, [visited('v1', { about: '/buildings' })])
    expect(tasks()).toBe(0)
    tellActivities(workspace, [visited('v1', { record: { visitor: 'v1', email: 'ada@x.example' }, kind: 'form' })])
    expect(tasks()).toBe(1)
  })

  it('goes with the contact that is merged', () => {
    const { workspace } = larkmoor()
    const [ada, bea] = [person(workspace, 'ada'), person(workspace, 'bea')]
    tellActivities(workspace, [visited('v1', { record: { visitor: 'v1', email: 'bea@x.example' } })])
    mergeRecords(workspace, ada, bea.id, [], 'ines')
    tellActivities(workspace, [visited('v1', { about: '/later' })])
    expect(did(workspace, ada)).toEqual(['visit /prices', 'visit /later'])
  })
})

describe('activities', () => {
  it('come to the same in any order, twice, and late: the same scores, each run once', () => {
    const base = larkmoor().workspace.clock.nowMs()
    const acts: readonly GivenActivity[] = Array.from({ length: 8 }, (_, i) => ({
      record: i % 2 ? { visitor: `v${i % 4}` } : { email: `p${i % 3}@x.example` },
      kind: i % 3 ? 'visit' : 'form',
      about: i % 3 ? '/prices' : 'Visit',
      atMs: base - i * 20 * 60_000,
      key: `k${i}`,
    }))
    const known: readonly GivenActivity[] = [1, 3].map((i) => ({
      record: { visitor: `v${i}`, email: `p${i % 3}@x.example` },
      kind: 'form',
      about: 'Who I am',
      atMs: base,
      key: `who${i}`,
    }))
    const all = [...acts, ...known]
    const outcome = (order: readonly GivenActivity[]) => {
      const { workspace } = larkmoor()
      const people = ['p0', 'p1', 'p2'].map((name) => person(workspace, name))
      makeCard(
        workspace,
        'contact',
        {
          name: 'Keen',
          least: null,
          most: null,
          bands: [{ id: 'low', name: 'Low', from: 0 }],
          lines: [
            {
              id: 'l1',
              points: 5,
              most: null,
              for: { what: 'doing', kind: 'visit', about: 'price', from: null, fading: { how: 'half', days: 7 } },
            },
          ],
        },
        'ines',
      )
      const ruleId = switchOn(
        workspace,
        document({
          object: 'contact',
          when: [['activity', { kind: 'visit', by: 'contact', about: 'price', late: true }]],
          then: [task('Ring')],
        }),
      )
      tellActivities(workspace, order)
      return {
        scores: people.map((ref) => workspace.store.records.read(ref)?.values.keen ?? null),
        runs: people.map(
          (ref) => workspace.store.runs.list({ ruleId, limit: 99 }).filter((run) => run.recordId === ref.id).length,
        ),
        tasks: people.map((ref) => workspace.store.tasks.ofRecord(ref).length),
      }
    }
    const plain = outcome(all)
    expect(plain.runs.reduce((sum, one) => sum + one, 0)).toBe(acts.filter(({ kind }) => kind === 'visit').length)
    fc.assert(
      fc.property(fc.shuffledSubarray([...all, ...all], { minLength: 2 * all.length }), (order) => {
        expect(outcome(order)).toEqual(plain)
      }),
      { numRuns: 12 },
    )
  }, 60_000)
})
