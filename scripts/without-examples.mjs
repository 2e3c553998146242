/** What only tests and the server read of the definitions in `core/`. */
const NAMES = ['examples', 'example']

/** What a step does, and what is asked of it then: only the server does it, live, in rehearsals and in preflight. */
const DOES = ['run', 'first', 'writes', 'over']

/** Where those stand in a syntax tree (ESTree), outermost first. */
function places(node, isStep, found = []) {
  if (Array.isArray(node)) for (const one of node) places(one, isStep, found)
  else if (node && typeof node.type === 'string') {
    if (
      node.type === 'Property' &&
      NAMES.includes(node.key.name) &&
      ['ArrayExpression', 'ObjectExpression'].includes(node.value.type)
    )
      found.push({ ...node.value, to: node.value.type === 'ArrayExpression' ? '[]' : '{}' })
    else if (isStep && node.type === 'Property' && DOES.includes(node.key.name) && /Function/.test(node.value.type))
      found.push({ ...node.value, to: node.method ? '(){}' : '()=>{}' })
    else for (const value of Object.values(node)) if (value && typeof value === 'object') places(value, isStep, found)
  }
  return found
}

/**
 * Leaves the examples out of what browsers load, a third of many a definition, and what steps do.
 */
export const withoutExamples = () => ({
  name: 'without-examples',
  apply: /** @type {const} */ ('build'),
  enforce: /** @type {const} */ ('post'),
  transform(code, id, options) {
    const isStep = /\/core\/rules\/steps\/.*\.ts$/.test(id)
    if (options?.ssr || !/\/core\/.*\.ts$/.test(id) || !(isStep || /\bexamples?:/.test(code))) return null
    let without = code
    for (const { start, end, to } of places(this.parse(code), isStep).sort((a, b) => b.start - a.start))
      without = without.slice(0, start) + to + without.slice(end)
    return { code: without, map: null }
  },
})
