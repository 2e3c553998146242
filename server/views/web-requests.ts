import { contextOf } from '../../core/engine/ways'
import { momentAt } from '../../core/engine/moment'
import { seesRecord, type Scope } from '../../core/access/scope'
import type { RecordRef } from '../../core/records/kinds'
import { STEPS } from '../../core/rules/steps'
import { seesRef } from '../engine/seen'
import type { Workspace } from '../engine/workspace'
import { refuse } from '../engine/refuse'

/** Web requests with what was answered, newest first. */
export function webRequests(
  workspace: Workspace,
  scope: Scope,
  before: number | null,
  limit: number,
  connection: number | undefined,
) {
  const { connections, outbox } = workspace.store
  const names = workspace.store.rules.names()
  const rows = connections.requests(before, limit + 1, connection)
  const shown = rows.slice(0, limit)
  return {
    more: rows.length > limit ? (shown.at(-1)?.id ?? null) : null,
    requests: shown
      .filter(({ object, recordId }) => seesRef(workspace, scope, { object, id: recordId }))
      .map((row) => {
        const ref: RecordRef = { object: row.object, id: row.recordId }
        const parcel = outbox.ofRun(row.runId).find(({ key }) => key === row.key)
        const { id, runId, method, path, body, later, outcome, status, answer, atMs, answeredAt } = row
        const to = workspace.catalogue().connection(row.connectionId)
        return {
          id,
          connection: to?.name ?? '',
          later,
          simulated: to?.address === '',
          ref,
          recordName: workspace.nameOf(ref),
          ruleName: names.get(row.ruleId) ?? '',
          runId,
          method,
          path,
          body,
          outcome,
          status,
          answer,
          attempts: parcel?.attempts ?? 0,
          lastError: parcel?.lastError ?? null,
          atMs,
          answeredAt,
        }
      }),
  }
}

/** A request as it would be sent for a record. Nothing is sent. */
export function previewRequest(workspace: Workspace, ref: RecordRef, given: object, scope: Scope) {
  const step = STEPS.webRequest
  const read = step.params.safeParse({ ...step.start, ...given })
  if (!read.success) {
    const [issue] = read.error.issues
    const path = `params.${issue?.path.join('.') ?? ''}`
    throw refuse(path, { code: 'shape', at: '', said: issue?.message ?? 'is not valid' })
  }
  const record = workspace.store.records.read(ref)
  if (!record || !seesRecord(scope, record.values)) throw refuse('ref', { code: 'thisRecordGone' })
  const context = contextOf(
    {
      world: workspace.world,
      rule: { ruleId: 0, results: null },
      moment: momentAt(workspace.clock.nowMs(), workspace.catalogue().workspace),
    },
    { id: 'preview', kind: 'webRequest', params: read.data },
    record,
  )
  const nothing = { method: '', url: '', body: null }
  try {
    const outcome = step.run(read.data, context)
    const [effect] = outcome.go === 'wait' ? (outcome.effects ?? []) : []
    if (effect?.effect !== 'request') return { ...nothing, problem: 'Choose a connection' }
    const { connection, method, path, body } = effect.request
    const address = workspace.catalogue().connection(connection)?.address ?? ''
    return { method, url: `${address}${path}`, body, problem: null }
  } catch (error) {
    // A body that is no JSON yet.
    return { ...nothing, problem: error instanceof Error ? error.message : String(error) }
  }
}
