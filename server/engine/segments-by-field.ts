import type { Field } from '../../core/fields/field'
import { groupUsesField } from '../../core/rules/uses'
import type { Segment } from '../store/segments'
import type { Workspace } from './workspace'

/** Segments whose filter names a field. */
export const segmentsThatName = (workspace: Workspace, field: Pick<Field, 'object' | 'key'>): readonly Segment[] =>
  workspace.store.segments
    .all()
    .filter((segment) => groupUsesField(segment.filter, segment.object, field.object, field.key))
