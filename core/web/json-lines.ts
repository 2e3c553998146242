import { splitText } from '../rules/merge'

/** Some JSON as lines that are edited one by one: each with its name, its type and how deep it stands. */

export const JSON_TYPES = ['text', 'number', 'yesNo', 'field', 'nothing', 'object', 'list'] as const
export type JsonType = (typeof JSON_TYPES)[number]

export interface JsonLine {
  /** 0 for what stands directly in the whole. */
  readonly depth: number
  /** Its name in an object; nothing is asked for it in a list. */
  readonly name: string
  readonly type: JsonType
  /** The text, the number as it is typed, `true` or `false`, or the merge field without its braces. */
  readonly value: string
}

/** The whole is an object or a list; everything else stands in it. */
export interface JsonOutline {
  readonly whole: 'object' | 'list'
  readonly lines: readonly JsonLine[]
}

/** What keeps lines from being JSON, and in which of them. */
export interface JsonFault {
  readonly at: number
  readonly fault: 'noName' | 'sameName' | 'noNumber' | 'noField'
}

const isHolder = (type: JsonType): boolean => type === 'object' || type === 'list'
const typeIn = (json: unknown): { readonly type: JsonType; readonly value: string } => {
  if (json === null) return { type: 'nothing', value: '' }
  if (Array.isArray(json)) return { type: 'list', value: '' }
  if (typeof json === 'object') return { type: 'object', value: '' }
  if (typeof json === 'number') return { type: 'number', value: String(json) }
  if (typeof json === 'boolean') return { type: 'yesNo', value: String(json) }
  const text = String(json)
  const [only, ...more] = splitText(text)
  return only && more.length === 0 && 'merge' in only && only.or === undefined
    ? { type: 'field', value: only.merge }
    : { type: 'text', value: text }
}

/** The lines of a text; an empty one has none. `null` where it is no JSON, or a single value. */
export function readOutline(text: string): JsonOutline | null {
  if (text.trim() === '') return { whole: 'object', lines: [] }
  let whole: unknown
  try {
    whole = JSON.parse(text)
  } catch {
    return null
  }
  if (typeof whole !== 'object' || whole === null) return null
  const lines: JsonLine[] = []
  const walk = (holder: object, depth: number): void => {
    const named = !Array.isArray(holder)
    for (const [name, one] of Object.entries(holder) as [string, unknown][]) {
      lines.push({ depth, name: named ? name : '', ...typeIn(one) })
      if (typeof one === 'object' && one !== null) walk(one, depth + 1)
    }
  }
  walk(whole, 0)
  return { whole: Array.isArray(whole) ? 'list' : 'object', lines }
}

/** The line that one stands in; -1 for the whole. */
export function holderOf(lines: readonly JsonLine[], at: number): number {
  const depth = lines[at]?.depth ?? 0
  for (let i = at - 1; i >= 0; i--) if ((lines[i]?.depth ?? 0) < depth) return i
  return -1
}

/** Whether a line has a name: it does in an object. */
export function isNamed({ whole, lines }: JsonOutline, at: number): boolean {
  const holder = holderOf(lines, at)
  return (holder < 0 ? whole : lines[holder]?.type) !== 'list'
}

/** Behind the last line that stands in this one. */
export function endOf(lines: readonly JsonLine[], at: number): number {
  const depth = lines[at]?.depth ?? -1
  let end = at + 1
  while (end < lines.length && (lines[end]?.depth ?? 0) > depth) end++
  return end
}

interface Holder {
  readonly type: 'object' | 'list'
  readonly entries: [name: string, value: Holder | { readonly value: unknown }][]
}

const built = ({ type, entries }: Holder): unknown => {
  const made = entries.map(([name, one]): [string, unknown] => [name, 'entries' in one ? built(one) : one.value])
  return type === 'list' ? made.map(([, one]) => one) : Object.fromEntries(made)
}

