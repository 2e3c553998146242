import { segmentsWatched } from '../../core/rules/uses'
import type { Group } from '../../core/conditions/document'
import type { Field } from '../../core/fields/field'
import { segmentKey } from '../../core/derived/segment-key'
import type { Segment } from '../store/segments'
import type { Store } from '../store'
import type { Db } from '../db/connect'
import type { Catalogue, NamedSegment } from '../../core/fields/catalogue'
import type { Moment } from '../../core/conditions/moment'

/**
 * Whether records are in segments that rules go by: kept in a field each that nobody sees, from the first rule on that
 * goes by it.
 */

/** What it takes of the workspace that the fields are in. */
interface Keeper {
  readonly store: Store
  readonly db: Db
  catalogue(): Catalogue
  catalogueOrNull(): Catalogue | null
  /** Reads the fields anew; and, for `tellCatalogue`, lets everybody else know. */
  catalogueChanged(): void
  tellCatalogue(): void
  moment(): Moment
  today(): string
}

/** The segments that triggers of rules that are on name. */
function needed(workspace: Keeper): ReadonlySet<number> {
  return new Set(workspace.store.rules.active().flatMap(({ document }) => segmentsWatched(document)))
}

/** The field of a segment, before it is kept. */
export const segmentField = ({ id, object, name, filter }: NamedSegment): Field => ({
  id: -id,
  object,
  key: segmentKey(id),
  label: `In ${name}`,
  type: 'yesNo',
  description: '',
  keptBy: 'set by the segment',
  made: { by: 'segment', segment: id, where: filter },
  required: false,
  choices: [],
  currencyKey: null,
  synonyms: null,
})

/**
 * Makes the fields that are missing, filled with who is in the segment now; one that is there is kept up to date from
 * then on.
 */
export function tidySegments(workspace: Keeper): void {
  const catalogue = workspace.catalogueOrNull()
  if (!catalogue) return
  const missing = [...needed(workspace)].flatMap((id) => {
    const segment = catalogue.segment(id)
    return segment && !catalogue.field(segment.object, segmentKey(id)) ? [segment] : []
  })
  if (missing.length === 0) return
  const { store, db } = workspace
  db.together(() => {
    for (const segment of missing) {
      const { id: _none, ...field } = segmentField(segment)
      store.catalogue.addField({ ...field, indexed: false, position: 1_000_000 })
    }
    workspace.catalogueChanged()
    for (const { id, object, filter } of missing) fill(workspace, id, object, filter)
    if (store.derive.turn() === null)
      store.derive.setTurn({ through: workspace.today(), turning: null, object: null, afterId: 0 })
  })
  workspace.tellCatalogue()
}

function fill(workspace: Keeper, id: number, object: Segment['object'], filter: Group): void {
  const field = workspace.catalogue().field(object, segmentKey(id))
  if (field)
    workspace.store.records.fillTest(
      field,
      workspace.store.records.where(filter, object, workspace.catalogue(), workspace.moment()),
    )
}

/**
 * A segment asks for something else: who is in it is found anew, and no rule hears of it. Belongs into the transaction
 * that changes it.
 */
export function refillSegment(workspace: Keeper, segment: Pick<Segment, 'id' | 'object' | 'filter'>): void {
  const field = workspace.catalogue().field(segment.object, segmentKey(segment.id))
  if (!field) return
  workspace.store.catalogue.setMaking(
    field.id,
    { by: 'segment', segment: segment.id, where: segment.filter },
    field.keptBy ?? '',
  )
  workspace.catalogueChanged()
  fill(workspace, segment.id, segment.object, segment.filter)
}
