import { z } from 'zod'
import { foldText } from '../language/value'

export const GROUPS_MOST = 2000
export const SPELLINGS_MOST = 200

export const zSpellings = z
  .array(z.array(z.string().trim().min(1, 'is empty').max(200)).min(1, 'has no spelling').max(SPELLINGS_MOST))
  .max(GROUPS_MOST)

/** The spelling that stands twice, and where; `null` when each counts as one thing only. */
export function doubleSpelling(
  groups: readonly (readonly string[])[],
): { readonly spelling: string; readonly first: string; readonly second: string } | null {
  const seen = new Map<string, string>()
  for (const group of groups) {
    const [own = ''] = group
    const mine = new Set<string>()
    for (const spelling of group) {
      const folded = foldText(spelling)
      if (mine.has(folded)) continue
      mine.add(folded)
      const first = seen.get(folded)
      if (first !== undefined) return { spelling, first, second: own }
      seen.set(folded, own)
    }
  }
  return null
}

/** Spellings as lines of text: one thing a line, its spellings parted by "=". */
export const spellingsToText = (groups: readonly (readonly string[])[]): string =>
  groups.map((group) => group.join(' = ')).join('\n')

export const spellingsFromText = (text: string): readonly (readonly string[])[] =>
  text
    .split(/\r?\n/)
    .map((line) =>
      line
        .split(/\s*=\s*/)
        .map((spelling) => spelling.trim())
        .filter(Boolean),
    )
    .filter((group) => group.length > 0)
