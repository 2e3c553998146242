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
  zSegmentParams,
} from '../at-segment'

export const segmentLeft = defineTrigger({
  kind: 'segmentLeft',
  does: 'a record leaves a segment',
  hint: 'When a record stops matching the segment because of a change, a link or the date. Deleting a record does not count.',
  objects: OBJECTS,
  params: zSegmentParams,
  form: SEGMENT_FORM,
  start: NO_SEGMENT,
  sentence: (params, names) => segmentSentence(params, 'leaves', names),
  check: checkSegment,
  listen: (params) => listenSegment(params, false),
  compile: (params) => (event) => crossed(params, event, false),
  because: (params, _event, names) => becauseSegment(params, 'left', names),
  examples: [
    {
      say: 'meets it no longer',
      object: 'deal',
      params: { segment: 1 },
      event: { kind: 'changed', changes: [{ field: 'segment1', old: true, new: false }] },
      starts: true,
    },
    {
      say: 'never met it',
      object: 'deal',
      params: { segment: 1 },
      event: { kind: 'changed', changes: [{ field: 'segment1', old: null, new: false }] },
      starts: false,
    },
    {
      say: 'comes to meet it',
      object: 'deal',
      params: { segment: 1 },
      event: { kind: 'changed', changes: [{ field: 'segment1', old: false, new: true }] },
      starts: false,
    },
  ],
})
