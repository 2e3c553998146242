import { readdirSync, readFileSync } from 'node:fs'
import { join, relative } from 'node:path'
import ts from 'typescript'
import { resolveOurs, ROOT } from './resolve.mjs'

/**
 * No file may lead back to itself by its imports, types included. The usual rule for circles passes over imports of
 * types; with types a circle is one all the same: whoever reads one of its files has to read all of them.
 */

const FOLDERS = ['app', 'bench', 'cases', 'cli', 'core', 'crash', 'demo', 'e2e', 'scripts', 'server']

function* filesIn(folder) {
  for (const entry of readdirSync(folder, { withFileTypes: true })) {
    const path = join(folder, entry.name)
    if (entry.isDirectory()) yield* filesIn(path)
    else if (/\.(ts|mts|mjs|vue)$/.test(entry.name)) yield path
  }
}

const scriptOf = (path, text) =>
  path.endsWith('.vue')
    ? [...text.matchAll(/<script[^>]*>([\s\S]*?)<\/script>/g)].map((part) => part[1]).join('\n')
    : text

/** What each file of ours imports of ours. */
function readImports() {
  const graph = new Map()
  for (const folder of FOLDERS)
    for (const path of filesIn(join(ROOT, folder))) {
      const { importedFiles } = ts.preProcessFile(scriptOf(path, readFileSync(path, 'utf8')), true, true)
      graph.set(path, new Set(importedFiles.flatMap(({ fileName }) => resolveOurs(fileName, path) ?? [])))
    }
  return graph
}

/** For each file the number of the circle it stands in; files in none have one of their own. Tarjan's algorithm. */
export function circles(graph) {
  const [index, low, of] = [new Map(), new Map(), new Map()]
  const stack = []
  let [next, found] = [0, 0]
  const visit = (path) => {
    index.set(path, next)
    low.set(path, next++)
    stack.push(path)
    for (const other of graph.get(path) ?? []) {
      if (!index.has(other)) visit(other)
      if (!of.has(other)) low.set(path, Math.min(low.get(path), low.get(other)))
    }
    if (low.get(path) !== index.get(path)) return
    for (let last = null; last !== path;) of.set((last = stack.pop()), found)
    found++
  }
  for (const path of graph.keys()) if (!index.has(path)) visit(path)
  return of
}

let known = null
const look = () => (known ??= circles(readImports()))

export const noCircle = {
  meta: {
    type: 'problem',
    docs: { description: 'no file leads back to itself by its imports, types included' },
    messages: { circle: 'This import leads back here, by way of {{other}}.' },
    schema: [],
  },
  create(context) {
    const path = context.physicalFilename
    const of = look()
    const check = ({ source }) => {
      if (!source) return
      const other = resolveOurs(source.value, path)
      if (other && other !== path && of.has(path) && of.get(path) === of.get(other))
        context.report({ node: source, messageId: 'circle', data: { other: relative(ROOT, other) } })
    }
    return { ImportDeclaration: check, ExportNamedDeclaration: check, ExportAllDeclaration: check }
  },
}
