import { LineCounter, parseDocument } from 'yaml'
import { bad, good, type Result } from '../language/problems'

/**
 * What a file holds, written as YAML 1.2 or as JSON (RFC 8259), which is a part of it. Refuses with line and column
 * what is neither. Parts that stand for other parts are not read: they could blow a small file up into a huge one.
 */
export function readYaml(text: string): Result<unknown> {
  const lines = new LineCounter()
  // No tags of one's own, no merging of keys: what stands there is what is meant.
  const parsed = parseDocument(text, {
    version: '1.2',
    schema: 'core',
    lineCounter: lines,
    uniqueKeys: true,
    prettyErrors: false,
    merge: false,
  })
  const [error] = [...parsed.errors, ...parsed.warnings]
  if (error) {
    const { line, col } = lines.linePos(error.pos[0])
    return bad({ code: 'shape', detail: `Line ${line}, column ${col}: ${error.message}` })
  }
  try {
    return good(parsed.toJS({ maxAliasCount: 0 }))
  } catch (problem) {
    if (problem instanceof ReferenceError)
      return bad({ code: 'shape', detail: 'YAML anchors and aliases (&, *) are not supported.' })
    throw problem
  }
}
