import { describe, expect, it } from 'vitest'
import { plainSentence } from '../language/sentence'
import { sayProblem } from '../language/problems'
import { catalogue, names } from '../testing/setting'
import { checkLabels, LABEL_MOVE, labelField, labelList, movesLabel, quoteLabels } from './labels'

const field = labelField('labels', names())
if (!field) throw new Error('no labels')

describe('labels', () => {
  it.each([
    [
      ['urgent', 'press'],
      ['urgent', 'press'],
    ],
    ['urgent', ['urgent']],
    [null, []],
    [7, []],
  ])('of %j are %j', (value, list) => expect(labelList(value)).toEqual(list))

  it('are of a field that holds several choices', () => {
    expect(labelField('kind', names())).toBeNull()
    expect(labelField('colour', names())).toBeNull()
    expect(labelField(null, names())).toBeNull()
  })

  it.each([
    [null, null],
    [['urgent'], '“Urgent”'],
    [['urgent', 'press'], '“Urgent” or “Press”'],
    [['urgent', 'press', 'reference-customer'], '“Urgent”, “Press” or “Reference customer”'],
  ])('%j are quoted', (value, said) => expect(quoteLabels(value, field, catalogue, 'or')).toBe(said))

  it.each([
    [{ labels: ['urgent'], field: null }, 'field', 'Choose a field'],
    [{ labels: ['urgent'], field: 'colour' }, 'field', null],
    [{ labels: ['urgent'], field: 'kind' }, 'field', null],
    [{ labels: null, field: 'labels' }, 'labels', null],
    [{ labels: ['urgent', 'purple'], field: 'labels' }, 'labels', null],
  ])('%j are refused at their place', (params, place, said) => {
    const [problem, ...others] = checkLabels(params, names(), 'gained')
    expect(others).toEqual([])
    expect(problem?.param).toBe(place)
    if (said && problem) expect(sayProblem(problem.problem)).toContain(said)
  })

  it('are well chosen', () => {
    expect(checkLabels({ labels: ['urgent', 'press'], field: 'labels' }, names(), 'gained')).toEqual([])
  })
})

describe('a label that comes or goes', () => {
  const params = { labels: ['urgent', 'press'], how: 'added', field: 'labels' } as const
  const change = (old: readonly string[] | null, now: readonly string[] | null, of = 'labels') => [
    { field: of, old: old && [...old], new: now && [...now] },
  ]

  it('is said', () => {
    const said = (given: object) =>
      plainSentence(LABEL_MOVE.sentence({ ...params, ...given, labels: ['urgent', 'press'] }, names()))
    expect(said({})).toBe('“Urgent” or “Press” is added to the deal’s labels')
    expect(said({ how: 'removed' })).toBe('“Urgent” or “Press” is removed from the deal’s labels')
  })

  it.each([
    [null, ['urgent'], true, false],
    [['press'], ['press', 'urgent'], true, false],
    [['urgent'], ['reference-customer'], false, true],
    [['urgent'], ['press'], true, true],
    [['reference-customer'], null, false, false],
    [['urgent', 'press'], ['press', 'urgent'], false, false],
  ])('from %j to %j: added %s, removed %s', (old, now, added, removed) => {
    const given = { ...params, labels: [...params.labels] }
    expect(movesLabel(given, change(old, now), 'added')).toBe(added)
    expect(movesLabel(given, change(old, now), 'removed')).toBe(removed)
    expect(movesLabel(given, change(old, now, 'other'), 'added')).toBe(false)
  })

  it('is listened to, one by one, once it is chosen', () => {
    expect(LABEL_MOVE.signals({ ...params, labels: [...params.labels] })).toHaveLength(2)
    expect(LABEL_MOVE.signals({ ...params, labels: null })).toEqual([])
    expect(LABEL_MOVE.signals({ ...params, labels: ['urgent'], field: null })).toEqual([])
  })
})
