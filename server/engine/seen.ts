import { SeenWorld } from '../../core/access/seen-world'
import { seesRecord, type Scope } from '../../core/access/scope'
import type { Value } from '../../core/language/value'
import type { RecordRef } from '../../core/records/kinds'
import type { RecordSnapshot } from '../../core/records/record'
import type { GoneRow } from '../store/gone'
import type { Workspace } from './workspace'

/** The workspace as it is for somebody who does not see all; `null` for who does. */
export const seenBy = (workspace: Workspace, scope: Scope): SeenWorld | null =>
  scope === null ? null : new SeenWorld(workspace.world, scope, workspace.catalogue(), workspace.moment())

/** Records as somebody sees them. */
export function shownTo(workspace: Workspace, scope: Scope): (record: RecordSnapshot) => RecordSnapshot {
  const seen = seenBy(workspace, scope)
  return seen ? (record) => seen.shown(record) : (record) => record
}

/** What a record that is gone held. */
export const heldBy = (workspace: Workspace, row: GoneRow): RecordSnapshot['values'] =>
  Object.fromEntries(
    workspace
      .catalogue()
      .data.fields.filter((field) => field.object === row.object)
      .map((field): [string, Value] => [field.key, row.held[String(field.id)] ?? null]),
  )

/** Whether somebody may know of a record: of one that is gone, whether they might have when it went. */
export function seesRef(workspace: Workspace, scope: Scope, ref: RecordRef): boolean {
  if (scope === null || ref.object === 'none') return true
  const record = workspace.store.records.read(ref)
  if (record) return seesRecord(scope, record.values)
  const row = workspace.store.gone.get(ref)
  return row !== null && seesRecord(scope, heldBy(workspace, row))
}
