import type { H3Event } from 'h3'
import type { RecordSnapshot } from '../../core/records/record'
import { ProblemError } from './problem'

/** Says which version of a record an answer is, as an entity tag (RFC 9110, 8.8.3). */
export function setTag(event: H3Event, version: number): void {
  setResponseHeader(event, 'etag', `"${version}"`)
}

/** Refuses a write that was made for another version of the record than the one that is there (RFC 9110, 13.1.1). */
export function refuseOutdated(event: H3Event, record: RecordSnapshot): void {
  const given = getHeader(event, 'if-match')
  if (given === undefined || given.trim() === '*') return
  if (given.split(',').some((tag) => tag.trim() === `"${record.version}"`)) return
  setTag(event, record.version)
  throw new ProblemError({ code: 'recordChanged', given, version: record.version })
}
