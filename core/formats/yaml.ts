import '../language/refusals/of-server'
import { isCollection, isScalar, LineCounter, parseDocument, visit } from 'yaml'
import { bad, good, type Result } from '../language/problems'

/** No file of ours is nested deeper; what is, would only fill the stack of whoever reads it. */
const DEPTH_MOST = 100

/** Whether brackets or indents go deeper than anything of ours, told before it is read. */
function tooDeep(text: string): number | null {
  let [depth, line] = [0, 1]
  const indents: number[] = []
  for (let i = 0, start = true; i < text.length; i++) {
    const letter = text[i]
    if (letter === '\n') {
      line++
      start = true
      continue
    }
    if (start && letter !== ' ' && letter !== '-') {
      const indent = i - text.lastIndexOf('\n', i) - 1
      while ((indents.at(-1) ?? -1) >= indent) indents.pop()
      indents.push(indent)
      start = false
    }
    // Brackets within texts count as well: no text of ours holds so many that are open.
    if (letter === '[' || letter === '{') depth++
    else if (letter === ']' || letter === '}') depth = Math.max(0, depth - 1)
    if (depth > DEPTH_MOST || indents.length > DEPTH_MOST) return line
  }
  return null
}

/** The first key that is no text, or that a map has twice (YAML 1.2.2, 3.2.1.3), with where it stands. */
function wrongKey(contents: unknown): { readonly detail: string; readonly at: number } | null {
  let found: { readonly detail: string; readonly at: number } | null = null
  visit(contents as Parameters<typeof visit>[0], {
    Map(_place, map) {
      const seen = new Set<unknown>()
      for (const { key } of map.items) {
        // “{{…}}” without quotes is a map whose key is a map: a text with a field in it, as it is written by mistake.
        if (isCollection(key)) {
          found = { detail: 'Put quotes around a text that begins with { or [.', at: key.range?.[0] ?? 0 }
          return visit.BREAK
        }
        if (!isScalar(key)) continue
        if (seen.has(key.value)) {
          found = { detail: `The key “${String(key.value)}” is used twice.`, at: key.range?.[0] ?? 0 }
          return visit.BREAK
        }
        seen.add(key.value)
      }
      return undefined
    },
  })
  return found
}

/**
 * What a file holds, written as YAML 1.2 or as JSON (RFC 8259), which is a part of it. Refuses with line and column
 * what is neither. Parts that stand for other parts are not read: they could blow a small file up into a huge one.
 */
export function readYaml(text: string): Result<unknown> {
  const deep = tooDeep(text)
  if (deep !== null) return bad({ code: 'nestedTooDeep', line: deep, most: DEPTH_MOST })
  const lines = new LineCounter()
  // No tags of one's own, no merging of keys: what stands there is what is meant.
  const parsed = parseDocument(text, {
    version: '1.2',
    schema: 'core',
    lineCounter: lines,
    // Looked for here, in one go: the library compares each key with all before it.
    uniqueKeys: false,
    prettyErrors: false,
    merge: false,
  })
  const [error] = [...parsed.errors, ...parsed.warnings]
  if (error) {
    const { line, col } = lines.linePos(error.pos[0])
    return bad({ code: 'atLine', line, column: col, said: error.message })
  }
  const wrong = wrongKey(parsed.contents)
  if (wrong) {
    const { line, col } = lines.linePos(wrong.at)
    return bad({ code: 'atLine', line, column: col, said: wrong.detail })
  }
  try {
    return good(parsed.toJS({ maxAliasCount: 0 }))
  } catch (problem) {
    if (problem instanceof ReferenceError) return bad({ code: 'anchors' })
    throw problem
  }
}
