/**
 * The names of what functions take, in their order, as the standard has them (DMN 1.3, 10.3.4); of some several ways.
 */
const NAMED: { readonly [name: string]: readonly (readonly string[])[] } = {
  date: [['from'], ['year', 'month', 'day']],
  'date and time': [['from']],
  duration: [['from']],
  'years and months duration': [['from', 'to']],
  number: [['from']],
  string: [['from']],
  not: [['negand']],
  is: [['value1', 'value2']],
  'string length': [['string']],
  'upper case': [['string']],
  'lower case': [['string']],
  substring: [['string', 'start position', 'length']],
  'substring before': [['string', 'match']],
  'substring after': [['string', 'match']],
  contains: [['string', 'match']],
  'starts with': [['string', 'match']],
  'ends with': [['string', 'match']],
  matches: [['input', 'pattern', 'flags']],
  replace: [['input', 'pattern', 'replacement', 'flags']],
  split: [['string', 'delimiter']],
  'string join': [['list', 'delimiter']],
  'list contains': [['list', 'element']],
  'index of': [['list', 'match']],
  sublist: [['list', 'start position', 'length']],
  'insert before': [['list', 'position', 'newItem']],
  remove: [['list', 'position']],
  ...Object.fromEntries(
    [
      'count',
      'min',
      'max',
      'sum',
      'mean',
      'median',
      'mode',
      'stddev',
      'product',
      'all',
      'any',
      'reverse',
      'flatten',
      'distinct values',
      'duplicate values',
    ].map((name) => [name, [['list']]]),
  ),
  decimal: [['n', 'scale']],
  ...Object.fromEntries(
    ['round up', 'round down', 'round half up', 'round half down', 'floor', 'ceiling'].map((name) => [
      name,
      [['n', 'scale']],
    ]),
  ),
  abs: [['n']],
  modulo: [['dividend', 'divisor']],
  ...Object.fromEntries(['sqrt', 'log', 'exp', 'odd', 'even'].map((name) => [name, [['number']]])),
  ...Object.fromEntries(
    ['day of week', 'day of year', 'week of year', 'month of year'].map((name) => [name, [['date']]]),
  ),
  ...Object.fromEntries(
    ['before', 'after', 'meets', 'met by', 'overlaps', 'finishes', 'includes', 'during', 'coincides'].map((name) => [
      name,
      [
        ['point1', 'point2'],
        ['range1', 'range2'],
        ['point', 'range'],
        ['range', 'point'],
      ],
    ]),
  ),
}

/** The places that names stand for: in the order of `given`; or what is wrong. */
export function placesOfNames(name: string, given: readonly string[]): readonly number[] | string {
  const ways = Object.hasOwn(NAMED, name) ? (NAMED[name] ?? []) : []
  if (ways.length === 0) return `${name} takes its values in their order, without names.`
  if (new Set(given).size !== given.length) return 'A name stands there twice.'
  // Of two ways with the same names, that a range and a point have, the one that is written is meant.
  const way =
    ways.find((one) => given.every((each, i) => one[i] === each)) ??
    ways.find((one) => given.every((each) => one.includes(each)))
  if (!way) return `${name} takes ${ways.map((one) => one.join(', ')).join('; or ')}.`
  const left = way.slice(0, Math.max(...given.map((one) => way.indexOf(one))) + 1).filter((one) => !given.includes(one))
  if (left.length > 0) return `“${left[0] ?? ''}” of ${name} is missing.`
  return given.map((one) => way.indexOf(one))
}
