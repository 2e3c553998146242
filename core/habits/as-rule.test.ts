import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { checkRule } from '../rules/check'
import { blankRule, type RuleDocument } from '../rules/document'
import { catalogue } from '../testing/setting'
import { OBJECTS, type RecordKind } from '../records/kinds'
import { ACTIVITY_NAMES } from '../activities'
import { doesSame, ruleFor, sayHabit, saySpan } from './as-rule'
import type { Habit } from './habit'

const HOUR = 3_600_000
const DAY = 24 * HOUR

const habit = (after: Habit['after'], then: string, withinMs = 2 * DAY): Habit => ({
  after,
  then,
  withinMs,
  of: 38,
  followed: 31,
  lift: 4,
  on: [1, 2],
  not: [3],
})
const rule = (after: Habit['after'], then: string, object: RecordKind = 'deal'): RuleDocument => {
  const found = ruleFor(habit(after, then), object, catalogue)
  if (!found) throw new Error(`no rule for ${JSON.stringify(after)} and ${then}`)
  return found
}

describe('a span of a habit', () => {
  it.each([
    [HOUR, '1 hour'],
    [2 * HOUR, '2 hours'],
    [DAY - HOUR, '23 hours'],
    [DAY, '1 day'],
    [2 * DAY, '2 days'],
    [7 * DAY, '7 days'],
  ])('of %i ms is %s', (ms, said) => {
    expect(saySpan(ms)).toBe(said)
  })
})

/** What it follows and what people do then, in words. */
const SAID: readonly (readonly [object: RecordKind, after: Habit['after'], then: string, said: string])[] = [
  ['deal', 'stage=hp-quoted', 'labels+press', 'After a deal enters Quoted, someone adds “Press”'],
  ['deal', 'created', 'owner=rosa', 'After a deal is created, someone sets owner to Rosa Amara'],
  ['deal', 'labels+urgent', 'did=call', 'After a deal gets “Urgent”, someone calls'],
  ['deal', 'kind=hire', 'stage=hp-sized', 'After the kind of a deal becomes Hire, someone moves it to Sized'],
  [
    'deal',
    { field: 'amount', above: 50_000 },
    'did=call',
    'After the amount of a deal is set above €50,000, someone calls',
  ],
  [
    'deal',
    { field: 'units', above: 4 },
    'kind=purchase',
    'After the units of a deal is set above 4, someone sets kind to Purchase',
  ],
  ['contact', 'did=messageOpened', 'did=call', 'After a contact opens a message, someone calls'],
  ['contact', 'did=visit', 'buyingRole=decides', 'After a contact visits a page, someone sets buying role to Decides'],
  [
    'contact',
    'optedOut=true',
    'owner=rosa',
    'After the opted out of a contact becomes yes, someone sets owner to Rosa Amara',
  ],
  ['company', 'fitTier=a', 'owner=rosa', 'After the fit tier of a company becomes A, someone sets owner to Rosa Amara'],
]

describe('a habit', () => {
  it.each(SAID)('of a %s: %j and %s is said', (object, after, then, said) => {
    expect(sayHabit(habit(after, then), object, catalogue)).toBe(
      `${said} within 2 days (31 of 38 ${object === 'company' ? 'companies' : `${object}s`}).`,
    )
  })

  it.each(SAID)('of a %s: %j and %s becomes a rule that can be switched on', (object, after, then) => {
    const made = rule(after, then, object)
    expect(checkRule(made, catalogue)).toEqual([])
    expect(made.object).toBe(object)
    expect(made.description).toBe(sayHabit(habit(after, then), object, catalogue))
    expect(made.name).toMatch(/^\p{Lu}.*: (add|set|move|call)/u)
    expect(doesSame(made, habit(after, then), object, catalogue)).toBe(true)
  })

  it.each([
    ['a field that went', 'colour=red', 'did=call'],
    ['a field that went, to be set', 'stage=hp-quoted', 'colour=red'],
    ['a number that went', { field: 'colour', above: 7 }, 'did=call'],
    ['what is neither', 'whatever', 'did=call'],
    ['what nobody does by hand', 'stage=hp-quoted', 'did=visit'],
  ] as const)('about %s is neither said nor made a rule', (_, after, then) => {
    expect(sayHabit(habit(after, then), 'deal', catalogue)).toBeNull()
    expect(ruleFor(habit(after, then), 'deal', catalogue)).toBeNull()
    expect(doesSame(blankRule('deal', 'Any'), habit(after, then), 'deal', catalogue)).toBe(false)
  })

  it('that sets what nobody may is told, and no rule does it', () => {
    const kept = habit('stage=hp-quoted', 'pipeline=enq')
    expect(sayHabit(kept, 'deal', catalogue)).toContain('someone sets pipeline to Enquiries')
    expect(ruleFor(kept, 'deal', catalogue)).toBeNull()
  })

  it('names no kind of activity by its key', () => {
    for (const kind of ACTIVITY_NAMES) {
      const said = sayHabit(habit(`did=${kind}`, 'did=call'), 'contact', catalogue)
      expect(said).not.toBeNull()
      expect(said).not.toMatch(/[a-z][A-Z]/)
    }
  })
})

