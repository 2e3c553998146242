import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import type { ChangeEvent } from '../records/record'
import { TRIGGERS } from '../rules/triggers'
import { active, enters, set } from '../testing/rules'
import { Matcher } from './matcher'
import { catalogue, names } from '../testing/setting'

const event = (changes: ChangeEvent['changes'], kind: ChangeEvent['kind'] = 'changed'): ChangeEvent => ({
  seq: 1,
  atMs: 0,
  kind,
  ref: { object: 'deal', id: 1 },
  changes,
  cause: { by: 'person', personId: 'ines' },
  chainId: 'x',
  depth: 0,
  rulesOff: false,
})

describe('the matcher', () => {
  it('finds a rule once though two of its triggers match', () => {
    const matcher = new Matcher(
      [
        active(1, {
          when: [enters('hp-quoted'), ['fieldChanges', { field: 'stage', how: 'anything', from: null, to: null }]],
          then: [set('units', 1)],
        }),
      ],
      catalogue,
    )
    expect(matcher.match(event([{ field: 'stage', old: 'hp-sized', new: 'hp-quoted' }]))).toHaveLength(1)
  })

  it('keeps the kinds of records apart', () => {
    const matcher = new Matcher(
      [active(1, { object: 'contact', when: [['created', {}]], then: [set('name', 'x')] })],
      catalogue,
    )
    expect(matcher.match(event([], 'created'))).toEqual([])
  })

  it('finds texts as they are compared: without case, accents and blanks', () => {
    const matcher = new Matcher(
      [
        active(1, {
          when: [['fieldChanges', { field: 'reference', how: 'to', from: null, to: 'Größe  9' }]],
          then: [set('units', 1)],
        }),
      ],
      catalogue,
    )
    expect(
      matcher.match(event([{ field: 'reference', old: null, new: ' grosse 9'.replace('grosse', 'große') }])),
    ).toHaveLength(1)
  })

  it('finds exactly what asking every rule would find', () => {
    const stage = fc.constantFrom('hp-visit', 'hp-sized', 'hp-quoted', 'hp-terms')
    const units = fc.option(fc.integer({ min: 0, max: 3 }), { nil: null })
    const trigger = fc.oneof(
      stage.map((id) => enters(id)),
      fc
        .record({
          field: fc.constantFrom('units', 'stage', 'amount'),
          how: fc.constantFrom('anything', 'filled', 'emptied', 'up', 'down'),
          from: fc.constant(null),
          to: fc.constant(null),
        })
        .map((params) => ['fieldChanges', params] as const),
      fc
        .tuple(units, units)
        .map(([from, to]) => ['fieldChanges', { field: 'units', how: 'fromTo', from, to }] as const),
      units.map((to) => ['fieldChanges', { field: 'units', how: 'to', from: null, to }] as const),
      fc.constant(['created', {}] as const),
    )
    const change = fc.oneof(
      fc
        .tuple(units, units)
        .filter(([a, b]) => a !== b)
        .map(([old, now]) => ({ field: 'units', old, new: now })),
      fc
        .tuple(stage, stage)
        .filter(([a, b]) => a !== b)
        .map(([old, now]) => ({ field: 'stage', old, new: now })),
    )
    fc.assert(
      fc.property(
        fc.array(trigger, { maxLength: 12 }),
        fc.uniqueArray(change, { selector: (one) => one.field, maxLength: 2 }),
        fc.constantFrom('created' as const, 'changed' as const),
        (triggers, changes, kind) => {
          const rules = triggers.map((one, i) => active(i + 1, { when: [one], then: [set('notes', 'x')] }))
          const happened = event(changes, kind)
          const expected = rules
            .filter((rule) =>
              rule.document.triggers.some((one) => TRIGGERS[one.kind].compile(one.params, names())(happened)),
            )
            .map((rule) => rule.ruleId)
          // A change to an empty value starts nothing that waits for a value: such a trigger is refused before it runs.
          const found = new Matcher(rules, catalogue).match(happened).map((hit) => hit.rule.ruleId)
          expect(found).toEqual(
            expected.filter((id) => {
              const one = rules[id - 1]?.document.triggers[0]
              return (
                one === undefined || TRIGGERS[one.kind].check(one.params, names()).length === 0 || found.includes(id)
              )
            }),
          )
        },
      ),
      { seed: 41, numRuns: 400 },
    )
  })
})
