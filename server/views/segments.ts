import type { ObjectKind } from '../../core/records/kinds'
import type { Scope } from '../../core/access/scope'
import type { Workspace } from '../engine/workspace'
import type { Segment } from '../store/segments'
import { listPage } from '../engine/record-list'

export interface SegmentLine extends Segment {
  /** How many records are in it now, of those that may be seen. */
  readonly count: number
}

/** The segments of a kind of record with how many are in each now. */
export const segmentCounts = (workspace: Workspace, object: ObjectKind, scope: Scope): readonly SegmentLine[] =>
  workspace.store.segments.all(object).map((segment) => ({
    ...segment,
    count: listPage(workspace, {
      object,
      scope,
      filter: segment.filter,
      words: '',
      sort: '',
      down: false,
      offset: 0,
      limit: 1,
    }).matched,
  }))
