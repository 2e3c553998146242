import { ruleUse } from './rules-where'
import { sayInUse } from '../../core/language/uses'
import { foldText } from '../../core/language/value'
import { placedConditions } from '../../core/conditions/document'
import { groupUsesField, segmentsNamed } from '../../core/rules/uses'
import type { Field } from '../../core/fields/field'
import type { Segment } from '../store/segments'
import { refillSegment } from './segment-fields'
import { RefusedError, type Workspace } from './workspace'

export const SEGMENTS_MOST = 200

const refuse = (path: string, detail: string): RefusedError =>
  new RefusedError([{ path, problem: { code: 'shape', detail } }])

function check(workspace: Workspace, id: number | null, given: Omit<Segment, 'id'>): void {
  const all = workspace.store.segments.all(given.object)
  const same = all.find((one) => one.id !== id && foldText(one.name) === foldText(given.name))
  if (same) throw refuse('name', `A segment named “${same.name}” already exists.`)
  if (id === null && all.length >= SEGMENTS_MOST)
    throw refuse('name', `No more than ${SEGMENTS_MOST} segments per record type.`)
  const catalogue = workspace.catalogue()
  const unknown = placedConditions(given.filter, given.object).find(
    ({ condition, object }) => !catalogue.field(object, condition.field),
  )
  if (unknown)
    throw new RefusedError([
      { path: `filter.${unknown.condition.id}`, problem: { code: 'unknownField', field: unknown.condition.field } },
    ])
  const column = given.columns.find((key) => !catalogue.field(given.object, key))
  if (column !== undefined)
    throw new RefusedError([{ path: 'columns', problem: { code: 'unknownField', field: column } }])
}

/** Saves a filter under a name, with the columns and the order it is looked at in. Refuses a name that is taken. */
export function makeSegment(workspace: Workspace, given: Omit<Segment, 'id'>, personId: string): number {
  check(workspace, null, given)
  const id = workspace.db.atomically(() => workspace.store.segments.add(given, personId, workspace.clock.nowMs()))
  workspace.tellCatalogue()
  workspace.live.tell({ about: 'segments' })
  return id
}

export function changeSegment(
  workspace: Workspace,
  segment: Segment,
  change: Partial<Omit<Segment, 'id' | 'object'>>,
): void {
  check(workspace, segment.id, { ...segment, ...change })
  workspace.db.atomically(() => {
    workspace.store.segments.change(segment.id, change, workspace.clock.nowMs())
    if (change.filter !== undefined) refillSegment(workspace, { ...segment, filter: change.filter })
  })
  workspace.tellCatalogue()
  workspace.live.tell({ about: 'segments' })
}

/** Takes a segment away; refused while a rule goes by it. */
export function removeSegment(workspace: Workspace, id: number): void {
  const use = ruleUse(workspace, (document) => segmentsNamed(document).includes(id))
  if (use) throw refuse('', sayInUse(workspace.store.segments.get(id)?.name ?? String(id), 'deleted', use))
  const field = workspace.catalogue().data.fields.find(({ made }) => made?.by === 'segment' && made.segment === id)
  workspace.db.atomically(() => {
    workspace.store.segments.remove(id)
    if (field) workspace.store.catalogue.updateField(field.id, { archived: true })
  })
  workspace.tellCatalogue()
  workspace.live.tell({ about: 'segments' })
}

/** Segments whose filter names a field. */
export const segmentsThatName = (workspace: Workspace, field: Pick<Field, 'object' | 'key'>): readonly Segment[] =>
  workspace.store.segments
    .all()
    .filter((segment) => groupUsesField(segment.filter, segment.object, field.object, field.key))
