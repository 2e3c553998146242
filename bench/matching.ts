import { Engine } from 'json-rules-engine'
import { alone } from '../core/conditions/subject'
import { Matcher, type ActiveRule } from '../core/engine/matcher'
import type { ChangeEvent } from '../core/records/record'
import { active, all, condition, enters, set } from '../core/testing/rules'
import { rate, rateAsync, row, say, type Row } from './measure'
import { catalogue } from '../core/testing/setting'

const STAGES = catalogue
  .allStages()
  .map((stage) => stage.id)
  .slice(0, 8)
const HELD = { stage: 'hp-quoted', reference: 'OURS', units: 3, kind: 'hire', owner: 'rosa' } as const
const EVENT: ChangeEvent = {
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
const FIRE = 3
const then = [set('notes', 'x')]

/** Rules of which three fire; `skewed`: 80 % of them listen to the stage and its eight values. */
export function rulesFor(count: number, skewed: boolean): readonly ActiveRule[] {
  return Array.from({ length: count }, (_, i): ActiveRule => {
    if (i < FIRE)
      return active(i + 1, {
        when: [enters('hp-quoted')],
        onlyIf: all(condition('reference', 'is', { value: 'OURS' })),
        then,
      })
    if (skewed && i % 5 !== 0)
      return active(i + 1, {
        when: [enters(STAGES[i % 8] ?? 'hp-quoted')],
        onlyIf: all(condition('reference', 'is', { value: `R-${i}` }), condition('kind', 'is', { value: 'hire' })),
        then,
      })
    return active(i + 1, {
      when: [['fieldChanges', { field: 'reference', how: 'to', from: null, to: `R-${i}` }]],
      then,
    })
  })
}

const conditionsHold = (reference: string) => reference === 'OURS'

export async function matching(): Promise<readonly Row[]> {
  const rows: Row[] = []
  const rates = new Map<string, number>()
  for (const skewed of [false, true]) {
    for (const count of [100, 1_000, 10_000, 100_000]) {
      const rules = rulesFor(count, skewed)
      const matcher = new Matcher(rules, catalogue)
      const fires = matcher.match(EVENT, HELD).filter((hit) => hit.rule.conditions.test(alone(HELD), MOMENT)).length
      if (fires !== FIRE) throw new Error(`${fires} rules fire where ${FIRE} should`)
      const perSecond = rate(() => {
        for (let i = 0; i < 200; i++) {
          for (const hit of matcher.match(EVENT, HELD)) if (!hit.rule.conditions.test(alone(HELD), MOMENT)) continue
        }
        return 200
      })
      rates.set(`${skewed} ${count}`, perSecond)
      const base = rates.get(`${skewed} 100`) ?? perSecond
      rows.push(
        row(
          `match one change against ${count.toLocaleString('en')} rules${skewed ? ', skewed' : ''}`,
          `${say(perSecond)} events/s`,
          count === 100 ? null : base / perSecond,
          count === 100_000 ? { most: 10 } : null,
        ),
      )
    }
  }

  // The same 1,000 skewed rules in a general engine: what a rule waits for and what it asks are both conditions there.
  const engine = new Engine([], { allowUndefinedFacts: true })
  for (const [i, rule] of rulesFor(1_000, true).entries()) {
    const stage = rule.document.triggers[0]?.params as { stage?: string; to?: string }
    engine.addRule({
      conditions: {
        all: [
          { fact: 'stage', operator: 'equal', value: stage.stage ?? '' },
          { fact: 'reference', operator: 'equal', value: i < FIRE ? 'OURS' : `R-${i}` },
        ],
      },
      event: { type: `rule-${i}` },
    })
  }
  const facts = { stage: 'hp-quoted', reference: HELD.reference }
  const { events } = await engine.run(facts)
  if (events.length !== FIRE || !conditionsHold(HELD.reference))
    throw new Error(`json-rules-engine fires ${events.length}`)
  const general = await rateAsync(async () => {
    await engine.run(facts)
    return 1
  })
  rows.push(
    row(
      'the same 1,000 rules in json-rules-engine',
      `${say(general)} events/s`,
      (rates.get('true 1000') ?? 0) / general,
      { least: 1000 },
    ),
  )
  return rows
}

const MOMENT = {
  nowMs: Date.UTC(2026, 10, 24, 9),
  today: '2026-11-24',
  zone: 'Europe/Lisbon',
  calendar: { workdays: [1, 2, 3, 4, 5], holidays: new Set<string>() },
}
