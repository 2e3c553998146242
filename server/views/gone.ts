import { mergeFields } from '../../core/records/merge'
import type { ObjectKind, RecordRef } from '../../core/records/kinds'
import type { RecordSnapshot } from '../../core/records/record'
import { seesRecord, type Scope } from '../../core/access/scope'
import type { Workspace } from '../engine/workspace'
import { heldBy, seesRef } from '../engine/seen'
import type { GoneRow } from '../store/gone'
import { sayValue } from '../../core/fields/say-value'

/** A record that is no longer there, and what became of it. */
export interface GoneRecord {
  readonly ref: RecordRef
  readonly name: string
  readonly how: 'deleted' | 'merged'
  readonly into: { readonly ref: RecordRef; readonly name: string } | null
  readonly atMs: number
  readonly person: string
  readonly canBringBack: boolean
}

function toGone(workspace: Workspace, row: GoneRow, scope: Scope): GoneRecord {
  const went: RecordRef | null = row.intoId === null ? null : { object: row.object, id: row.intoId }
  const into = went && seesRef(workspace, scope, went) ? went : null
  return {
    ref: { object: row.object, id: row.id },
    name: row.name,
    how: went ? 'merged' : 'deleted',
    atMs: row.atMs,
    into: into && { ref: into, name: workspace.nameOf(into) },
    person: workspace.catalogue().person(row.personId)?.name ?? row.personId,
    canBringBack: !went || (into !== null && workspace.store.records.read(into) !== null),
  }
}

/** What became of a record; `null` when it is there, never was, or may not be seen. */
export function goneRecord(workspace: Workspace, ref: RecordRef, scope: Scope): GoneRecord | null {
  const row = workspace.store.gone.get(ref)
  return row && seesRecord(scope, heldBy(workspace, row)) ? toGone(workspace, row, scope) : null
}

/** Those that went before one, the newest first. */
export function goneRecords(
  workspace: Workspace,
  object: ObjectKind,
  scope: Scope,
  before: number | null,
  limit: number,
): { readonly rows: readonly GoneRecord[]; readonly next: number | null } {
  const rows = workspace.store.gone.list(object, before, limit + 1)
  return {
    rows: rows
      .slice(0, limit)
      .filter((row) => seesRecord(scope, heldBy(workspace, row)))
      .map((row) => toGone(workspace, row, scope)),
    next: rows.length > limit ? (rows[limit - 1]?.seq ?? null) : null,
  }
}

export interface MergePreview {
  readonly name: string
  readonly links: number
  readonly tasks: number
  readonly fields: readonly {
    readonly key: string
    readonly label: string
    readonly kept: string
    readonly other: string
    readonly from: 'kept' | 'other'
  }[]
}

/** What merging one record into another would do. Reads only. */
export function previewMerge(
  workspace: Workspace,
  kept: RecordSnapshot,
  other: RecordSnapshot,
  scope: Scope = null,
): MergePreview {
  const catalogue = workspace.catalogue()
  const { links, tasks } = workspace.store
  return {
    name: workspace.nameOf(other),
    links: links.of(other).filter(({ from, to }) => [from, to].every((ref) => seesRef(workspace, scope, ref))).length,
    tasks: tasks.ofRecord(other).length,
    fields: mergeFields(kept.object, kept.values, other.values, catalogue).flatMap((one) => {
      const field = catalogue.field(kept.object, one.key)
      return field
        ? [
            {
              key: one.key,
              label: one.label,
              from: one.from,
              kept: sayValue(one.kept, field, catalogue, kept.values),
              other: sayValue(one.other, field, catalogue, other.values),
            },
          ]
        : []
    }),
  }
}
