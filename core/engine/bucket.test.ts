import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { compileGroup } from '../conditions/compile'
import { alone } from '../conditions/subject'
import { equalitiesOf } from '../conditions/equalities'
import type { ChangeEvent } from '../records/record'
import { active, all, condition, enters, set } from '../testing/rules'
import { TestWorld } from '../testing/world'
import { PLAIN_MOST } from './bucket'
import { Matcher } from './matcher'
import { catalogue, moment } from '../testing/setting'

const quoted: ChangeEvent = {
  seq: 1,
  atMs: 0,
  kind: 'changed',
  ref: { object: 'deal', id: 1 },
  changes: [{ field: 'stage', old: 'hp-sized', new: 'hp-quoted' }],
  cause: { by: 'person', personId: 'ines' },
  chainId: 'x',
  depth: 0,
  rulesOff: false,
}
const kinds = ['hire', 'purchase', 'service'] as const
const owners = ['rosa', 'jude', 'piet', 'anouk'] as const

describe('what must be equal for a group to hold', () => {
  const of = (group: Parameters<typeof equalitiesOf>[0]) => equalitiesOf(group, 'deal', catalogue)

  it('is what "is" and "is one of" ask at the top of an "all" group', () => {
    expect(
      of(
        all(
          condition('kind', 'is', { value: 'hire' }),
          condition('owner', 'isAnyOf', { values: ['rosa', 'jude'] }),
          condition('amount', 'moreThan', { value: 1 }),
        ),
      ),
    ).toEqual([
      { field: 'kind', keys: ['hire'] },
      { field: 'owner', keys: ['rosa', 'jude'] },
    ])
  })

  it('is nothing for what is turned round, joined by "any", deeper down, unfinished or of another type', () => {
    const is = condition('kind', 'is', { value: 'hire' })
    expect(of(all(condition('kind', 'is', { value: 'hire' }, true)))).toEqual([])
    expect(of({ ...all(is), mode: 'any' })).toEqual([])
    expect(of(all({ ...all(is), id: 'inner' }))).toEqual([])
    expect(of(all(condition('kind', 'is', { value: null }), condition('gone', 'is', { value: 1 })))).toEqual([])
  })
})

describe('a large bucket', () => {
  it('passes over only rules whose conditions do not hold, whatever they are', () => {
    const one = fc.oneof(
      fc.constantFrom(...kinds).map((value) => condition('kind', 'is', { value }, false, 'c1')),
      fc.constantFrom(...kinds).map((value) => condition('kind', 'is', { value }, true, 'c1')),
      fc
        .subarray([...owners], { minLength: 1 })
        .map((values) => condition('owner', 'isAnyOf', { values }, false, 'c2')),
      fc.integer({ min: 0, max: 3 }).map((value) => condition('units', 'is', { value }, false, 'c3')),
      fc.integer({ min: 0, max: 3 }).map((value) => condition('units', 'moreThan', { value }, false, 'c4')),
    )
    const values = fc.record({
      kind: fc.constantFrom(...kinds, null),
      owner: fc.constantFrom(...owners, null),
      units: fc.constantFrom(0, 1, 2, 3, null),
      stage: fc.constant('hp-quoted'),
    })
    fc.assert(
      fc.property(
        fc.array(fc.array(one, { maxLength: 3 }), { minLength: PLAIN_MOST + 1, maxLength: PLAIN_MOST + 30 }),
        values,
        (groups, held) => {
          const rules = groups.map((items, i) =>
            active(i + 1, {
              when: [enters('hp-quoted')],
              onlyIf: all(...items.map((item, at) => ({ ...item, id: `c${at}` }))),
              then: [set('notes', 'x')],
            }),
          )
          const matcher = new Matcher(rules, catalogue)
          expect(matcher.looksAtValues(quoted)).toBe(true)
          const found = new Set(matcher.match(quoted, held).map((hit) => hit.rule.ruleId))
          for (const { rule } of matcher.match(quoted)) {
            if (!found.has(rule.ruleId))
              expect(compileGroup(rule.document.conditions, 'deal', catalogue).test(alone(held), moment)).toBe(false)
          }
          // Order stays that of the rules.
          expect([...found]).toEqual([...found].sort((a, b) => a - b))
        },
      ),
      { seed: 17, numRuns: 200 },
    )
  })

  it('is asked rule by rule while it is small, so that each that is kept out says why', () => {
    const rules = Array.from({ length: PLAIN_MOST }, (_, i) =>
      active(i + 1, {
        when: [enters('hp-quoted')],
        onlyIf: all(condition('kind', 'is', { value: 'service' })),
        then: [set('notes', 'x')],
      }),
    )
    const world = new TestWorld()
    const ref = world.add('deal', 1, { name: 'Two rooms', stage: 'hp-sized', kind: 'hire' })
    world.change(ref, { stage: 'hp-quoted' })
    const reports = world.drain(rules)
    expect(reports).toHaveLength(PLAIN_MOST)
    expect(reports.every((report) => report.stop?.code === 'conditions')).toBe(true)
  })

  it('still lets a later rule see what an earlier one changed, and never an earlier one what a later did', () => {
    const filler = Array.from({ length: PLAIN_MOST }, (_, i) =>
      active(
        100 + i,
        {
          when: [enters('hp-quoted')],
          onlyIf: all(condition('kind', 'is', { value: 'purchase' })),
          then: [set('notes', 'never')],
        },
        15,
      ),
    )
    const rules = [
      active(
        1,
        {
          when: [enters('hp-quoted')],
          onlyIf: all(condition('kind', 'is', { value: 'service' })),
          then: [set('reference', 'too early')],
        },
        5,
      ),
      active(2, { when: [enters('hp-quoted')], then: [set('kind', 'service')] }, 10),
      ...filler,
      active(
        3,
        {
          when: [enters('hp-quoted')],
          onlyIf: all(condition('kind', 'is', { value: 'service' })),
          then: [set('units', 9)],
        },
        20,
      ),
      active(
        4,
        {
          when: [enters('hp-quoted')],
          onlyIf: all(condition('kind', 'is', { value: 'hire' })),
          then: [set('units', 1)],
        },
        30,
      ),
    ]
    const world = new TestWorld()
    const ref = world.add('deal', 1, { name: 'Two rooms', stage: 'hp-sized', kind: 'hire' })
    world.change(ref, { stage: 'hp-quoted' })
    const ran = world
      .drain(rules)
      .filter((report) => report.state === 'done')
      .map((report) => report.ruleId)
    expect(ran).toEqual([2, 3])
    expect(world.read(ref)?.values).toMatchObject({ kind: 'service', units: 9 })
    expect(world.read(ref)?.values.reference ?? null).toBeNull()
  })
})
