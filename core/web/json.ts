import type { Value } from '../language/value'

/** JSON with places that are filled from a record, and values read out of an answer. */

type Json = null | boolean | number | string | readonly Json[] | { readonly [key: string]: Json }

/** Why a text is no JSON, in the words of the parser; `null` when it is. */
export function jsonProblem(text: string): string | null {
  try {
    JSON.parse(text)
    return null
  } catch (error) {
    return error instanceof Error ? error.message : String(error)
  }
}

/**
 * Fills the texts inside some JSON. The structure stays as it was written: what is filled in never becomes a key or
 * another value, whatever it holds. A text that is one merge field alone becomes that value, in its type.
 *
 * @throws SyntaxError where the text is no JSON
 */
export function fillJson(
  text: string,
  whole: (text: string) => Value | undefined,
  fill: (text: string) => string,
): string {
  const walk = (json: Json): Json => {
    if (typeof json === 'string') {
      const value = whole(json)
      return value === undefined ? fill(json) : (value as Json)
    }
    if (Array.isArray(json)) return (json as readonly Json[]).map(walk)
    if (json !== null && typeof json === 'object')
      return Object.fromEntries(Object.entries(json).map(([key, one]) => [key, walk(one)]))
    return json
  }
  return JSON.stringify(walk(JSON.parse(text) as Json))
}

/** A name, `.name`, `[0]` or `['name']`: the child and index selectors of RFC 9535. */
const STEP = /^(?:\.?([A-Za-z_][\w-]*)|\[(\d{1,6})\]|\['([^'\]]+)'\])/

/** The steps of a path such as `$.order.items[0].id`; `null` for what is none. */
export function readPath(path: string): readonly (string | number)[] | null {
  let rest = path.trim().replace(/^\$/, '')
  const steps: (string | number)[] = []
  while (rest !== '') {
    const found = STEP.exec(rest)
    if (!found) return null
    const [whole, name, index, quoted] = found
    steps.push(index === undefined ? (name ?? quoted ?? '') : Number(index))
    rest = rest.slice(whole.length)
  }
  return steps
}

/** What stands at a path, where it is a single value; `null` where nothing does. */
export function atPath(json: unknown, path: string): string | number | boolean | null {
  let here: unknown = json
  for (const step of readPath(path) ?? []) {
    if (typeof here !== 'object' || here === null) return null
    // Only what the answer holds itself: nothing that every object has.
    if (Array.isArray(here) ? typeof step !== 'number' : !Object.hasOwn(here, step)) return null
    here = (here as Record<string | number, unknown>)[step]
  }
  return typeof here === 'string' || typeof here === 'number' || typeof here === 'boolean' ? here : null
}
