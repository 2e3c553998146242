import { handleEvent } from '../../core/engine/handle-event'
import { Matcher } from '../../core/engine/matcher'
import type { RecordRef } from '../../core/records/kinds'
import type { Scope } from '../../core/access/scope'
import { fittingAfter } from './record-list'
import type { RuleJobOrder, RuleJobRow } from '../store/rule-jobs'
import { actingKey, byKey } from './acting'
import type { ImportControl } from './import'
import { backfillIds } from './standing'
import { undoRun } from './undo'
import type { Workspace } from './workspace'
import { newChain } from './live-records'

/**
 * Work of a rule over many records. Each commit holds some of it together with the position, so that after a stop or
 * a crash it goes on behind what was done, and nothing is done twice.
 */

const BATCH = 200
/** A commit gives way to others after this long. */
const BATCH_MS = 40

/** Whose records somebody who pressed a button meant. */
const scopeIn = ({ owners }: { readonly owners: readonly string[] | null }): Scope => owners && new Set(owners)

/** How many records or runs an order is about, as things are now. */
export function sizeOf(workspace: Workspace, ruleId: number, order: RuleJobOrder): number {
  const { runs, ruleJobs } = workspace.store
  switch (order.what) {
    case 'backfill': {
      const ids = backfillIds(workspace, order, 0, Number.MAX_SAFE_INTEGER)
      const went = order.again ? new Set<number>() : runs.wentThrough(ruleId, order.object, null)
      return went.size === 0 ? ids.length : ids.filter((id) => !went.has(id)).length
    }
    case 'hand':
      return fittingAfter(workspace, { ...order, scope: scopeIn(order) }, 0, Number.MAX_SAFE_INTEGER).length
    case 'undo':
      return runs.undoableCount(ruleId, order.fromMs, order.toMs)
    case 'held':
      return ruleJobs.heldCount(ruleId)
  }
}

/** Keeps an order to be worked; the thread that works in bulk takes it up. */
export function addJob(workspace: Workspace, ruleId: number, order: RuleJobOrder, personId: string): number {
  const position = order.what === 'undo' ? Number.MAX_SAFE_INTEGER : 0
  const key = actingKey()
  return workspace.store.ruleJobs.add({
    ruleId,
    order: key === null ? order : { ...order, key },
    total: sizeOf(workspace, ruleId, order),
    personId,
    createdAt: workspace.clock.nowMs(),
    position,
  })
}

interface Worked {
  readonly position: number
  readonly done: number
  readonly left: readonly string[]
  readonly ended: boolean
}

/** Works the next piece of an order within the transaction that is open. */
function workSome(workspace: Workspace, job: RuleJobRow, enough: () => boolean): Worked {
  const { order, ruleId, position, personId } = job
  const { runs, ruleJobs, events } = workspace.store
  workspace.keepUp()
  workspace.matcher()
  switch (order.what) {
    case 'backfill':
    case 'hand': {
      const ids =
        order.what === 'backfill'
          ? backfillIds(workspace, order, position, BATCH)
          : fittingAfter(workspace, { ...order, scope: scopeIn(order) }, position, BATCH)
      const went =
        order.what === 'backfill' && !order.again ? runs.wentThrough(ruleId, order.object, ids) : new Set<number>()
      let at = 0
      let passed = 0
      for (; at < ids.length && !(at > 0 && enough()); at++) {
        const id = ids[at] ?? 0
        if (went.has(id)) {
          passed++
          continue
        }
        const ref: RecordRef = { object: order.object, id }
        const starts = {
          ruleId,
          triggerId: order.what === 'hand' ? order.triggerId : null,
          answers: order.what === 'hand' ? order.answers : {},
        }
        workspace.world.log(
          ref,
          'started',
          [],
          { by: 'person', personId, starts },
          newChain(),
          false,
          workspace.clock.nowMs(),
        )
      }
      workspace.handleNew()
      return {
        position: ids[at - 1] ?? position,
        done: at - passed,
        left: [],
        ended: ids.length < BATCH && at === ids.length,
      }
    }
    case 'undo': {
      const some = runs.undoable(ruleId, order.fromMs, order.toMs, position, BATCH)
      const left: string[] = []
      let at = 0
      for (; at < some.length && !(at > 0 && enough()); at++) {
        const run = some[at]
        const undone = run && undoRun(workspace, run.id, personId)
        for (const what of undone?.plan.left ?? [])
          left.push(`${run ? workspace.nameOf({ object: run.object, id: run.recordId }) : ''}: ${what}`)
      }
      workspace.handleNew()
      return {
        position: some[at - 1]?.id ?? position,
        done: at,
        left,
        ended: some.length < BATCH && at === some.length,
      }
    }
    case 'held': {
      const rule = workspace.activeRules().find((one) => one.ruleId === ruleId)
      const seqs = ruleJobs.held(ruleId, position, BATCH)
      const matcher = rule && new Matcher([rule], workspace.catalogue())
      let at = 0
      for (; at < seqs.length && !(at > 0 && enough()); at++) {
        const event = events.get(seqs[at] ?? 0)
        if (event && matcher) handleEvent(workspace.world, matcher, event)
      }
      ruleJobs.drop(ruleId, seqs.slice(0, at))
      workspace.handleNew()
      return {
        position: seqs[at - 1] ?? position,
        done: at,
        left: [],
        ended: seqs.length < BATCH && at === seqs.length,
      }
    }
  }
}

/** Works an order to its end, or until somebody stops it. */
export async function workJob(workspace: Workspace, id: number, control: ImportControl): Promise<void> {
  const { ruleJobs } = workspace.store
  for (;;) {
    const until = control.nowMs() + BATCH_MS
    const ended = workspace.db.atomically(() => {
      const job = ruleJobs.get(id)
      if (job?.state !== 'running') return true
      const enough = (): boolean => control.nowMs() >= until || control.awaited()
      const worked = byKey(job.order.key ?? null, () => workSome(workspace, job, enough))
      ruleJobs.advance(id, worked.position, worked.done, worked.left)
      if (worked.ended) ruleJobs.setState(id, 'done', workspace.clock.nowMs())
      return worked.ended
    })
    const job = ruleJobs.get(id)
    if (job)
      workspace.live.tell({ about: 'jobs', ruleId: job.ruleId, id, state: job.state, done: job.done, total: job.total })
    if (ended) break
    await control.pause()
  }
  workspace.courier.wake()
  workspace.live.tell({ about: 'rules' })
  workspace.live.tell({ about: 'tasks', people: [] })
}
