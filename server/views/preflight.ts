import type { Group } from '../../core/conditions/document'
import type { ObjectKind } from '../../core/records/kinds'
import type { RuleDocument } from '../../core/rules/document'
import { preflight } from '../../core/rules/preflight'
import {
  SEVERITIES,
  type Example,
  type Noted,
  type PreflightContext,
  type PreflightData,
  type Reviewed,
} from '../../core/rules/preflight/finding'
import type { Workspace } from '../engine/workspace'
import { startedIn30Days } from './started'

/** A finding with whoever let it stand. */
export interface FindingLine extends Noted {
  readonly ruleName: string
  readonly accepted: { readonly reason: string; readonly person: string; readonly atMs: number } | null
}

/** The records that are there, asked once for each question however many findings ask it. */
function dataOf(workspace: Workspace): PreflightData {
  const { records } = workspace.store
  const [catalogue, moment] = [workspace.catalogue(), workspace.moment()]
  const known = new Map<string, unknown>()
  const once = <T>(key: string, ask: () => T): T => {
    if (!known.has(key)) known.set(key, ask())
    return known.get(key) as T
  }
  const example = (object: ObjectKind, id: number | null): Example | null =>
    id === null ? null : { id, name: workspace.nameOf({ object, id }) }
  const count = (object: ObjectKind, group: Group) =>
    once(`count ${object} ${JSON.stringify(group)}`, () => {
      const found = records.counted(object, records.where(group, object, catalogue, moment))
      return { count: found.count, first: example(object, found.first) }
    })
  return {
    count,
    filledLater: (object, key, group) =>
      once(`later ${object} ${key} ${JSON.stringify(group)}`, () => {
        const field = catalogue.field(object, key)
        const later = field
          ? records.filledLater(object, field.id, records.where(group, object, catalogue, moment))
          : { count: 0, first: null }
        return { total: count(object, group).count, count: later.count, first: example(object, later.first) }
      }),
    sample: (object, group, most) =>
      once(`sample ${object} ${most} ${JSON.stringify(group)}`, () =>
        records.matchingAfter(object, records.where(group, object, catalogue, moment), 0, most).flatMap((id) => {
          const record = records.read({ object, id })
          return record
            ? [
                {
                  id,
                  name: String(record.values.name ?? ''),
                  values: record.values,
                  linked: (of: ObjectKind) => workspace.world.linked({ object, id }, of).map((one) => one.record),
                },
              ]
            : []
        }),
      ),
    started: (object, kind) =>
      once(
        `started ${object} ${kind}`,
        () => startedIn30Days(workspace, { object, triggers: [{ id: kind, kind, params: {} }] })[kind] ?? 0,
      ),
  }
}

/** Rules as preflight looks at them: what runs by its version, what does not by its draft. */
function reviewed(workspace: Workspace): readonly Reviewed[] {
  return workspace.store.rules
    .all()
    .filter((rule) => rule.state !== 'archived')
    .map((rule): Reviewed => ({
      ruleId: rule.id,
      order: rule.order,
      on: rule.state === 'on',
      document: rule.state === 'on' && rule.version ? rule.version.document : rule.draft,
    }))
}

function withAccepted(
  workspace: Workspace,
  findings: readonly Noted[],
  rules: readonly Reviewed[],
): readonly FindingLine[] {
  const catalogue = workspace.catalogue()
  const accepted = new Map(workspace.store.rules.accepted(null).map((one) => [`${one.ruleId} ${one.key}`, one]))
  const names = new Map(rules.map((rule) => [rule.ruleId, rule.document.name]))
  return findings.map((finding) => {
    const stands = accepted.get(`${finding.ruleId} ${finding.key}`)
    return {
      ...finding,
      ruleName: names.get(finding.ruleId) ?? `rule ${finding.ruleId}`,
      accepted: stands
        ? {
            reason: stands.reason,
            person: catalogue.person(stands.personId)?.name ?? stands.personId,
            atMs: stands.atMs,
          }
        : null,
    }
  })
}

const contextOf = (workspace: Workspace, rules: readonly Reviewed[]): PreflightContext => ({
  catalogue: workspace.catalogue(),
  moment: workspace.moment(),
  data: dataOf(workspace),
  rules,
})

/** What is to be said about one rule as it stands on the sheet, beside the rules that run. */
export function preflightOf(workspace: Workspace, ruleId: number, document: RuleDocument): readonly FindingLine[] {
  const all = reviewed(workspace)
  const own = all.find((rule) => rule.ruleId === ruleId)
  const published = workspace.store.rules.get(ruleId)?.version?.document ?? null
  const rule: Reviewed = {
    ruleId,
    order: own?.order ?? Number.MAX_SAFE_INTEGER,
    on: own?.on ?? false,
    document,
    published,
  }
  const rules = [...all.filter((one) => one.ruleId !== ruleId), rule]
  return withAccepted(workspace, preflight(rule, contextOf(workspace, rules)), rules)
}

/** What is to be said about every rule that is not put away. */
export function preflightAll(workspace: Workspace): readonly FindingLine[] {
  const rules = reviewed(workspace)
  const context = contextOf(workspace, rules)
  const weight = (one: Noted) => SEVERITIES.indexOf(one.severity)
  return withAccepted(
    workspace,
    rules.flatMap((rule) => preflight(rule, context)).sort((a, b) => weight(a) - weight(b)),
    rules,
  )
}
