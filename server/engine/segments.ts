import { ruleUse } from './rules-where'
import { foldText } from '../../core/language/value'
import type { Group } from '../../core/conditions/document'
import { derivationsOf } from '../../core/derived/derivations'
import type { ObjectKind } from '../../core/records/kinds'
import { segmentsNamed, segmentsWithin } from '../../core/rules/uses'
import { workAnew } from './derived'
import { refuseUnknown } from './refuse-unknown'
import type { Segment } from '../store/segments'
import { refillSegment } from './segment-fields'
import { RefusedError, type Workspace } from './workspace'
import type { Refusal } from '../../core/language/refusals'
import { refuse } from './refuse'

export const SEGMENTS_MOST = 200

function check(workspace: Workspace, id: number | null, given: Omit<Segment, 'id'>): void {
  const all = workspace.store.segments.all(given.object)
  const same = all.find((one) => one.id !== id && foldText(one.name) === foldText(given.name))
  if (same) throw refuse('name', { code: 'sameName', of: 'segment', name: same.name })
  if (id === null && all.length >= SEGMENTS_MOST)
    throw refuse('name', { code: 'noMoreThan', of: 'segment', most: SEGMENTS_MOST })
  const catalogue = workspace.catalogue()
  refuseUnknown(given.filter, given.object, catalogue, 'filter')
  if (id !== null && segmentsWithin(given.filter, given.object, catalogue).has(id))
    throw refuse('filter', { code: 'asksItself', segment: given.name })
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
  personId: string,
): void {
  check(workspace, segment.id, { ...segment, ...change })
  workspace.db.atomically(() => {
    workspace.store.segments.change(segment.id, change, workspace.clock.nowMs())
    if (change.filter !== undefined) refillSegment(workspace, { ...segment, filter: change.filter })
    if (change.filter !== undefined) askAnew(workspace, segment.id, personId)
  })
  workspace.tellCatalogue()
  workspace.live.tell({ about: 'segments' })
}

/** Works out anew what hangs on who is in a segment. */
function askAnew(workspace: Workspace, id: number, personId: string): void {
  workspace.catalogueChanged()
  const ids = derivationsOf(workspace.catalogue())
    .all.filter(({ depends }) => depends.segments.has(id))
    .map(({ field }) => field.id)
  if (ids.length > 0) workAnew(workspace, ids, personId)
}

/** What other than a rule asks whether a record is in a segment, in words; `null` for nothing. */
function whatAsksFor(workspace: Workspace, id: number): Omit<Extract<Refusal, { code: 'segmentUsed' }>, 'code'> | null {
  const catalogue = workspace.catalogue()
  const asks = (group: Group, object: ObjectKind): boolean => segmentsWithin(group, object, catalogue).has(id)
  const segment = workspace.store.segments.all().find((one) => one.id !== id && asks(one.filter, one.object))
  if (segment) return { by: 'segment', name: segment.name }
  const territory = catalogue.data.territories?.find(({ filter }) => asks(filter, 'company'))
  if (territory) return { by: 'territory', name: territory.name }
  const card = catalogue.data.scorecards?.find(({ lines, object }) =>
    lines.some((line) => line.for.what === 'being' && asks(line.for.where, object)),
  )
  if (card) return { by: 'scorecard', name: card.name }
  const rolled = catalogue.data.fields.find(({ made }) => made?.by === 'rollUp' && asks(made.where, made.over))
  return rolled ? { by: 'field', name: rolled.label } : null
}

/** Takes a segment away; refused while a rule goes by it. */
export function removeSegment(workspace: Workspace, id: number): void {
  const use = ruleUse(workspace, (document) => segmentsNamed(document).includes(id))
  if (use)
    throw refuse('', {
      code: 'inUse',
      name: workspace.store.segments.get(id)?.name ?? String(id),
      cannot: 'deleted',
      by: use,
    })
  const asks = whatAsksFor(workspace, id)
  if (asks) throw refuse('', { code: 'segmentUsed', ...asks })
  const field = workspace.catalogue().data.fields.find(({ made }) => made?.by === 'segment' && made.segment === id)
  workspace.db.atomically(() => {
    workspace.store.segments.remove(id)
    if (field) workspace.store.catalogue.updateField(field.id, { archived: true })
  })
  workspace.tellCatalogue()
  workspace.live.tell({ about: 'segments' })
}
