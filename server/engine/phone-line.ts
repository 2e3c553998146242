import { parsePhoneNumberFromString } from 'libphonenumber-js/max'
import type { Line } from '../../core/messages/letter'

const known = new Map<string, Line>()
const KNOWN_MOST = 10_000

/** What kind of line an E.164 number belongs to, by the numbering plans that libphonenumber knows. */
export function lineOf(number: string): Line {
  const before = known.get(number)
  if (before) return before
  if (known.size >= KNOWN_MOST) known.clear()
  const type = parsePhoneNumberFromString(number)?.getType()
  // Some countries do not tell the two apart: there it may be a mobile.
  const line: Line =
    type === 'MOBILE' || type === 'FIXED_LINE_OR_MOBILE' ? 'mobile' : type === undefined ? 'unknown' : 'landline'
  known.set(number, line)
  return line
}
