import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { meetsFilter, RULE_FILTERS, TROUBLES, type ListedRule, type RuleFilter } from './ruleFilter'

const ANY = Object.fromEntries(RULE_FILTERS.map((name) => [name, ''])) as RuleFilter
const rule = (more: Partial<ListedRule> = {}): ListedRule => ({
  id: 1,
  state: 'on',
  name: 'Quote not answered',
  object: 'deal',
  when: 'a deal enters Quoted',
  onlyIf: 'its amount is more than €10,000',
  then: ['create a task for Zoë Żak'],
  order: 10,
  description: 'Somebody calls',
  folder: 'Quotes',
  labels: ['calls'],
  triggers: ['entersStage'],
  fields: ['deal.stage', 'deal.amount'],
  unreadable: null,
  paused: false,
  createdBy: 'Ines Calloway',
  version: 1,
  unpublished: false,
  problems: 0,
  changedBy: 'Rosa Amara',
  changedAt: 0,
  pulse: [],
  runs: 3,
  failed: 0,
  lastAt: null,
  ...more,
})
const meets = (asked: Partial<RuleFilter>, more?: Partial<ListedRule>): boolean =>
  meetsFilter(rule(more), { ...ANY, ...asked })

describe('what the list of rules is narrowed to', () => {
  it.each([
    ['state', 'on', 'off'],
    ['of', 'deal', 'contact'],
    ['start', 'entersStage', 'recurring'],
    ['field', 'deal.amount', 'contact.email'],
    ['by', 'Rosa Amara', 'Jude Okell'],
    ['by', 'Ines Calloway', 'Jude Okell'],
    ['folder', 'Quotes', 'Renewals'],
    ['label', 'calls', 'gifts'],
  ] as const)('%s: %s and not %s', (name, its, another) => {
    expect(meets({ [name]: its })).toBe(true)
    expect(meets({ [name]: another })).toBe(false)
  })

  it('is all but what was archived where no state is asked for', () => {
    expect(['on', 'off', 'draft', 'archived'].map((state) => meets({}, { state: state as 'on' }))).toEqual([
      true,
      true,
      true,
      false,
    ])
    expect(meets({ state: 'archived' }, { state: 'archived' })).toBe(true)
  })

  it.each([
    ['failed', { failed: 1 }],
    ['paused', { paused: true }],
    ['unfinished', { problems: 2 }],
    ['unfinished', { unreadable: 'not a rule' }],
    ['unpublished', { unpublished: true }],
    ['quiet', { runs: 0 }],
  ] as const)('a rule that is %s by %o, and none that is as usual', (trouble, more) => {
    expect(meets({ trouble }, more)).toBe(true)
    expect(meets({ trouble })).toBe(false)
    expect(TROUBLES.map(({ value }) => value)).toContain(trouble)
  })

  it('a rule that is off is not one that does nothing', () => {
    expect(meets({ trouble: 'quiet' }, { runs: 0, state: 'off' })).toBe(false)
  })

  it('every word stands somewhere in what is said of it, whatever its letters', () => {
    expect(meets({ words: 'ZAK quote' })).toBe(true)
    expect(meets({ words: 'zoe 10,000 CALLS' })).toBe(true)
    expect(meets({ words: 'quote gift' })).toBe(false)
  })

  it('asking for more never brings a rule back', () => {
    const some = fc.record({
      state: fc.constantFrom('', 'on', 'archived'),
      of: fc.constantFrom('', 'deal', 'contact'),
      start: fc.constantFrom('', 'entersStage', 'recurring'),
      field: fc.constantFrom('', 'deal.amount', 'x.y'),
      by: fc.constantFrom('', 'Rosa Amara', 'Nobody'),
      folder: fc.constantFrom('', 'Quotes', 'Other'),
      label: fc.constantFrom('', 'calls', 'other'),
      trouble: fc.constantFrom('', 'failed', 'quiet', 'from an older address'),
      words: fc.constantFrom('', 'quote', 'gift', 'a deal'),
    })
    fc.assert(
      fc.property(some, fc.constantFrom(...RULE_FILTERS), (asked, name) => {
        const less = { ...asked, [name]: '' }
        // No state stands for all that are not archived, so it is no wider than one of them.
        fc.pre(name !== 'state' || asked.state !== 'archived')
        expect(meetsFilter(rule(), asked) && !meetsFilter(rule(), less)).toBe(false)
      }),
      { endOnFailure: true },
    )
  })
})
