import { computed, shallowRef, type ComputedRef, type ShallowRef } from 'vue'
import type { ListPage } from '~~/server/engine/record-list'

/** So many rows are one page. */
export const PAGE_ROWS = 100

export type ListRow = ListPage['rows'][number]

export interface ListPages {
  /** Rows by where they stand in the list; those that are not here have not come yet. */
  readonly rows: Readonly<ShallowRef<ReadonlyMap<number, ListRow>>>
  readonly counts: ComputedRef<{ readonly total: number; readonly matched: number }>
  /** Reads what is looked for now, from its first page on. Rejects as `ask` does. */
  readonly reread: () => Promise<void>
  /** Sees to it that the page of a row is here. */
  readonly need: (index: number) => Promise<void>
}

/**
 * A long list that is read page by page, as far as it is looked at. Answers to a list that is looked for no longer are
 * none any more, and neither are their refusals; where a list is refused, the one before stays with all its pages.
 *
 * @param look what is looked for now
 * @param ask a page of what is looked for, from a row on
 * @param first the first page of it, where it is known already
 */
export function useListPages<Q extends object>(
  look: () => Q,
  ask: (looked: Q, offset: number) => Promise<ListPage>,
  first: ListPage | null,
): ListPages {
  /** The list that is shown, and where its pages begin that were asked for. */
  let shown = { looked: look(), asked: new Set([0]) }
  /** How often a list was asked for. */
  let lists = 0
  const rows = shallowRef<ReadonlyMap<number, ListRow>>(new Map())
  const page = shallowRef(first)
  const counts = computed(() => ({ total: page.value?.total ?? 0, matched: page.value?.matched ?? 0 }))

  function put(answer: ListPage, offset: number, before: ReadonlyMap<number, ListRow>): void {
    const next = new Map(before)
    answer.rows.forEach((row, i) => next.set(offset + i, row))
    rows.value = next
  }
  if (first) put(first, 0, new Map())

  async function reread(): Promise<void> {
    const mine = ++lists
    const looked = look()
    try {
      const answer = await ask(looked, 0)
      if (mine !== lists) return
      // Rows of the same list stand until their page comes again, so that nothing flickers at every change.
      const isSame = JSON.stringify(looked) === JSON.stringify(shown.looked)
      const before = isSame ? [...rows.value].filter(([index]) => index < answer.matched) : []
      shown = { looked, asked: new Set([0]) }
      page.value = answer
      put(answer, 0, new Map(before))
    } catch (error) {
      if (mine === lists) throw error
    }
  }

  async function need(index: number): Promise<void> {
    const offset = Math.floor(index / PAGE_ROWS) * PAGE_ROWS
    const list = shown
    if (list.asked.has(offset)) return
    list.asked.add(offset)
    try {
      const answer = await ask(list.looked, offset)
      if (list === shown) put(answer, offset, rows.value)
    } catch {
      // It is asked for again when it is looked at again.
      list.asked.delete(offset)
    }
  }
  return { rows, counts, reread, need }
}
