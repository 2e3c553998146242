import { NOUNS, type Noun } from './nouns'

/**
 * Numbers, counts and lists in words. Every text that counts something is made with these, so that nouns and verbs
 * agree and no screen joins an “s” by itself. Plural classes as in Unicode CLDR, by way of `Intl.PluralRules`.
 */
const CLASSES = new Intl.PluralRules('en')
const FIGURES = new Intl.NumberFormat('en')
const SHARES = new Intl.NumberFormat('en', { style: 'percent', maximumFractionDigits: 0 })
const LISTS = {
  and: new Intl.ListFormat('en-GB', { type: 'conjunction' }),
  or: new Intl.ListFormat('en-GB', { type: 'disjunction' }),
}

/** "1,204" */
export const figure = (n: number): string => FIGURES.format(n)

/** "62%"; `share` from 0 to 1. */
export const percent = (share: number): string => SHARES.format(share)

/** The form that agrees with the number: `plural(n, 'meets', 'meet')`. */
export const plural = (n: number, one: string, other: string): string => (CLASSES.select(n) === 'one' ? one : other)

/** "deal" or "deals", as the number asks. */
export const nounOf = (n: number, noun: Noun): string => plural(n, NOUNS[noun].one, NOUNS[noun].many)

/** "1 deal", "1,204 deals". */
export const count = (n: number, noun: Noun): string => `${figure(n)} ${nounOf(n, noun)}`

/** "No deals" for none, for the start of a sentence and for what is empty; else the count. */
export const countOrNone = (n: number, noun: Noun): string => (n === 0 ? `No ${NOUNS[noun].many}` : count(n, noun))

/** "Monday, Tuesday and Friday". */
export const listOf = (items: readonly string[], joined: 'and' | 'or' = 'and'): string => LISTS[joined].format(items)

/** "a, b, c and 4 more"; `most` are named. */
export const listSome = (items: readonly string[], most = 3): string =>
  items.length > most ? `${items.slice(0, most).join(', ')} and ${figure(items.length - most)} more` : listOf(items)
