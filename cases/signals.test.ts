import { describe, expect, it } from 'vitest'
import { runCase } from '../core/rehearsal/case'
import { readCase } from '../core/rehearsal/case-file'

/** What a line of a case can assume: values, records that come and go, links, and a rule that somebody runs. */
const rule = (name: string, object: string, trigger: string, title: string): string => `
  - format: 2
    name: ${name}
    description: ''
    object: ${object}
    triggers: [${trigger}]
    conditions: { kind: group, id: c0, mode: all, items: [] }
    steps:
      - { id: s1, kind: createTask, params: { title: '${title}', notes: '', taskKind: call, due: { count: 0, unit: days }, priority: normal, again: true, email: false } }`
const BY_HAND = '{ id: t1, kind: byHand, params: { button: Ring, facts: [], questions: [] } }'
const COUNTED = '{ id: t1, kind: fieldChanges, params: { field: rooms, how: past, from: null, to: 0 } }'
const LINKED = (to: string, how: string) => `{ id: t1, kind: linked, params: { to: ${to}, how: ${how} } }`
const of = (rules: string, script: string): string => `
format: 1
name: Signals
zone: Europe/Lisbon
start: 2026-11-24T09:00
until: 2026-11-26T09:00
people: [{ id: rosa, name: Rosa Amara }]
fields: [{ object: company, key: rooms, label: Rooms, type: number, formula: 'count(deals)' }]
records:
  - { record: company 1, values: { name: Thornby, owner: rosa } }
  - { record: deal 1, values: { name: Cold room, owner: rosa } }
rules:${rules}
script: [${script}]
`
function tasks(rules: string, script: string): readonly string[] | string {
  const read = readCase(of(rules, script))
  if (!read.ok) return JSON.stringify(read.problem)
  const ran = runCase(read.value)
  return ran.ok
    ? ran.value.result.tasks.map(({ title, recordName }) => `${title} · ${recordName}`)
    : JSON.stringify(ran.problem)
}

describe('a line of a case', () => {
  it('runs a rule as somebody would', () => {
    const rules = rule('Ring now', 'deal', BY_HAND, 'Ring')
    const line = (name: string) => `{ at: 2026-11-24T10:00, record: deal 1, start: ${name} }`
    expect(tasks(rules, line('Ring now'))).toEqual(['Ring · Cold room'])
    expect(tasks(rules, line('Nobody'))).toContain('there is no rule “Nobody”')
  })

  it('links records, and takes the link away', () => {
    const rules = rule('First deal', 'company', COUNTED, 'First')
    const link = '{ at: 2026-11-24T10:00, record: deal 1, link: company 1 }'
    const unlink = '{ at: 2026-11-24T11:00, record: deal 1, unlink: company 1 }'
    const again = '{ at: 2026-11-24T12:00, record: deal 1, link: company 1 }'
    expect(tasks(rules, link)).toEqual(['First · Thornby'])
    expect(tasks(rules, [link, unlink, again].join(', '))).toEqual(['First · Thornby', 'First · Thornby'])
  })

  it('is a signal for both ends, and for the one that was there where the other is new', () => {
    const both =
      rule('A', 'deal', LINKED('company', 'added'), 'Deal has a firm') +
      rule('B', 'company', LINKED('deal', 'added'), 'Firm has a deal') +
      rule('C', 'deal', LINKED('company', 'removed'), 'Firm left')
    const link = '{ at: 2026-11-24T10:00, record: deal 1, link: company 1 }'
    const unlink = '{ at: 2026-11-24T11:00, record: deal 1, unlink: company 1 }'
    expect(tasks(both, [link, unlink].join(', '))).toEqual([
      'Deal has a firm · Cold room',
      'Firm has a deal · Thornby',
      'Firm left · Cold room',
    ])
  })
})
