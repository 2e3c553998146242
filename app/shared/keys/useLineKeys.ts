import type { Ref } from 'vue'
import { focusables } from './focus'
import { useKeys } from './useKeys'

/**
 * ↑ and ↓ lead from line to line of the list that a page is about, Home and End to its ends: the line that has the
 * focus is the one that the page's other keys act on.
 */
export function useLineKeys(list: Readonly<Ref<HTMLElement | null>>, item: string): void {
  const lines = (): { readonly el: HTMLElement; readonly stop: HTMLElement }[] =>
    [...(list.value?.querySelectorAll<HTMLElement>(item) ?? [])].flatMap((el) => {
      const [stop] = focusables(el)
      return stop ? [{ el, stop }] : []
    })
  const go =
    (where: (at: number, last: number) => number) =>
    ({ target }: KeyboardEvent): false | undefined => {
      // A choice among several is moved through by arrows itself.
      if (target instanceof HTMLInputElement && target.type === 'radio') return false
      if (target instanceof HTMLElement && target.closest('[role=tablist], [role=grid], [role=menu]')) return false
      const all = lines()
      if (all.length === 0) return false
      const next =
        all[
          where(
            all.findIndex(({ el }) => el.contains(document.activeElement)),
            all.length - 1,
          )
        ]
      next?.stop.focus()
      next?.el.scrollIntoView({ block: 'nearest' })
      return undefined
    }
  useKeys({
    ArrowDown: go((at, last) => Math.min(at + 1, last)),
    ArrowUp: go((at) => Math.max(at - 1, 0)),
    Home: go(() => 0),
    End: go((_at, last) => last),
  })
}
