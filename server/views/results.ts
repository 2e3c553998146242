import { CALL_OUTCOMES } from '../../core/asks/call'
import { plainSentence } from '../../core/language/sentence'
import { ANSWER_KIND_CHOICES } from '../../core/messages/answer-kind'
import { brokenDown, type Breakdown, type Figures } from '../../core/results/figures'
import { sayTarget, targetBy, targetResult, type ToldShare } from '../../core/results/target'
import { sayGroup } from '../../core/conditions/compile'
import type { RuleDocument } from '../../core/rules/document'
import { goalKey, goalSentence } from '../../core/rules/goal'
import { STEPS } from '../../core/rules/steps'
import { placedBranches } from '../../core/rules/tree'
import type { Scope } from '../../core/access/scope'
import { seesRef } from '../engine/seen'
import type { Workspace } from '../engine/workspace'
import type { FigureRowsAsked } from '../store/figure-rows'
import type { StoredRule } from '../store/rules'

/** Whether a rule did any good: its figures in words and numbers. */

const HOUR_MS = 3_600_000

/** Of how many how many, by something. */
export interface SplitLine {
  readonly key: string
  readonly label: string
  readonly counts: Readonly<Record<string, number>>
}

export interface TargetSplit {
  readonly by: Breakdown
  readonly title: string
  readonly lines: readonly (ToldShare & { readonly key: string; readonly label: string })[]
}

const TITLES: Readonly<Record<Breakdown, string>> = {
  version: 'By version',
  owner: 'By owner',
  label: 'By label',
  branch: 'By path',
  month: 'By month',
  template: 'By template',
}

const MONTHS = new Intl.DateTimeFormat('en', { month: 'long', year: 'numeric', timeZone: 'UTC' })

/** What a path is called on the sheet; `null` where the rule has it no more. */
function branchWords(document: RuleDocument, id: string, workspace: Workspace): string | null {
  const found = placedBranches(document).find(({ branch }) => branch.id === id)
  const all = found?.of.branches ?? []
  const names = found && { catalogue: workspace.catalogue(), object: found.object }
  const said =
    names && STEPS[found.of.kind].ways?.label(found.branch, all.indexOf(found.branch), all, found.of.params, names)
  return found ? `${found.label}: ${said ?? ''}` : null
}

/** The words for a value of a breakdown. */
function wordsFor(
  workspace: Workspace,
  rule: StoredRule,
  document: RuleDocument,
  by: Breakdown,
  value: string,
): string {
  const catalogue = workspace.catalogue()
  switch (by) {
    case 'version': {
      const version = workspace.store.rules.version(Number(value))
      return version ? `Version ${version.number}` : `Version ${value}`
    }
    case 'owner':
      return value === '' ? 'No one' : (catalogue.person(value)?.name ?? value)
    case 'label': {
      const field = rule.draft.object === 'none' ? undefined : catalogue.field(rule.draft.object, 'labels')
      return field?.choices.find(({ id }) => id === value)?.label ?? value
    }
    case 'branch':
      return branchWords(document, value, workspace) ?? 'A path of an earlier version'
    case 'month':
      return MONTHS.format(new Date(`${value}-01T00:00:00Z`))
    case 'template':
      return catalogue.template(Number(value))?.name ?? `Template ${value}`
  }
}

/** One breakdown of plain counts; without anything in it, nothing. */
function split(
  workspace: Workspace,
  rule: StoredRule,
  document: RuleDocument,
  figures: Figures,
  by: Breakdown,
  names: readonly string[],
): readonly SplitLine[] {
  return [...brokenDown(figures, by)]
    .flatMap(([key, of]) => {
      const counts = Object.fromEntries(names.map((name) => [name, of[name] ?? 0]))
      return Object.values(counts).every((n) => n === 0)
        ? []
        : [{ key, label: wordsFor(workspace, rule, document, by, key), counts }]
    })
    .sort((a, b) =>
      by === 'month' ? a.key.localeCompare(b.key) : (b.counts[names[0] ?? ''] ?? 0) - (a.counts[names[0] ?? ''] ?? 0),
    )
}

const TASK_COUNTS = ['tasksMade', 'tasksDone', 'tasksLate', 'tasksPostponed', 'tasksWithdrawn'] as const
const MESSAGE_COUNTS = ['sent', 'answered', 'bounced', 'failed', 'optedOut'] as const

