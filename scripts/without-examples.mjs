/** What only tests and the server read of the definitions in `core/`. */
const NAMES = ['examples', 'example']

/** Where those stand in a syntax tree (ESTree), outermost first. */
function places(node, found = []) {
  if (Array.isArray(node)) for (const one of node) places(one, found)
  else if (node && typeof node.type === 'string') {
    if (
      node.type === 'Property' &&
      NAMES.includes(node.key.name) &&
      ['ArrayExpression', 'ObjectExpression'].includes(node.value.type)
    )
      found.push(node.value)
    else for (const value of Object.values(node)) if (value && typeof value === 'object') places(value, found)
  }
  return found
}

/**
 * Leaves the examples out of what browsers load: a third of many a definition are its tests.
 */
export const withoutExamples = () => ({
  name: 'without-examples',
  apply: /** @type {const} */ ('build'),
  enforce: /** @type {const} */ ('post'),
  transform(code, id, options) {
    if (options?.ssr || !/\/core\/.*\.ts$/.test(id) || !/\bexamples?:/.test(code)) return null
    let without = code
    for (const { type, start, end } of places(this.parse(code)).sort((a, b) => b.start - a.start))
      without = without.slice(0, start) + (type === 'ArrayExpression' ? '[]' : '{}') + without.slice(end)
    return { code: without, map: null }
  },
})
