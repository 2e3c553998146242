import { z } from 'zod'
import type { ChangeEvent } from '../../records/record'
import type { StepProblem } from '../step'
import { onSegment } from '../../signals/segment'
import type { Listen } from '../../signals'
import { segmentKey } from '../../derived/segment-key'
import type { Form } from '../../language/widgets'
import { say, word, type SentencePart } from '../../language/sentence'
import { aOne } from '../../records/kinds'
import type { Names } from '../../fields/names'
import { standsWhere, type Standing } from '../standing'

/** What triggers about one segment have in common. */
export interface SegmentParams {
  segment: number | null
}

export const zSegmentParams = z.strictObject({ segment: z.int().min(1).nullable() })
export const SEGMENT_FORM: Form<SegmentParams> = { segment: { widget: 'segment' } }
export const NO_SEGMENT: SegmentParams = { segment: null }

/** "a deal enters the segment Long past". */
export function segmentSentence(
  { segment }: SegmentParams,
  verb: string,
  { catalogue, object }: Names,
): readonly SentencePart[] {
  const found = segment === null ? null : (catalogue.segment(segment)?.name ?? null)
  return [
    say(`${aOne(object)} ${verb} the segment `),
    word('segment', found === null ? null : `“${found}”`, 'a segment'),
  ]
}

export function checkSegment({ segment }: SegmentParams, { catalogue, object }: Names): readonly StepProblem[] {
  const found = segment === null ? null : catalogue.segment(segment)
  if (!found) return [{ param: 'segment', problem: { code: 'missing', what: 'segment' } }]
  return found.object === object
    ? []
    : [{ param: 'segment', problem: { code: 'otherSegment', segment: found.name, of: found.object, object } }]
}

export const listenSegment = ({ segment }: SegmentParams, inside: boolean): readonly Listen[] =>
  segment === null ? [] : [onSegment(segment, inside)]

/** Whether an event says that the record is in the segment now, or no longer. One that is created in it enters it. */
export function crossed(
  { segment }: SegmentParams,
  event: Pick<ChangeEvent, 'kind' | 'changes'>,
  inside: boolean,
): boolean {
  const change = segment === null ? undefined : event.changes.find((one) => one.field === segmentKey(segment))
  return change !== undefined && change.new === inside && (inside || change.old === true)
}

export const becauseSegment = ({ segment }: SegmentParams, verb: string, { catalogue }: Names): string =>
  `it ${verb} the segment “${segment === null ? '' : (catalogue.segment(segment)?.name ?? '')}”`

/** Records that are in the segment. */
export function standsInSegment({ segment }: SegmentParams, { catalogue }: Names): Standing | null {
  const found = segment === null ? null : catalogue.segment(segment)
  return found && standsWhere(found.filter, `in the segment “${found.name}”`)
}
