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

describe('a rule that was written before labels had parts of their own', () => {
  const now = active(1, { when: [enters('hp-quoted')], then: [task('Call')] }).document
  const read = (part: object) => {
    const said = readRule({ ...now, ...part })
    return said.ok ? said.value : said.problem
  }
  const source = (from: string, value: unknown) => [
    { id: 's1', kind: 'setField', params: { field: 'labels', source: { from, value }, keepByHand: false } },
  ]
  it('has its step read as one that adds or removes them', () => {
    const label = (how: string, labels: unknown) => ({
      steps: [{ id: 's1', kind: 'changeLabels', params: { how, labels, field: 'labels' } }],
    })
    expect(read({ steps: source('add', ['urgent']) })).toMatchObject(label('add', ['urgent']))
    expect(read({ steps: source('remove', 'urgent') })).toMatchObject(label('remove', ['urgent']))
    expect(read({ steps: source('remove', null) })).toMatchObject(label('remove', null))
    // A text or a number is added to a field of its kind, as before.
    expect(read({ steps: source('add', 'and more') })).toMatchObject({ steps: source('add', 'and more') })
  })
  it('has its trigger read as one for labels', () => {
    const trigger = (how: string, to: unknown) => ({
      triggers: [{ id: 't1', kind: 'fieldChanges', params: { field: 'labels', how, from: null, to } }],
    })
    const label = (how: string, labels: unknown) => ({
      triggers: [{ id: 't1', kind: 'labelChanges', params: { labels, how, field: 'labels' } }],
    })
    expect(read(trigger('gains', ['urgent']))).toMatchObject(label('added', ['urgent']))
    expect(read(trigger('loses', 'urgent'))).toMatchObject(label('removed', ['urgent']))
    expect(read(trigger('to', ['urgent']))).toMatchObject(trigger('to', ['urgent']))
  })
})

it('a wait that went on without its date is read as one that continues', () => {
  const rule = active(1, { when: [enters('hp-quoted')], then: [task('Call')] }).document
  const waits = (whenEmpty: string) => ({
    ...rule,
    steps: [{ id: 's1', kind: 'wait', params: { until: { at: 'field', field: 'close' }, recheck: true, whenEmpty } }],
  })
  expect(upgradeRule(waits('goOn'))).toEqual(waits('continue'))
  expect(upgradeRule(waits('stop'))).toEqual(waits('stop'))
})

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
