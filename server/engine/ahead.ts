import { endByHand, wake } from '../../core/engine/wake'
import type { RunReport } from '../../core/engine/handle-event'

import type { Workspace } from './workspace'
import type { RecordRef } from '../../core/records/kinds'

/** What people do with what is ahead. */
export type AheadAct =
  { readonly act: 'end' } | { readonly act: 'now' } | { readonly act: 'postpone'; readonly toMs: number }

export interface AheadDone {
  readonly done: number
  /** What was no longer there, or no longer as it was. */
  readonly gone: number
}

/**
 * Ends, puts off or does now what is ahead. A date of a record that is called off or put off counts as come: the same
 * moment does not start the rule again.
 */
export function actAhead(
  workspace: Workspace,
  items: readonly AheadItem[],
  given: AheadAct,
  reason: string,
  personId: string,
): AheadDone {
  const { world, store, db } = workspace
  const who = workspace.catalogue().person(personId)?.name ?? personId
  let done = 0
  const reports: RunReport[] = []
  db.inTurn(() =>
    db.atomically(() => {
      workspace.keepUp()
      for (const item of items) if ('wait' in item ? onWait(item.wait) : onStart(item)) done++
    }),
  )
  workspace.told([], reports)
  workspace.drain()
  workspace.live.tell({ about: 'ahead' })
  return { done, gone: items.length - done }

  function onWait(id: number): boolean {
    const wait = store.waits.wait(id)
    if (!wait) return false
    switch (given.act) {
      case 'end':
        endByHand(world, wait, who, reason)
        return true
      case 'postpone':
        store.waits.setDue(id, given.toMs, {
          personId,
          atMs: world.nowMs(),
          fromMs: wait.dueMs ?? world.nowMs(),
          reason,
        })
        return true
      case 'now': {
        const report = wake(world, wait, 'byHand')
        if (report) reports.push(report)
        return report !== null
      }
    }
  }

  function onStart({
    rule: ruleId,
    trigger: triggerId,
    ref,
    occurrence,
    dueMs,
  }: Exclude<AheadItem, { wait: number }>): boolean {
    const clock = workspace
      .matcher()
      .rule(ruleId)
      ?.clocks.find((one) => one.triggerId === triggerId)
    const start = clock?.trigger
      .due(world, dueMs, ref.id - 1, 1)
      .starts.find((one) => one.ref.id === ref.id && one.occurrence === occurrence)
    if (!start || world.ran({ ruleId, ref, occurrence })) return false
    const say = `${given.act === 'end' ? 'ended' : 'run now'} by ${who}${reason === '' ? '' : `: ${reason}`}`
    world.startByClock(ref, {
      ruleId,
      triggerId,
      occurrence,
      dueMs,
      because: given.act === 'now' ? `${start.because}; ${say}` : start.because,
      ...(given.act === 'end' ? { calledOff: say } : given.act === 'postpone' ? { putOffTo: given.toMs } : {}),
    })
    return true
  }
}

/** What will happen later, over all rules. */

/** What one can do something with: a wait of a run, or the moment of a record that has not come yet. */
export type AheadItem =
  | { readonly wait: number }
  | {
      readonly rule: number
      readonly trigger: string
      readonly ref: RecordRef
      readonly occurrence: string
      readonly dueMs: number
    }
