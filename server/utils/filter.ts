import { EMPTY_GROUP, misfit, zGroup, type Group } from '../../core/conditions/document'
import type { ObjectKind } from '../../core/records/kinds'
import { ProblemError } from './problem'

const refuse = (detail: string, text: string): ProblemError => new ProblemError(400, 'The request does not fit', detail, [{ path: 'filter', text }])

/** The group of conditions that a query parameter holds as JSON. Refuses what is none, and says which condition. */
export function readFilter(text: string | undefined, object: ObjectKind): Group {
  if (text === undefined || text === '') return EMPTY_GROUP
  let given: unknown
  try {
    given = JSON.parse(text)
  } catch {
    throw refuse('The filter is not JSON.', 'is not JSON')
  }
  const read = zGroup.safeParse(given)
  if (!read.success) throw refuse('The filter cannot be read.', read.error.issues[0]?.message ?? '')
  const wrong = misfit(read.data, object)
  if (wrong) throw refuse('The filter cannot be read.', `${wrong.path.join('.') || 'filter'}: ${wrong.text}`)
  return read.data
}
