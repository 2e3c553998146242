import type { ObjectKind } from '../../core/records/kinds'
import type { RecordSnapshot } from '../../core/records/record'
import { fillText } from '../../core/rules/merge'
import type { Workspace } from './workspace'

/** A text as it reads for a record; what is blank is shown in its place. */
export function previewText(
  workspace: Workspace,
  record: RecordSnapshot,
  given: { readonly subject: string; readonly text: string },
  contact: RecordSnapshot | null = null,
): { readonly subject: string; readonly text: string } {
  const catalogue = workspace.catalogue()
  const ref = { object: record.object, id: record.id }
  const related = (object: ObjectKind): RecordSnapshot | null =>
    object === 'contact' && contact ? contact : workspace.world.related(ref, object)
  return {
    subject: fillText(given.subject, record, related, catalogue),
    text: fillText(given.text, record, related, catalogue),
  }
}
