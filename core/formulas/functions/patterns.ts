import { faulty, spend, spendGiven, spendText, type Built, type Env } from '../build'
import { patternOf, type Pattern } from '../patterns'
import { refuse, type Span } from '../problems'
import { BOOLEAN, listOf, sayType, STRING, type FeelType, type FeelValue } from '../types'
import type { FeelFunction } from './define'

/** A function of a text, a pattern and, last and if at all, flags; `more` are the texts between those. */
function patterned(
  name: string,
  takes: string,
  does: string,
  more: number,
  gives: FeelType,
  run: (pattern: Pattern, text: string, given: readonly string[]) => FeelValue,
): FeelFunction {
  return {
    name,
    takes: `${name}(${takes})`,
    does,
    build(args, places, at) {
      if (args.length < 2 + more || args.length > 3 + more) return refuse(at, `${name} takes ${takes}.`)
      for (const [i, { type }] of args.entries())
        if (type.is !== 'string' && type.is !== 'null')
          return refuse(places[i] ?? at, `${name} needs a text here, but this is ${sayType(type)}.`)
      checkLiteral(args, places, at, more)
      const runs = args.map((arg) => arg.run)
      return {
        type: gives,
        run(env) {
          const given: string[] = []
          for (const one of runs) {
            const value = one(env)
            if (value === null) return null
            spendGiven(env, value)
            given.push(value as string)
          }
          const [text = '', pattern = '', ...rest] = given
          const found = patternOf(pattern, rest[more] ?? '')
          if (found === null || typeof found === 'string') return unfit(env, name, pattern)
          // A letter is looked at by each part of the pattern at the worst.
          spend(env, Math.ceil((text.length * found.size) / 64))
          const made = run(found, text, rest)
          if (typeof made === 'string') spendText(env, made.length)
          else if (Array.isArray(made)) spend(env, made.length)
          return made ?? unfit(env, name, pattern)
        },
      }
    },
  }
}

const unfit = (env: Env, name: string, pattern: string): null =>
  faulty(env, { code: 'unfit', name, given: `“${pattern.slice(0, 60)}”` })

/** A pattern that stands there is checked where it stands. */
function checkLiteral(args: readonly Built[], places: readonly Span[], at: Span, more: number): void {
  const [pattern, flags] = [args[1]?.literal, args[2 + more]]
  if (typeof pattern !== 'string' || (flags && typeof flags.literal !== 'string')) return
  const found = patternOf(pattern, String(flags?.literal ?? ''))
  if (typeof found === 'string') refuse(places[1] ?? at, found)
}

/** DMN 1.3, 10.3.4.3, which goes by XPath and XQuery Functions 3.1, 5.6. */
export const PATTERN_FUNCTIONS: readonly FeelFunction[] = [
  patterned('matches', 'text, pattern, flags', 'true if the pattern is found in the text', 0, BOOLEAN, (one, text) =>
    one.matches(text),
  ),
  patterned(
    'replace',
    'text, pattern, by, flags',
    'the text with what the pattern finds replaced; $1 is its first group',
    1,
    STRING,
    // What finds nothing at all would be put between all letters (XPath: FORX0003).
    (one, text, [by = '']) => (one.matches('') ? null : one.replace(text, by)),
  ),
  patterned(
    'split',
    'text, pattern',
    'the parts of the text between what the pattern finds',
    0,
    listOf(STRING),
    (one, text) => (one.matches('') ? null : one.split(text)),
  ),
]
