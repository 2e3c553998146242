import type { Stage } from '../../core/fields/field'
import { isEmpty, type Value } from '../../core/language/value'
import { worthIn } from '../../core/money/worth'
import { seesRecord, type Scope } from '../../core/access/scope'
import type { Workspace } from '../engine/workspace'

export const LINES_MOST = 60
/** Of these so many are the latest to come in, so that a deal that was just moved is always seen. */
const LATEST = 20
const DAY_MS = 86_400_000

export interface BoardLine {
  readonly id: number
  readonly name: string
  readonly amount: number | null
  readonly currency: string | null
  readonly ownerId: string | null
  /** Whole days in its stage. */
  readonly age: number
}

export interface BoardStage {
  readonly stage: Stage
  readonly count: number
  /** In the workspace's currency. */
  readonly sum: number
  /** What it is made of, by currency code, the workspace's own first. */
  readonly sums: readonly { readonly currency: string; readonly sum: number }[]
  /** Amounts that have no rate, and are not in the sum. */
  readonly without: number
  /** How many deals are up to 7, 14, 30 days in the stage, and longer. */
  readonly ages: readonly [number, number, number, number]
  /** The longest in the stage first; of more than `LINES_MOST` those longest in it, then the latest. */
  readonly lines: readonly BoardLine[]
}

const KEYS = ['name', 'stage', 'pipeline', 'amount', 'currency', 'owner', 'stageSince'] as const

/** A pipeline by stage. */
export function board(
  workspace: Workspace,
  pipelineId: string,
  ownerId: string | null,
  scope: Scope = null,
): readonly BoardStage[] {
  const catalogue = workspace.catalogue()
  const nowMs = workspace.clock.nowMs()
  const amount = catalogue.field('deal', 'amount')
  const worth = amount && worthIn(amount, catalogue)
  const lines = new Map<string, (BoardLine & { readonly sinceMs: number; readonly worth: Value })[]>()
  for (const { id, values } of workspace.store.records.scan('deal', KEYS)) {
    if (values.pipeline !== pipelineId || (ownerId !== null && values.owner !== ownerId) || !seesRecord(scope, values))
      continue
    const sinceMs = typeof values.stageSince === 'number' ? values.stageSince : nowMs
    const line = {
      id,
      name: String(values.name ?? ''),
      amount: typeof values.amount === 'number' ? values.amount : null,
      currency: isEmpty(values.currency) ? null : String(values.currency).toUpperCase(),
      ownerId: isEmpty(values.owner) ? null : String(values.owner),
      age: Math.max(0, Math.floor((nowMs - sinceMs) / DAY_MS)),
      sinceMs,
      worth: worth ? worth(values) : null,
    }
    const stage = String(values.stage)
    const known = lines.get(stage)
    if (known) known.push(line)
    else lines.set(stage, [line])
  }
  const own = catalogue.workspace.currency
  return (catalogue.pipeline(pipelineId)?.stages ?? []).map((stage) => {
    const all = (lines.get(stage.id) ?? []).sort((a, b) => a.sinceMs - b.sinceMs || a.id - b.id)
    const sums = new Map<string, number>()
    let [sum, without] = [0, 0]
    const ages: [number, number, number, number] = [0, 0, 0, 0]
    for (const line of all) {
      const code = line.currency ?? own
      if (line.amount !== null) sums.set(code, (sums.get(code) ?? 0) + line.amount)
      if (typeof line.worth === 'number') sum += line.worth
      else if (line.amount !== null) without++
      ages[line.age <= 7 ? 0 : line.age <= 14 ? 1 : line.age <= 30 ? 2 : 3]++
    }
    return {
      stage,
      count: all.length,
      ages,
      lines: (all.length > LINES_MOST ? [...all.slice(0, LINES_MOST - LATEST), ...all.slice(-LATEST)] : all).map(
        ({ sinceMs: _since, worth: _worth, ...line }) => line,
      ),
      sum: Number(sum.toFixed(2)),
      without,
      sums: [...sums]
        .map(([currency, sum]) => ({ currency, sum }))
        .sort((a, b) => Number(b.currency === own) - Number(a.currency === own) || b.sum - a.sum),
    }
  })
}
