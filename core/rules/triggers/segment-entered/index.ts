import { OBJECTS } from '../../../records/kinds'
import { defineTrigger } from '../../trigger'
import {
  becauseSegment,
  checkSegment,
  crossed,
  listenSegment,
  NO_SEGMENT,
  SEGMENT_FORM,
  segmentSentence,
  standsInSegment,
  zSegmentParams,
} from '../at-segment'

export const segmentEntered = defineTrigger({
  kind: 'segmentEntered',
  does: 'a record enters a segment',
  hint: 'When a record starts to match the segment because of a change, a link or the date. Records already in it don’t count.',
  objects: OBJECTS,
  params: zSegmentParams,
  form: SEGMENT_FORM,
  start: NO_SEGMENT,
  sentence: (params, names) => segmentSentence(params, 'enters', names),
  check: checkSegment,
  listen: (params) => listenSegment(params, true),
  compile: (params) => (event) => crossed(params, event, true),
  stands: standsInSegment,
  because: (params, _event, names) => becauseSegment(params, 'entered', names),
  examples: [
    {
      say: 'comes to meet it',
      object: 'deal',
      params: { segment: 1 },
      event: { kind: 'changed', changes: [{ field: 'segment1', old: false, new: true }] },
      starts: true,
    },
    {
      say: 'meets it when it is new',
      object: 'deal',
      params: { segment: 1 },
      event: { kind: 'changed', changes: [{ field: 'segment1', old: null, new: true }] },
      starts: true,
    },
    {
      say: 'meets it no longer',
      object: 'deal',
      params: { segment: 1 },
      event: { kind: 'changed', changes: [{ field: 'segment1', old: true, new: false }] },
      starts: false,
    },
    {
      say: 'another segment',
      object: 'deal',
      params: { segment: 1 },
      event: { kind: 'changed', changes: [{ field: 'segment2', old: false, new: true }] },
      starts: false,
    },
  ],
})
