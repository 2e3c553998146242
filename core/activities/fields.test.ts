import { describe, expect, it } from 'vitest'
import { OBJECTS } from '../records/kinds'
import { ACTIVITIES, ACTIVITY_NAMES, ActivityTable, type OwnActivity } from '.'
import { activityField, activityFields, activityOf, activityValues } from './fields'

const own: OwnActivity = {
  ...ACTIVITIES.visit,
  kind: 'showroom',
  id: 7,
  archived: false,
  did: 'visited the showroom',
  does: 'visits the showroom',
  one: 'showroom visit',
  many: 'showroom visits',
}
const table = new ActivityTable([own])

describe('what can be asked of an activity', () => {
  it('is its text, its data and its time, for every kind', () => {
    for (const name of ACTIVITY_NAMES) {
      const kind = ACTIVITIES[name]
      const keys = activityFields(kind, 'contact').map((field) => field.key)
      expect(keys).toEqual(['about', ...kind.data.map((one) => one.key), 'atMs'].map((key) => `${name}.${key}`))
    }
  })

  it('has a number that no other field has', () => {
    const kinds = [...ACTIVITY_NAMES.map((name) => ACTIVITIES[name]), own]
    const ids = kinds.flatMap((kind) => activityFields(kind, 'contact').map((field) => field.id))
    expect(new Set(ids).size).toBe(ids.length)
    expect(Math.max(...ids)).toBeLessThan(0)
  })

  it('is the same field each time, for each kind of record', () => {
    for (const object of OBJECTS) {
      const [field] = activityFields(own, object)
      expect(field?.object).toBe(object)
      expect(activityFields(own, object)[0]).toBe(field)
    }
  })

  it('is found by its key, and by no other', () => {
    expect(activityOf('showroom.about', table)).toBe(own)
    expect(activityField('deal', 'showroom.about', table)?.key).toBe('showroom.about')
    for (const key of ['showroom', 'showroom.colour', 'nothing.about', 'amount', ''])
      expect(activityField('deal', key, table), key).toBeNull()
  })

  it('has its example read by its fields', () => {
    for (const name of ACTIVITY_NAMES) {
      const { example } = ACTIVITIES[name]
      const found = activityValues({ kind: name, ...example, atMs: 5 })
      const keys = activityFields(ACTIVITIES[name], 'contact').map((field) => field.key)
      expect(
        Object.keys(found).every((key) => keys.includes(key)),
        name,
      ).toBe(true)
      expect(found[`${name}.atMs`]).toBe(5)
    }
  })

  it('has no text where none was told', () => {
    expect(activityValues({ kind: 'visit', about: '', data: {}, atMs: 1 })).toEqual({
      'visit.about': null,
      'visit.atMs': 1,
    })
  })
})

describe('kinds of activities', () => {
  it('can be chosen until they are archived, and have words still', () => {
    const archived = new ActivityTable([{ ...own, archived: true }])
    expect(table.active('showroom')).toBe(own)
    expect(archived.active('showroom')).toBeNull()
    expect(archived.words('showroom').did).toBe('visited the showroom')
    expect(table.options('one').at(-1)).toEqual({ value: 'showroom', label: 'showroom visit' })
    expect(archived.options('one').some(({ value }) => value === 'showroom')).toBe(false)
  })

  it('are named by their key where they are not there', () => {
    expect(table.words('gone')).toEqual({ did: 'gone', does: 'gone', one: 'gone', many: 'gone', about: 'text' })
  })
})
