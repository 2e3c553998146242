import type { RuleDocument } from '../../core/rules/document'
import { derivationsOf } from '../../core/derived/derivations'
import { TRIGGERS } from '../../core/rules/triggers'
import { aboutOf } from '../../core/signals'
import { BY_HAND } from '../../core/signals/hand'
import type { Workspace } from '../engine/workspace'

const PAST_DAYS = 30
const DAY_MS = 86_400_000
/** So many triggers stay counted: somebody who writes a rule asks for the same ones again with every word. */
const KEPT_MOST = 60

interface Counted {
  /** The last event that was looked at. */
  seq: number
  /** When it would have started the rule, oldest first. */
  times: number[]
}

/**
 * The triggers that go by a value which is another one every day: what only the day changes is kept while a rule that
 * is on goes by it, so that there may have been more than can be counted.
 */
export function countedInPart(
  workspace: Workspace,
  rule: Pick<RuleDocument, 'object' | 'triggers'>,
): readonly string[] {
  const catalogue = workspace.catalogue()
  const { byDay } = derivationsOf(catalogue)
  const daily = new Set(byDay.filter(({ field }) => field.object === rule.object).map(({ field }) => field.key))
  return rule.triggers.flatMap(({ id, kind, params }) =>
    TRIGGERS[kind]
      .listen(params, { catalogue, object: rule.object })
      .map(aboutOf)
      .some((about) => 'field' in about && daily.has(about.field))
      ? [id]
      : [],
  )
}

const counted = new WeakMap<Workspace, Map<string, Counted>>()

/**
 * How often each trigger of a rule would have started it in the last 30 days of real history, by its id. A button is
 * left out: a press wants one rule, and says nothing about another.
 */
export function startedIn30Days(
  workspace: Workspace,
  rule: Pick<RuleDocument, 'object' | 'triggers'>,
): Readonly<Record<string, number>> {
  const { events } = workspace.store
  const names = { catalogue: workspace.catalogue(), object: rule.object }
  const fromMs = workspace.clock.nowMs() - PAST_DAYS * DAY_MS
  const known = counted.get(workspace) ?? new Map<string, Counted>()
  counted.set(workspace, known)
  return Object.fromEntries(
    rule.triggers.flatMap(({ id, kind, params }): [string, number][] => {
      const trigger = TRIGGERS[kind]
      const key = JSON.stringify([rule.object, kind, params])
      const so = known.get(key) ?? { seq: 0, times: [] }
      const test = trigger.compile(params, names)
      const listens = trigger.listen(params, names)
      if (listens.some(({ signal }) => signal === BY_HAND.signal)) return []
      for (const event of events.since(rule.object, fromMs, so.seq, listens))
        if (test(event, (field) => workspace.world.past(event.ref, field, event.seq))) so.times.push(event.atMs)
      so.seq = events.last()
      const first = so.times.findIndex((atMs) => atMs >= fromMs)
      so.times.splice(0, first < 0 ? so.times.length : first)
      known.delete(key)
      if (known.size >= KEPT_MOST) known.clear()
      known.set(key, so)
      return [[id, so.times.length]]
    }),
  )
}
