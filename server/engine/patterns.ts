import { RE2JS } from 're2js'
import { usePatterns, type Pattern } from '../../core/formulas/patterns'

/** `$1` and `$0` as XPath has them: as many digits as there are groups for; `\$` and `\\` for the signs themselves. */
function filled(by: string, groups: readonly (string | null)[]): string {
  return by.replace(/\\([\\$])|\$(\d+)/g, (_whole, sign: string | undefined, digits: string | undefined) => {
    if (sign !== undefined) return sign
    let number = digits ?? '0'
    let rest = ''
    while (Number(number) >= groups.length && number.length > 1) {
      rest = number.slice(-1) + rest
      number = number.slice(0, -1)
    }
    return (groups[Number(number)] ?? '') + rest
  })
}

/** Patterns found in time that grows with the text, by a port of RE2. */
usePatterns((pattern, { ignoreCase, multiline, dotAll }): Pattern => {
  const flags =
    (ignoreCase ? RE2JS.CASE_INSENSITIVE : 0) | (multiline ? RE2JS.MULTILINE : 0) | (dotAll ? RE2JS.DOTALL : 0)
  let made: RE2JS
  try {
    made = RE2JS.compile(pattern, flags)
  } catch (error) {
    throw new Error((error instanceof Error ? error.message : String(error)).replace(/^error parsing regexp: /, ''))
  }
  return {
    size: made.programSize(),
    matches: (text) => made.matcher(text).find(),
    replace(text, by) {
      const matcher = made.matcher(text)
      let [found, at] = ['', 0]
      while (matcher.find()) {
        const groups = Array.from({ length: matcher.groupCount() + 1 }, (_, i) => matcher.group(i))
        found += text.slice(at, matcher.start()) + filled(by, groups)
        at = matcher.end()
      }
      return found + text.slice(at)
    },
    split(text) {
      const matcher = made.matcher(text)
      const found: string[] = []
      let at = 0
      while (matcher.find()) {
        found.push(text.slice(at, matcher.start()))
        at = matcher.end()
      }
      return [...found, text.slice(at)]
    },
  }
})
