import { describe, expect, it } from 'vitest'
import { notFound, placesOf, storageProblem } from './problem'

const fault = (code: string): Error => Object.assign(new Error('no'), { code })

describe('what a database cannot write', () => {
  it.each([
    ['SQLITE_FULL', 507, 'Disk full'],
    ['SQLITE_READONLY_DBMOVED', 503, 'Database is read-only'],
    ['SQLITE_BUSY_SNAPSHOT', 503, 'Database busy'],
    ['SQLITE_IOERR_WRITE', 503, 'Disk error'],
    ['SQLITE_CORRUPT_VTAB', 503, 'Database damaged'],
  ])('%s is told with what to do about it', (code, status, title) => {
    const told = storageProblem(fault(code))
    expect(told).toMatchObject({ status, title })
    expect(told?.detail).toMatch(/^Nothing was saved\./)
    expect(told?.detail).not.toContain('SQLITE')
  })
  it('is nothing else: a mistake of ours stays one', () => {
    for (const odd of [
      fault('SQLITE_CONSTRAINT_UNIQUE'),
      fault('ENOENT'),
      new Error('no'),
      'SQLITE_FULL',
      null,
      { code: 'SQLITE_FULL' },
    ])
      expect(storageProblem(odd)).toBeNull()
  })
})

it('what is not there is said so that nobody learns whether it exists', () => {
  expect(notFound('rule 12')).toMatchObject({
    status: 404,
    detail: 'Rule 12 does not exist or you don’t have access to it.',
  })
})

it('problems are told at their places, in words', () => {
  expect(
    placesOf([
      { path: 'values.name', problem: { code: 'required', field: 'Name' } },
      { path: 'values.amount', problem: { code: 'notANumber', raw: 'much' } },
    ]),
  ).toEqual([
    { path: 'values.name', text: 'Name is required.' },
    { path: 'values.amount', text: '“much” is not a number.' },
  ])
})
