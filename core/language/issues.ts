import { z } from 'zod'
import { count, listOf } from './counts'

const TYPES: Readonly<Record<string, string>> = {
  string: 'text',
  number: 'a number',
  int: 'a whole number',
  boolean: 'true or false',
  array: 'a list',
  object: 'an object',
  record: 'an object',
  null: 'empty',
  date: 'a date',
}

type Issue = Parameters<NonNullable<ReturnType<typeof z.config>['customError']>>[0]

/** How much of something there may be: characters of a text, items of a list, or the number itself. */
const amountOf = (issue: Issue, limit: unknown): string => {
  if (issue.origin === 'string') return count(Number(limit), 'character')
  if (issue.origin === 'array' || issue.origin === 'set') return count(Number(limit), 'item')
  return String(limit)
}

/** So many of a list are named; whoever sends more knows by then. */
const NAMED_MOST = 5
const someOf = (keys: readonly string[]): string =>
  `${keys
    .slice(0, NAMED_MOST)
    .map((key) => `“${key.slice(0, 60)}”`)
    .join(', ')}${keys.length > NAMED_MOST ? ` and ${keys.length - NAMED_MOST} more` : ''}`

/** What does not fit the shape it should have, as a sentence that can stand behind its place. */
function sayIssue(issue: Issue): string | undefined {
  switch (issue.code) {
    case 'invalid_type':
      return issue.input === undefined ? 'Missing.' : `Must be ${TYPES[String(issue.expected)] ?? issue.expected}.`
    case 'unrecognized_keys':
      return `Unknown ${issue.keys.length === 1 ? 'key' : 'keys'} ${someOf(issue.keys)}.`
    case 'invalid_value':
      return issue.input === undefined ? 'Missing.' : `Must be ${listOf(issue.values.map(String), 'or')}.`
    case 'invalid_union':
      return issue.input === undefined ? 'Missing.' : 'Has none of the allowed forms.'
    case 'too_big':
      return `Must be ${amountOf(issue, issue.maximum)} at most.`
    case 'too_small':
      return `Must be at least ${amountOf(issue, issue.minimum)}.`
    case 'invalid_format':
      return 'Has the wrong format.'
    default:
      return undefined
  }
}

/** From here on schemas refuse in our words; a schema's own words still come first. Called once where they are used. */
z.config({ customError: sayIssue })
