import { useEventListener } from '@vueuse/core'
import { focusables } from './focus'

/**
 * F6 goes from one part of the page to the next, Shift+F6 back: the bar, then each part of the page that has a name.
 */
export function useRegions(): void {
  if (import.meta.server) return
  useEventListener(window, 'keydown', (event) => {
    if (event.key !== 'F6' || document.querySelector('[role=dialog], [role=alertdialog]')) return
    event.preventDefault()
    const named = '[role=region][aria-label], section[aria-label], aside[aria-label], [role=group][data-region]'
    const parts = [
      ...document.querySelectorAll<HTMLElement>('header'),
      ...[...document.querySelectorAll<HTMLElement>('main')].flatMap((main) => {
        const inside = [...main.querySelectorAll<HTMLElement>(named)].filter(
          (one) => one.getClientRects().length > 0 && !one.parentElement?.closest(named),
        )
        return inside.length > 0 ? inside : [main]
      }),
    ]
    const here = parts.findIndex((part) => part.contains(document.activeElement))
    const next = parts[(here + (event.shiftKey ? -1 : 1) + parts.length) % parts.length]
    if (!next) return
    const [first] = focusables(next)
    if (next.tabIndex >= 0 || !first) {
      if (!next.hasAttribute('tabindex')) next.tabIndex = -1
      next.focus()
    } else first.focus()
  })
}