/** JSON in a form that is read easily, as text; or the first line that keeps it from being some. */
export function writeOutline({ whole, lines }: JsonOutline): { readonly text: string } | JsonFault {
  if (lines.length === 0) return { text: whole === 'object' ? '' : '[]' }
  const top: Holder = { type: whole, entries: [] }
  const open = [top]
  for (const [at, line] of lines.entries()) {
    open.length = Math.min(open.length, line.depth + 1)
    const into = open.at(-1) ?? top
    const name = line.name.trim()
    if (into.type === 'object' && name === '') return { at, fault: 'noName' }
    if (into.type === 'object' && into.entries.some(([other]) => other === name)) return { at, fault: 'sameName' }
    if (line.type === 'object' || line.type === 'list') {
      const holder: Holder = { type: line.type, entries: [] }
      open.push(holder)
      into.entries.push([name, holder])
      continue
    }
    const value = valueOf(line)
    if ('fault' in value) return { at, fault: value.fault }
    into.entries.push([name, value])
  }
  return { text: JSON.stringify(built(top), null, 2) }
}

function valueOf({ type, value }: JsonLine): { readonly value: unknown } | { readonly fault: JsonFault['fault'] } {
  if (type === 'nothing') return { value: null }
  if (type === 'yesNo') return { value: value === 'true' }
  if (type === 'field') return value === '' ? { fault: 'noField' } : { value: `{{${value}}}` }
  if (type === 'text') return { value }
  // As JSON writes numbers (RFC 8259): no blank, no comma, no plus sign.
  const number = /^-?(?:0|[1-9]\d*)(?:\.\d+)?(?:[eE][+-]?\d+)?$/.test(value.trim()) ? Number(value) : NaN
  return Number.isFinite(number) ? { value: number } : { fault: 'noNumber' }
}

const FRESH: Omit<JsonLine, 'depth'> = { name: '', type: 'text', value: '' }
const replaced = (outline: JsonOutline, lines: readonly JsonLine[]): JsonOutline => ({ ...outline, lines })

/** A new line behind this one and all that stands in it; at the end of the whole for -1. */
export function addBehind(outline: JsonOutline, at: number): { readonly outline: JsonOutline; readonly at: number } {
  const { lines } = outline
  const place = at < 0 ? lines.length : endOf(lines, at)
  const line = { ...FRESH, depth: lines[at]?.depth ?? 0 }
  return { outline: replaced(outline, lines.toSpliced(place, 0, line)), at: place }
}

/** A new line as the last one in this one, which is an object or a list. */
export function addInside(outline: JsonOutline, at: number): { readonly outline: JsonOutline; readonly at: number } {
  const { lines } = outline
  const place = endOf(lines, at)
  const depth = (lines[at]?.depth ?? 0) + 1
  return { outline: replaced(outline, lines.toSpliced(place, 0, { ...FRESH, depth })), at: place }
}

/** Without a line and what stands in it. */
export const removeLine = (outline: JsonOutline, at: number): JsonOutline =>
  replaced(outline, outline.lines.toSpliced(at, endOf(outline.lines, at) - at))

/** Its name or its value said anew. */
export const changeLine = (outline: JsonOutline, at: number, part: Partial<JsonLine>): JsonOutline =>
  replaced(
    outline,
    outline.lines.map((line, i) => (i === at ? { ...line, ...part } : line)),
  )

/** Another type: what cannot hold lines loses those that stood in it, and a value stays where it still fits. */
export function retypeLine(outline: JsonOutline, at: number, type: JsonType): JsonOutline {
  const line = outline.lines[at]
  if (!line || line.type === type) return outline
  const kept = (type === 'text' || type === 'number') && (line.type === 'text' || line.type === 'number')
  const value = kept ? line.value : type === 'yesNo' ? 'true' : ''
  const without =
    isHolder(line.type) && !isHolder(type)
      ? replaced(outline, outline.lines.toSpliced(at + 1, endOf(outline.lines, at) - at - 1))
      : outline
  return changeLine(without, at, { type, value })
}

/** A line with what stands in it changes places with its neighbour; `null` where it has none on that side. */
export function shiftLine(
  outline: JsonOutline,
  at: number,
  by: -1 | 1,
): { readonly outline: JsonOutline; readonly at: number } | null {
  const { lines } = outline
  const depth = lines[at]?.depth
  if (depth === undefined) return null
  let other = by > 0 ? endOf(lines, at) : at - 1
  if (by < 0) while (other >= 0 && (lines[other]?.depth ?? 0) > depth) other--
  if (lines[other]?.depth !== depth) return null
  const first = Math.min(at, other)
  const second = Math.max(at, other)
  const end = endOf(lines, second)
  const moved = [...lines.slice(second, end), ...lines.slice(first, second)]
  return {
    outline: replaced(outline, [...lines.slice(0, first), ...moved, ...lines.slice(end)]),
    at: by > 0 ? first + (end - second) : first,
  }
}
