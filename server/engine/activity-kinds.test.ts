import { sayProblem } from '../../core/language/problems'
import { describe, expect, it } from 'vitest'
import { all, condition, document, given, task } from '../../core/testing/rules'
import type { RuleDocument } from '../../core/rules/document'
import { larkmoor, switchOn } from '../testing/workspace'
import { whyFor } from '../views/why'
import { changeActivityKind, makeActivityKind, ownActivity, type GivenKind } from './activity-kinds'
import { readActivities, tellActivities } from './activities'
import { RefusedError, type Workspace } from './workspace'

const SHOWROOM: GivenKind = {
  did: 'visited the showroom',
  does: 'visits the showroom',
  one: 'showroom visit',
  many: 'showroom visits',
  about: 'showroom',
  data: [
    { key: 'rooms', label: 'rooms looked at', type: 'number' },
    {
      key: 'mood',
      label: 'mood',
      type: 'choice',
      choices: [
        { id: 'keen', label: 'keen' },
        { id: 'cold', label: 'cold' },
      ],
    },
  ],
}

/** A rule by a visit on which somebody looked at two rooms or more, with a task that names one of its values. */
const byVisit = (): RuleDocument =>
  document({
    object: 'contact',
    when: [['activity', { kind: 'showroomVisit', by: 'contact', about: 'Porto', late: false }]],
    onlyIf: all({
      kind: 'did',
      id: 'd1',
      how: 'this',
      count: 1,
      activity: 'showroomVisit',
      by: 'contact',
      span: 'run',
      days: 1,
      group: given('d1w', condition('showroomVisit.rooms', 'moreThan', { value: 1 })),
    }),
    then: [task('Ring {{contact.name}}, who is {{t1.mood}}', { again: true })],
  })

const visit = (workspace: Workspace, email: string, rooms: number, key: string) =>
  tellActivities(workspace, [
    { record: { email }, kind: 'showroomVisit', about: 'Porto', data: { rooms, mood: 'keen' }, atMs: null, key },
  ])
const ada = (workspace: Workspace) =>
  workspace.create('contact', { name: 'Ada', email: 'ada@x.example', owner: 'rosa' }, [], 'ines').ref
const titles = (workspace: Workspace): readonly string[] =>
  workspace.store.tasks.openFor('rosa', '9999-12-31').map((one) => one.title)
const wrong = (act: () => void): string => {
  try {
    act()
  } catch (error) {
    if (error instanceof RefusedError)
      return error.problems.map(({ path, problem }) => `${path}: ${sayProblem(problem)}`).join()
    throw error
  }
  return ''
}

describe('a kind of activity of one’s own', () => {
  it('starts rules by what it tells, like any other', () => {
    const { workspace } = larkmoor()
    expect(makeActivityKind(workspace, SHOWROOM)).toBe('showroomVisit')
    const rule = switchOn(workspace, byVisit())
    const ref = ada(workspace)
    expect(visit(workspace, 'ada@x.example', 1, 'a')).toMatchObject({ kept: 1, refused: [] })
    expect(titles(workspace)).toEqual([])
    const stored = workspace.store.rules.get(rule) ?? expect.fail('it is gone')
    expect(whyFor(workspace, stored, ref)?.answer).toContain('showroom visit')
    expect(visit(workspace, 'ada@x.example', 3, 'b')).toMatchObject({ kept: 1 })
    expect(visit(workspace, 'ada@x.example', 3, 'b')).toMatchObject({ known: 1 })
    expect(titles(workspace)).toEqual(['Ring Ada, who is keen'])
  })

  it('refuses data that does not fit, with its place, and comes by file under its name', () => {
    const { workspace } = larkmoor()
    makeActivityKind(workspace, SHOWROOM)
    ada(workspace)
    const told = tellActivities(workspace, [
      {
        record: { email: 'ada@x.example' },
        kind: 'showroomVisit',
        about: '',
        data: { rooms: 'two' },
        atMs: null,
        key: null,
      },
      { record: { email: 'ada@x.example' }, kind: 'tasting', about: '', atMs: null, key: null },
    ])
    expect(told.refused.map(({ text }) => text)).toEqual([
      expect.stringContaining('data.rooms'),
      'There is no activity “tasting”.',
    ])
    const read = readActivities(workspace, 'kind,email,data\nshowroomvisit,ada@x.example,"{""rooms"":2}"\n')
    expect(read).toMatchObject({ refused: [], given: [{ kind: 'showroomVisit', data: { rooms: 2 } }] })
  })

  it('stays, with its values, while a rule names it', () => {
    const { workspace } = larkmoor()
    makeActivityKind(workspace, SHOWROOM)
    switchOn(workspace, byVisit())
    const own = () => ownActivity(workspace, 'showroomVisit') ?? expect.fail('it is gone')
    expect(wrong(() => changeActivityKind(workspace, own(), { archived: true }))).toContain('can’t be archived')
    expect(wrong(() => changeActivityKind(workspace, own(), { data: [] }))).toContain('data.rooms')
    expect(
      wrong(() => changeActivityKind(workspace, own(), { data: [{ key: 'rooms', label: 'rooms', type: 'text' }] })),
    ).toContain('keeps its type')
    changeActivityKind(workspace, own(), { many: 'visits to a showroom' })
    expect(workspace.catalogue().activities.words('showroomVisit').many).toBe('visits to a showroom')
  })

  it('is told by its words when it was archived, and can be chosen no more', () => {
    const { workspace } = larkmoor()
    makeActivityKind(workspace, SHOWROOM)
    const ref = ada(workspace)
    visit(workspace, 'ada@x.example', 2, 'a')
    const own = ownActivity(workspace, 'showroomVisit') ?? expect.fail('it is gone')
    changeActivityKind(workspace, own, { archived: true })
    const { activities } = workspace.catalogue()
    expect(activities.active('showroomVisit')).toBeNull()
    expect(activities.words('showroomVisit').did).toBe('visited the showroom')
    expect(workspace.store.activities.of(ref)).toHaveLength(1)
  })

  it('has words of its own, and a name that no step has', () => {
    const { workspace } = larkmoor()
    makeActivityKind(workspace, SHOWROOM)
    expect(wrong(() => makeActivityKind(workspace, SHOWROOM))).toContain('does: ')
    expect(wrong(() => makeActivityKind(workspace, { ...SHOWROOM, one: 'Page visit', does: 'sees' }))).toContain(
      'one: ',
    )
    expect(makeActivityKind(workspace, { ...SHOWROOM, one: 'S2', does: 'does s2' })).toMatch(/^[a-z][A-Za-z]{2}/)
    expect(makeActivityKind(workspace, { ...SHOWROOM, one: 'call!', does: 'rings a bell' })).toBe('call2')
  })
})
