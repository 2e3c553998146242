import { ruleUse } from './rules-where'
import { sayInUse } from '../../core/language/uses'
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
  refuseUnknown(given.filter, given.object, catalogue, 'filter')
  if (id !== null && segmentsWithin(given.filter, given.object, catalogue).has(id))
    throw refuse('filter', `“${given.name}” can’t ask about itself, directly or through another segment.`)
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
function whatAsksFor(workspace: Workspace, id: number): string | null {
  const catalogue = workspace.catalogue()
  const asks = (group: Group, object: ObjectKind): boolean => segmentsWithin(group, object, catalogue).has(id)
  const segment = workspace.store.segments.all().find((one) => one.id !== id && asks(one.filter, one.object))
  if (segment) return `the segment “${segment.name}”`
  const territory = catalogue.data.territories?.find(({ filter }) => asks(filter, 'company'))
  if (territory) return `the territory “${territory.name}”`
  const card = catalogue.data.scorecards?.find(({ lines, object }) =>
    lines.some((line) => line.for.what === 'being' && asks(line.for.where, object)),
  )
  if (card) return `the scorecard “${card.name}”`
  const rolled = catalogue.data.fields.find(({ made }) => made?.by === 'rollUp' && asks(made.where, made.over))
  return rolled ? `the field “${rolled.label}”` : null
}

/** Takes a segment away; refused while a rule goes by it. */
export function removeSegment(workspace: Workspace, id: number): void {
  const use = ruleUse(workspace, (document) => segmentsNamed(document).includes(id))
  if (use) throw refuse('', sayInUse(workspace.store.segments.get(id)?.name ?? String(id), 'deleted', use))
  const asks = whatAsksFor(workspace, id)
  if (asks) throw refuse('', `This segment is used by ${asks}.`)
  const field = workspace.catalogue().data.fields.find(({ made }) => made?.by === 'segment' && made.segment === id)
  workspace.db.atomically(() => {
    workspace.store.segments.remove(id)
    if (field) workspace.store.catalogue.updateField(field.id, { archived: true })
  })
  workspace.tellCatalogue()
  workspace.live.tell({ about: 'segments' })
}
