import { describe, expect, it } from 'vitest'
import { active, enters, task } from '../testing/rules'
import { readCase } from '../rehearsal/case-file'
import { readRule } from './schema'
import { upgradeRule } from './upgrade'

/** The document as it was written in format 1: with `tell` and `mail`. */
function inFormatOne(document: unknown): unknown {
  const text = JSON.stringify(document)
    .replace('"format":2', '"format":1')
    .replaceAll(/("kind":"createTask".*?)"email":/g, '$1"tell":')
    .replaceAll(/("kind":"notify".*?)"email":/g, '$1"mail":')
  return JSON.parse(text)
}
const notify = { id: 's2', kind: 'notify', params: { who: { by: 'owner' }, subject: 'Look', body: '', email: true } }

describe('a rule document of format 1', () => {
  const now = active(1, { when: [enters('hp-quoted')], then: [task('Call', { email: true })] }).document
  it('is read as one of now, on every path', () => {
    const inside = {
      ...now,
      steps: [
        {
          id: 's9',
          kind: 'choosePath',
          params: {},
          branches: [
            {
              id: 'b1',
              when: {
                kind: 'group',
                id: 'c9',
                mode: 'all',
                items: [{ kind: 'condition', id: 'c8', field: 'amount', op: 'isEmpty', not: true, params: {} }],
              },
              steps: [...now.steps, notify],
            },
            { id: 'b2', steps: [] },
          ],
        },
      ],
    }
    const old = inFormatOne(inside)
    expect(JSON.stringify(old)).toContain('"tell":true')
    expect(JSON.stringify(old)).toContain('"mail":true')
    const read = readRule(old)
    expect(read).toEqual(readRule(inside))
    expect(read.ok && read.value.format).toBe(2)
  })
  it('comes in with a test case too', () => {
    const base = {
      format: 1,
      name: 'x',
      zone: 'UTC',
      start: '2026-11-24T09:00',
      until: '2026-11-25T09:00',
      people: [],
      records: [],
    }
    const read = readCase(JSON.stringify({ ...base, rules: [inFormatOne(now)] }))
    expect(read.ok && read.value.rules).toEqual([now])
  })
  it('of a later format is refused by name, and what is no document stays as it is', () => {
    expect(readRule({ ...now, format: 3 })).toMatchObject({ ok: false })
    for (const odd of [null, 'x', 7, [], { format: 1 }, { format: 1, steps: 'x' }])
      expect(upgradeRule(odd)).toEqual(typeof odd === 'object' && odd && 'format' in odd ? { ...odd, format: 2 } : odd)
  })
})
