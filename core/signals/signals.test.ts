import { describe, expect, it } from 'vitest'
import type { ChangeEvent } from '../records/record'
import { TRIGGERS, TRIGGER_NAMES } from '../rules/triggers'
import type { Field } from '../fields/field'
import { catalogue as plain } from '../testing/setting'
import { labelsIn } from './label'
import { aboutOf, bears, SIGNALS, SIGNAL_NAMES, type Listen } from '.'

/** The firm with a score of its contacts. */
const score = (key: string, part: 'points' | 'band', id: number): Field => ({
  ...plain.field('contact', part === 'points' ? 'email' : 'language')!,
  id,
  key,
  type: part === 'points' ? 'number' : 'choice',
  choices: part === 'points' ? [] : [{ id: 'warm', label: 'Warm' }],
  made: { by: 'score', card: 1, part },
})
const catalogue = plain.with([score('interest', 'points', 901), score('interestBand', 'band', 902)])

const deal = { object: 'deal', id: 1 } as const
const changed = (...changes: ChangeEvent['changes']): Pick<ChangeEvent, 'kind' | 'changes' | 'ref'> => ({
  kind: 'changed',
  ref: deal,
  changes,
})
const keysOf = (name: keyof typeof SIGNALS, event: ReturnType<typeof changed>) => [
  ...SIGNALS[name].keys(event, catalogue),
]

describe('signals', () => {
  it('are kept under their own names', () => {
    for (const name of SIGNAL_NAMES) expect(SIGNALS[name].kind).toBe(name)
  })

  it('bear keys by field and by value, by label, by segment and by score', () => {
    expect(keysOf('field', changed({ field: 'stage', old: 'hp-sized', new: 'hp-quoted' }))).toEqual([
      'stage',
      'stage=hp-quoted',
    ])
    expect(keysOf('field', changed({ field: 'amount', old: 5, new: null }))).toEqual(['amount'])
    expect(keysOf('label', changed({ field: 'labels', old: ['urgent'], new: ['press'] }))).toEqual([
      'labels+press',
      'labels-urgent',
    ])
    expect(keysOf('label', changed({ field: 'stage', old: 'hp-sized', new: 'hp-quoted' }))).toEqual([])
    expect(keysOf('segment', changed({ field: 'segment12', old: true, new: false }))).toEqual(['-12'])
    expect(keysOf('segment', changed({ field: 'segmented', old: true, new: false }))).toEqual([])
    expect(keysOf('record', changed())).toEqual(['changed'])
  })

  it('hear nothing of the values of a record that is deleted', () => {
    const gone = { ...changed({ field: 'labels', old: ['urgent'], new: null }), kind: 'deleted' } as const
    expect(SIGNAL_NAMES.flatMap((name) => [...SIGNALS[name].keys(gone, catalogue)])).toEqual(['deleted'])
  })

  it('name the rule that somebody or the clock starts', () => {
    const by = (cause: ChangeEvent['cause']) =>
      SIGNAL_NAMES.map((name) => SIGNALS[name].ruleOf?.({ cause }) ?? null).filter((id) => id !== null)
    expect(by({ by: 'person', personId: 'ines', starts: { ruleId: 7, triggerId: null, answers: {} } })).toEqual([7])
    expect(by({ by: 'person', personId: 'ines' })).toEqual([])
    expect(
      by({ by: 'clock', starts: { ruleId: 9, triggerId: 't1', occurrence: 'x', because: 'it was due', dueMs: 0 } }),
    ).toEqual([9])
  })

  it('tell of each label that came and went, whatever else did', () => {
    const change = { field: 'labels', old: ['a', 'b'], new: ['b', 'c', 'd'] }
    expect([labelsIn(change, 'added'), labelsIn(change, 'removed')]).toEqual([['c', 'd'], ['a']])
    expect(labelsIn({ ...change, new: null }, 'removed')).toEqual(['a', 'b'])
  })
})

describe.each(TRIGGER_NAMES)('what the trigger %s listens to', (kind) => {
  const trigger = TRIGGERS[kind]
  it.each(trigger.examples.map((one) => [one.say, one] as const))('is borne by what starts it: %s', (_say, example) => {
    const listens = trigger.listen(example.params, { catalogue, object: example.object })
    const byHand = listens.some(({ signal }) => SIGNALS[signal].ruleOf)
    const event = { ...example.event, ref: { object: example.object, id: 1 } }
    if (example.starts && !byHand) expect(bears(event, catalogue, listens)).toBe(true)
    // What a search goes by is never narrower than the key.
    for (const listen of listens) expect(named(listen, event)).toBe(true)
  })
})

/** Whether an event that bears a key is among those that a search by what it is about finds. */
function named(listen: Listen, event: Pick<ChangeEvent, 'kind' | 'changes' | 'ref'>): boolean {
  if (!bears(event, catalogue, [listen])) return true
  const about = aboutOf(listen)
  return 'kind' in about ? about.kind === event.kind : event.changes.some((one) => one.field === about.field)
}
