import { z } from 'zod'
import type { ChangeEvent } from '../../records/record'
import type { StepProblem } from '../step'
import type { Listen } from '../trigger'
import type { Form } from '../../language/widgets'
import { say, word, type SentencePart } from '../../language/sentence'
import { aOne } from '../../records/kinds'
import type { Names } from '../../fields/names'

/** What triggers about one segment have in common. */
export interface SegmentParams {
  segment: number | null
}

export const zSegmentParams = z.strictObject({ segment: z.int().min(1).nullable() })
export const SEGMENT_FORM: Form<SegmentParams> = { segment: { widget: 'segment' } }
export const NO_SEGMENT: SegmentParams = { segment: null }

/** The field in which it is kept whether a record is in a segment; there is one only while a rule goes by it. */
export const segmentKey = (id: number): string => `segment${id}`

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

export const listenSegment = ({ segment }: SegmentParams): readonly Listen[] =>
  segment === null ? [] : [{ on: 'field', field: segmentKey(segment) }]

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