describe('the rule of a habit', () => {
  it('listens also to new records that have the value from the beginning, and asks for it', () => {
    const made = rule('kind=hire', 'did=call')
    expect(made.triggers.map(({ kind }) => kind)).toEqual(['fieldChanges', 'created'])
    expect(made.conditions.items).toMatchObject([{ field: 'kind', op: 'is', params: { value: 'hire' } }])
  })

  it('asks for a number beyond its line, also of new records', () => {
    const made = rule({ field: 'amount', above: 50_000 }, 'did=call')
    expect(made.triggers).toMatchObject([
      { kind: 'fieldChanges', params: { field: 'amount', how: 'past', to: 50_000 } },
      { kind: 'created' },
    ])
    expect(made.conditions.items).toMatchObject([{ field: 'amount', op: 'moreThan', params: { value: 50_000 } }])
  })

  it.each([
    ['stage=hp-quoted', 'entersStage'],
    ['created', 'created'],
    ['labels+urgent', 'labelChanges'],
    ['did=visit', 'activity'],
  ] as const)('begins with %s by one trigger, and asks nothing', (after, kind) => {
    const made = rule(after, 'did=call')
    expect(made.triggers.map((trigger) => trigger.kind)).toEqual([kind])
    expect(made.conditions.items).toEqual([])
  })

  it.each([
    ['did=call', 'createTask', { title: 'Call {{deal.name}}', taskKind: 'call', who: { by: 'owner' } }],
    ['labels+press', 'changeLabels', { how: 'add', labels: ['press'], field: 'labels' }],
    ['stage=hp-sized', 'moveStage', { stage: 'hp-sized', across: true }],
    ['owner=rosa', 'assignOwner', { person: null, replace: true, who: { by: 'person', person: 'rosa' } }],
    ['kind=hire', 'setField', { field: 'kind', source: { from: 'value', value: 'hire' } }],
  ] as const)('does %s by its step', (then, kind, params) => {
    const [step, ...others] = rule('created', then).steps
    expect(others).toEqual([])
    expect(step?.kind).toBe(kind)
    expect(step?.params).toMatchObject(params)
  })

  it('has a name of at most 200 letters', () => {
    const long = 'x'.repeat(400)
    expect(rule('stage=hp-quoted', `reference=${long}`).name).toHaveLength(200)
  })
})

describe('whether a rule does the same', () => {
  const THEN = [
    'did=call',
    'labels+press',
    'stage=hp-sized',
    'owner=rosa',
    'kind=hire',
    'kind=service',
    'labels+urgent',
  ]
  const then = fc.constantFrom(...THEN)

  it('is so for the same thing done and for no other, whenever it does it', () => {
    fc.assert(
      fc.property(then, then, fc.constantFrom('created', 'stage=hp-terms', 'labels+urgent'), (one, other, after) => {
        expect(doesSame(rule(after, one), habit('stage=hp-quoted', other), 'deal', catalogue)).toBe(one === other)
      }),
    )
  })

  it('is so in a way of a step too, however deep', () => {
    const [step] = rule('created', 'labels+press').steps
    if (!step) throw new Error('no step')
    const deep: RuleDocument = {
      ...blankRule('deal', 'Deep'),
      steps: [
        {
          id: 's1',
          kind: 'choosePath',
          params: {},
          branches: [
            { id: 'b1', steps: [] },
            {
              id: 'b2',
              steps: [{ id: 's2', kind: 'choosePath', params: {}, branches: [{ id: 'b3', steps: [step] }] }],
            },
          ],
        },
      ],
    }
    expect(doesSame(deep, habit('created', 'labels+press'), 'deal', catalogue)).toBe(true)
    expect(doesSame(deep, habit('created', 'labels+urgent'), 'deal', catalogue)).toBe(false)
  })

  it('is not so for a rule about other records', () => {
    for (const object of OBJECTS)
      expect(
        doesSame({ ...rule('created', 'owner=rosa'), object }, habit('created', 'owner=rosa'), 'deal', catalogue),
      ).toBe(object === 'deal')
  })

  it('leaves aside what it calls the task and how it asks', () => {
    const made = rule('created', 'did=call')
    const [step] = made.steps
    if (!step) throw new Error('no step')
    const other = { ...made, steps: [{ ...step, params: { ...step.params, title: 'Ring them', again: true } }] }
    expect(doesSame(other, habit('created', 'did=call'), 'deal', catalogue)).toBe(true)
  })
})
