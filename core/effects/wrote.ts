import type { Names } from '../fields/names'
import type { Category } from '../language/category'
import { EFFECTS, effectOf, type EffectLeft, type EffectName } from './index'
import type { Summary } from './effect'
import { MARKS, type MarkLeft } from './marks'
import type { Undoing } from './undoing'

/** What one effect left behind, or the engine on its way through a step, as the journal keeps and shows it. */
export type Wrote = EffectLeft | MarkLeft

const isEffect = (wrote: Wrote): wrote is EffectLeft => Object.hasOwn(EFFECTS, wrote.what)

/** A mark with its own words: kind and content are a pair, as in `effectOf`. */
const markOf = (wrote: MarkLeft) => MARKS[wrote.what] as unknown as (typeof MARKS)['stop']

/** In words: "stage: Sized → Quoted", "created task for Rosa Amara, due 26 Nov: “Ring …”". */
export const sayWrote = (wrote: Wrote, names: Names, today: string): string =>
  isEffect(wrote)
    ? effectOf(wrote.what).describe(wrote, names, today)
    : markOf(wrote).describe(wrote as MarkLeft & { readonly what: 'stop' }, names)

/** Puts into the plan how it is taken back; what the engine left by itself needs no taking back. */
export function undoWrote(wrote: Wrote, undoing: Undoing): void {
  if (isEffect(wrote)) effectOf(wrote.what).undo(wrote, undoing)
}

/** Whom and what it concerns. */
export const summaryOf = (wrote: Wrote): Summary =>
  isEffect(wrote) ? effectOf(wrote.what).summarise(wrote) : { ahead: markOf(wrote).ahead }

/** Its mark; what the engine left by itself has none of its own. */
export const categoryOf = (wrote: Wrote): Category | null => (isEffect(wrote) ? effectOf(wrote.what).category : null)

/**
 * Reads what the journal keeps. Where a kind is unknown, or its content is not what that kind leaves, it says so in its
 * place, by name: stored tags are permanent, and one that cannot be read must not take the page with it.
 */
export function readWrote(stored: { readonly what: string }): Wrote {
  const { what, ...left } = stored
  const spec = Object.hasOwn(EFFECTS, what)
    ? effectOf(what as EffectName)
    : Object.hasOwn(MARKS, what)
      ? MARKS[what as keyof typeof MARKS]
      : null
  if (!spec) return { what: 'unread', say: `“${what}” can’t be read: it is no kind of effect` }
  const read = spec.left.safeParse(left)
  if (!read.success) {
    const [issue] = read.error.issues
    return { what: 'unread', say: `“${what}” can’t be read: ${issue?.path.join('.') ?? ''}: ${issue?.message ?? ''}` }
  }
  return { what, ...read.data } as Wrote
}
