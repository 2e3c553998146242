import { aboutOf } from '../../core/signals'
import type { Group } from '../../core/conditions/document'
import type { Value } from '../../core/language/value'
import { sayProblem } from '../../core/language/problems'
import { planWrite } from '../../core/records/plan-write'
import type { ObjectKind, RecordRef } from '../../core/records/kinds'
import { sayRule } from '../../core/rules/describe'
import { TRIGGERS } from '../../core/rules/triggers'
import { seesRecord, type Scope } from '../../core/access/scope'
import { matchingRecords } from './record-list'
import type { Workspace } from './workspace'
import { sayValue } from '../../core/fields/say-value'
import { newChain } from './live-records'

/** More in one go is hardly ever meant; narrow the filter. */
export const BULK_MOST = 10_000
const BATCH = 50
const SHOWN = 100

export interface BulkEdit {
  readonly object: ObjectKind
  readonly scope: Scope
  readonly filter: Group
  readonly words: string
  readonly field: string
  /** `null` empties the field. */
  readonly value: Value
}

export interface BulkPreview {
  readonly matched: number
  readonly changed: number
  readonly same: number
  readonly tooMany: boolean
  readonly refused: readonly { readonly id: number; readonly name: string; readonly why: string }[]
  readonly sample: readonly { readonly id: number; readonly name: string; readonly old: string; readonly new: string }[]
  /** Rules that a change of this field can start. */
  readonly rules: readonly { readonly ruleId: number; readonly name: string; readonly when: string }[]
}

/** What writing one value into a field of all records that fit would do. Reads only. */
export function previewBulk(workspace: Workspace, edit: BulkEdit): BulkPreview {
  const catalogue = workspace.catalogue()
  const field = catalogue.field(edit.object, edit.field)
  const found = matchingRecords(workspace, edit, BULK_MOST + 1)
  let [changed, same] = [0, 0]
  const refused: BulkPreview['refused'][number][] = []
  const sample: BulkPreview['sample'][number][] = []
  const nowMs = workspace.clock.nowMs()
  for (const { id, values } of found.slice(0, BULK_MOST)) {
    const { changes, problems } = planWrite(edit.object, values, { [edit.field]: edit.value }, nowMs, catalogue)
    const name = String(values.name ?? '')
    const [problem] = problems
    if (problem) refused.push({ id, name, why: sayProblem(problem.problem) })
    else if (changes.length === 0) same++
    else {
      changed++
      const change = changes.find((one) => one.field === edit.field)
      if (field && change && sample.length < SHOWN)
        sample.push({
          id,
          name,
          old: sayValue(change.old, field, catalogue, values),
          new: sayValue(change.new, field, catalogue, values),
        })
    }
  }
  const event = { kind: 'changed', changes: [{ field: edit.field, old: null, new: edit.value }] } as const
  const rules = workspace
    .activeRules()
    .filter(
      ({ document }) =>
        document.object === edit.object &&
        document.triggers.some((trigger) => {
          const names = { catalogue, object: document.object }
          return (
            TRIGGERS[trigger.kind].compile(trigger.params, names)(event) ||
            TRIGGERS[trigger.kind]
              .listen(trigger.params, names)
              .map(aboutOf)
              .some((one) => 'field' in one && one.field === edit.field && one.exact === undefined)
          )
        }),
    )
    .map(({ ruleId, document }) => ({ ruleId, name: document.name, when: sayRule(document, catalogue).when }))
  return {
    matched: found.length,
    changed,
    same,
    tooMany: found.length > BULK_MOST,
    refused: refused.slice(0, SHOWN),
    sample,
    rules,
  }
}

/** What is to be written, and who wants it. */
export interface BulkOrder {
  readonly edit: BulkEdit
  readonly personId: string
  /** The API key by which, if by one. */
  readonly key?: string | null
}

/** Writes it, in commits of their own with everything rules do because of it; each record is a change of its own. */
export function makeBulk(
  workspace: Workspace,
  { edit, personId, key = null }: BulkOrder,
): { readonly changed: number; readonly runs: number } {
  const ids = matchingRecords(workspace, edit, BULK_MOST).map((record) => record.id)
  let [changed, runs] = [0, 0]
  for (let at = 0; at < ids.length; at += BATCH) {
    workspace.db.inTurn(() =>
      workspace.db.atomically(() => {
        for (const id of ids.slice(at, at + BATCH)) {
          const ref: RecordRef = { object: edit.object, id }
          const record = workspace.store.records.read(ref)
          // It may have gone out of sight since the filter was asked.
          if (!record || !seesRecord(edit.scope, record.values)) continue
          const written = workspace.world.write(
            ref,
            { [edit.field]: edit.value },
            { by: 'person', personId, ...(key === null ? {} : { key }) },
            newChain(),
          )
          if (written.ok && written.event) changed++
        }
        runs += workspace.handleNew().length
      }),
    )
  }
  workspace.courier.wake()
  return { changed, runs }
}
