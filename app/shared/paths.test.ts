import { expect, it } from 'vitest'
import { OBJECTS } from '#core/records/kinds'
import { actOfPath, objectOfPath, objectPath, recordPath } from './paths'

it('addresses of records read both ways', () => {
  for (const object of OBJECTS) expect(objectOfPath(objectPath(object))).toBe(object)
  expect(recordPath({ object: 'company', id: 12 })).toBe('/records/companies/12')
  for (const odd of ['deal', 'Deals', '', undefined, 7]) expect(objectOfPath(odd)).toBeNull()
})

it.each([
  ['/rules', 'readRules'],
  ['/rules/3', 'readRules'],
  ['/overview', 'readRules'],
  ['/journal', 'readRules'],
  ['/journal/', 'readRules'],
  // A run is opened from a record too; what of it may be seen is asked of the record.
  ['/journal/17', 'read'],
  ['/ruleset', 'read'],
  ['/linking', 'build'],
  ['/suggestions', 'build'],
  ['/day-sheet', 'read'],
  ['/records/deals', 'read'],
  ['/boards/hp', 'read'],
])('%s asks for %s', (path, act) => expect(actOfPath(path)).toBe(act))
