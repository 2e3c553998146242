import { sayProblem } from '../core/language/problems'
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
  if (!read.ok) return sayProblem(read.problem)
  const ran = runCase(read.value)
  return ran.ok
    ? ran.value.result.tasks.map(({ title, recordName }) => `${title} · ${recordName}`)
    : sayProblem(ran.problem)
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

  const ESCALATE = `
  - format: 2
    name: Ask, then escalate
    description: ''
    object: deal
    triggers: [{ id: t1, kind: fieldChanges, params: { field: amount, how: past, from: null, to: 100 } }]
    conditions: { kind: group, id: c0, mode: all, items: [] }
    steps:
      - id: s1
        kind: taskAndWait
        params: { title: Ring, notes: '', taskKind: call, due: { count: 0, unit: days }, priority: normal, again: true,
          email: false, most: { count: 24, unit: hours }, recheck: false }
        branches:
          - id: b1
            steps: [{ id: s2, kind: setField, params: { field: notes, source: { from: field, field: s1.outcome } } },
              { id: s3, kind: createTask, params: { title: 'Rung, {{deal.notes}}', notes: '', taskKind: todo,
                due: { count: 0, unit: days }, priority: low, again: true, email: false } }]
          - id: b2
            steps: [{ id: s4, kind: createTask, params: { title: Nobody rang, notes: '', taskKind: call,
              due: { count: 0, unit: days }, priority: high, again: true, email: false } }]`
  const ASKED = '{ at: 2026-11-24T10:00, record: deal 1, set: { amount: 500 } }'

  it('finishes a task that a run waits for, with what came of it', () => {
    const done = '{ at: 2026-11-24T12:00, record: deal 1, finish: Ring, outcome: wants two }'
    expect(tasks(ESCALATE, [ASKED, done].join(', '))).toEqual(['Ring · Cold room', 'Rung, wants two · Cold room'])
  })

  it('finishes another one, which ends no wait; that runs out', () => {
    const other = '{ at: 2026-11-24T12:00, record: deal 1, finish: Something else }'
    const late = '{ at: 2026-11-25T12:00, record: deal 1, finish: Ring }'
    expect(tasks(ESCALATE, [ASKED, other, late].join(', '))).toEqual(['Ring · Cold room', 'Nobody rang · Cold room'])
  })

  it('empties a date that a run waits for, which goes the path for that', () => {
    const title = (id: string, text: string) =>
      `{ id: ${id}, kind: createTask, params: { title: ${text}, notes: '', taskKind: todo, due: { count: 0, unit: days }, priority: low, again: true, email: false } }`
    const rules = `
  - format: 2
    name: Before the close
    description: ''
    object: deal
    triggers: [{ id: t1, kind: fieldChanges, params: { field: amount, how: past, from: null, to: 100 } }]
    conditions: { kind: group, id: c0, mode: all, items: [] }
    steps:
      - id: s1
        kind: waitForDate
        params: { until: { at: field, field: closeDate, side: before, amount: { count: 1, unit: days }, minute: 540 },
          recheck: false }
        branches:
          - { id: b1, steps: [${title('s2', 'Close')}] }
          - { id: b2, steps: [${title('s3', 'Ask when')}] }`
    const dated = '{ at: 2026-11-24T09:30, record: deal 1, set: { closeDate: 2026-11-26 } }'
    const moved = '{ at: 2026-11-24T11:00, record: deal 1, set: { closeDate: null } }'
    expect(tasks(rules, ASKED)).toEqual(['Ask when · Cold room'])
    expect(tasks(rules, [dated, ASKED].join(', '))).toEqual(['Close · Cold room'])
    expect(tasks(rules, [dated, ASKED, moved].join(', '))).toEqual(['Ask when · Cold room'])
  })
})
