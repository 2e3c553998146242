import { textOfDay, writeDays, writeMonths } from '../calendar'
import { spendText } from '../build'
import { refuse } from '../problems'
import { BOOLEAN, listOf, NUMBER, sayType, STRING, type FeelType, type FeelValue } from '../types'
import { plain, type FeelFunction } from './define'

const s = (value: FeelValue | undefined): string => String(value ?? '')
const letters = (value: FeelValue | undefined): readonly string[] => Array.from(s(value))

/** Counted from 1; from the end where it is negative (DMN 1.3, table 73). */
function substring(text: readonly string[], start: number, length: number | null): string | null {
  if (start === 0) return null
  const from = start > 0 ? start - 1 : Math.max(0, text.length + start)
  return length === null ? text.slice(from).join('') : length < 1 ? null : text.slice(from, from + length).join('')
}

/** A number with all its digits: no text of a formula has “1e+22” in it. */
function digits(value: number): string {
  const found = /^(-?)(\d)(?:\.(\d+))?e([+-]\d+)$/.exec(String(value))
  if (!found) return String(value)
  const [, sign = '', whole = '', rest = '', power = '0'] = found
  const [all, by] = [whole + rest, Number(power)]
  return by < 0 ? `${sign}0.${'0'.repeat(-by - 1)}${all}` : `${sign}${all.padEnd(by + 1, '0')}`
}

/** A value as a text, in the form in which formulas write it. */
export function written(value: FeelValue, type: FeelType): string | null {
  switch (type.is) {
    case 'number':
      return digits(Number(value))
    case 'string':
    case 'boolean':
      return String(value)
    case 'date':
      return textOfDay(Number(value))
    case 'dateTime':
      return new Date(Number(value)).toISOString().replace('.000Z', 'Z')
    case 'days':
      return writeDays(Number(value))
    case 'months':
      return writeMonths(Number(value))
    case 'null':
    case 'list':
    case 'record':
    case 'context':
    case 'range':
      return null
  }
}

/** DMN 1.3, 10.3.4.3; those that go by patterns have a file of their own. */
export const TEXT_FUNCTIONS: readonly FeelFunction[] = [
  plain('string length', 'text', 'number of characters', {
    takes: [STRING],
    gives: NUMBER,
    run: ([x]) => letters(x).length,
  }),
  plain('upper case', 'text', 'in upper case', { takes: [STRING], gives: STRING, run: ([x]) => s(x).toUpperCase() }),
  plain('lower case', 'text', 'in lower case', { takes: [STRING], gives: STRING, run: ([x]) => s(x).toLowerCase() }),
  plain('contains', 'text, part', 'true if it contains the text', {
    takes: [STRING, STRING],
    gives: BOOLEAN,
    run: ([x, y]) => s(x).includes(s(y)),
  }),
  plain('starts with', 'text, part', 'true if it starts with the text', {
    takes: [STRING, STRING],
    gives: BOOLEAN,
    run: ([x, y]) => s(x).startsWith(s(y)),
  }),
  plain('ends with', 'text, part', 'true if it ends with the text', {
    takes: [STRING, STRING],
    gives: BOOLEAN,
    run: ([x, y]) => s(x).endsWith(s(y)),
  }),
  plain('substring', 'text, from, count', 'part of the text, from position 1', {
    takes: [STRING, NUMBER, NUMBER],
    optional: 1,
    gives: STRING,
    run: ([x, from, count]) => substring(letters(x), Number(from), count === undefined ? null : Number(count)),
  }),
  plain('substring before', 'text, part', 'the text before', {
    takes: [STRING, STRING],
    gives: STRING,
    run: ([x, y]) => (s(x).includes(s(y)) ? s(x).slice(0, s(x).indexOf(s(y))) : ''),
  }),
  plain('substring after', 'text, part', 'the text after', {
    takes: [STRING, STRING],
    gives: STRING,
    run: ([x, y]) => (s(x).includes(s(y)) ? s(x).slice(s(x).indexOf(s(y)) + s(y).length) : ''),
  }),
  plain('string join', 'list, between', 'the texts of a list in one', {
    takes: [listOf(STRING), STRING],
    optional: 1,
    gives: STRING,
    run([list, between], env) {
      if (!Array.isArray(list)) return null
      const texts = (list as readonly FeelValue[]).filter((one) => one !== null).map(s)
      spendText(
        env,
        texts.reduce((sum, one) => sum + one.length + s(between).length, 0),
      )
      return texts.join(s(between))
    },
  }),
  {
    name: 'string',
    takes: 'string(value)',
    does: 'the value as text',
    build([arg], _places, at) {
      if (!arg) return refuse(at, 'string takes a value')
      const { type, run } = arg
      if (type.is === 'list' || type.is === 'record' || type.is === 'context' || type.is === 'range')
        return refuse(at, `${sayType(type)} is no text; string join makes one of a list of texts`)
      return {
        type: STRING,
        run: (env) => {
          const value = run(env)
          return value === null ? null : written(value, type)
        },
      }
    },
  },
]