export function ruleResults(workspace: Workspace, rule: StoredRule) {
  const figures = workspace.store.results.of(rule.id)
  const document = rule.version?.document ?? rule.draft
  const { goal, object } = document
  const catalogue = workspace.catalogue()
  const of = (name: string): number => figures[name] ?? 0
  const key = goal ? goalKey(goal) : null
  const target = goal && key ? targetResult(figures, key, goal.days) : null
  const splitBy = (by: Breakdown, names: readonly string[]): readonly SplitLine[] =>
    split(workspace, rule, document, figures, by, names)
  return {
    id: rule.id,
    name: document.name,
    state: rule.state,
    object,
    runs: {
      runs: of('runs'),
      failed: of('runsFailed'),
      waiting: of('waiting'),
      undone: of('undone'),
      alone: of('leftAlone'),
    },
    runsBy: { version: splitBy('version', ['runs']), month: splitBy('month', ['runs']) },
    goal:
      goal && target
        ? {
            says: object === 'none' ? '' : sayGroup(goal.conditions, object, catalogue),
            how: plainSentence(goalSentence(goal)),
            days: goal.days,
            share: goal.alone,
            story: sayTarget(target, goal.days),
            ...target,
            by: (['version', 'owner', 'label', 'branch', 'month'] as const).flatMap((by): TargetSplit[] => {
              const lines = targetBy(figures, key ?? '', by)
              // One line alone says what stands above it.
              return lines.length < 2
                ? []
                : [
                    {
                      by,
                      title: TITLES[by],
                      lines: lines.map(({ value, done }) => ({
                        key: value,
                        label: wordsFor(workspace, rule, document, by, value),
                        ...done,
                      })),
                    },
                  ]
            }),
          }
        : null,
    tasks: {
      made: of('tasksMade'),
      done: of('tasksDone'),
      late: of('tasksLate'),
      postponed: of('tasksPostponed'),
      withdrawn: of('tasksWithdrawn'),
      hours: of('tasksDone') === 0 ? null : of('tasksMs') / of('tasksDone') / HOUR_MS,
      byOwner: splitBy('owner', [...TASK_COUNTS, 'tasksMs']),
    },
    messages: {
      sent: of('sent'),
      answered: of('answered'),
      bounced: of('bounced'),
      failed: of('failed'),
      optedOut: of('optedOut'),
      kinds: ANSWER_KIND_CHOICES.map(({ id, label }) => ({ id, label, count: of(`answer ${id}`) })),
      byLabel: splitBy('label', MESSAGE_COUNTS),
      byTemplate: splitBy('template', MESSAGE_COUNTS),
    },
    calls: CALL_OUTCOMES.map(({ id, label }) => ({ id, label, count: of(`call ${id}`) })),
  }
}

export type RuleResults = ReturnType<typeof ruleResults>

/** Every rule that did something, those with the most runs first. */
export function allResults(workspace: Workspace) {
  const totals = workspace.store.results.all()
  return workspace.store.rules
    .all()
    .flatMap((rule) => {
      const figures = totals.get(rule.id) ?? {}
      const document = rule.version?.document ?? rule.draft
      const of = (name: string): number => figures[name] ?? 0
      if (of('runs') === 0 && of('leftAlone') === 0) return []
      const { goal } = document
      const target = goal ? targetResult(figures, goalKey(goal), goal.days) : null
      return [
        {
          id: rule.id,
          name: document.name,
          state: rule.state,
          runs: of('runs'),
          target: target && { ...target, curve: [] },
          story: target && goal ? sayTarget(target, goal.days) : null,
          tasksMade: of('tasksMade'),
          tasksDone: of('tasksDone'),
          tasksLate: of('tasksLate'),
          sent: of('sent'),
          answered: of('answered'),
        },
      ]
    })
    .sort((a, b) => b.runs - a.runs)
}

/** So many records stand on one page behind a figure. */
const PAGE = 50

/**
 * Records behind a figure, newest first.
 *
 * @returns `null` where the figure is not broken down so
 */
export function behindFigure(workspace: Workspace, rule: StoredRule, scope: Scope, asked: FigureAsked) {
  const { goal } = rule.version?.document ?? rule.draft
  const { before, ...which } = asked
  const rows = workspace.store.figureRows.page(
    {
      ...which,
      ruleId: rule.id,
      key: goal ? goalKey(goal) : '',
      nowMs: workspace.clock.nowMs(),
      zone: workspace.catalogue().workspace.zone,
    },
    before,
    PAGE + 1,
  )
  if (!rows) return null
  const shown = rows.slice(0, PAGE)
  return {
    more: rows.length > PAGE ? (shown.at(-1)?.id ?? null) : null,
    records: shown
      .filter(({ object, recordId }) => seesRef(workspace, scope, { object, id: recordId }))
      .map(({ id, object, recordId, runId, atMs, text, reachedAt }) => ({
        id,
        ref: { object, id: recordId },
        name: workspace.nameOf({ object, id: recordId }),
        runId,
        atMs,
        text,
        reachedAt,
      })),
  }
}

export interface FigureAsked extends Pick<FigureRowsAsked, 'figure' | 'alone' | 'of' | 'by' | 'value'> {
  readonly before: number | null
}
