import { useEventListener, useMutationObserver } from '@vueuse/core'
import { focusables } from './focus'

interface Place {
  readonly el: HTMLElement
  /** Everything around it, from near to far. */
  readonly around: readonly HTMLElement[]
  /** Which of its list it was, to go on with the one that takes its place. */
  readonly at: number
}

const ITEMS = 'li, tr, [role=row], [data-line]'

function placeOf(el: HTMLElement): Place {
  const around: HTMLElement[] = []
  for (let one = el.parentElement; one && one !== document.body; one = one.parentElement) around.push(one)
  const item = el.closest<HTMLElement>(ITEMS)
  return { el, around, at: item?.parentElement ? [...item.parentElement.children].indexOf(item) : -1 }
}

/** Where the focus belongs when what had it is gone: the item that took its place, else the nearest heading. */
function nextAfter({ el, around, at }: Place): HTMLElement | null {
  const item = el.closest<HTMLElement>(ITEMS)
  const list = around.find(
    (one) => one.isConnected && (item === null || one.contains(item) || one === item.parentElement),
  )
  const near = list ?? around.find((one) => one.isConnected)
  if (!near) return null
  if (at >= 0) {
    const left = [...near.children].filter((child) => child.matches(ITEMS))
    const next = left[Math.min(at, left.length - 1)]
    const [first] = next ? focusables(next) : []
    if (first) return first
  }
  for (const one of around) {
    if (!one.isConnected) continue
    const heading = one.querySelector<HTMLElement>('h1, h2, h3')
    if (heading) {
      if (!heading.hasAttribute('tabindex')) heading.tabIndex = -1
      return heading
    }
  }
  return null
}

/** What a place has become: the same element, the same word drawn anew, what took its place, or the page's heading. */
function nowAt(place: Place): HTMLElement | null {
  if (place.el.isConnected && place.el.getClientRects().length > 0) return place.el
  const { word } = place.el.dataset
  const same = word === undefined ? null : document.querySelector<HTMLElement>(`[data-word="${CSS.escape(word)}"]`)
  return same ?? nextAfter(place) ?? document.querySelector<HTMLElement>('main h1')
}

/**
 * The focus never falls to the page itself: when what had it goes away, it goes to what took its place; out of a
 * dialog or a panel, to where it was before that opened.
 */
export function useKeptFocus(): void {
  if (import.meta.server) return
  let last: Place | null = null
  let onPage: Place | null = null
  useEventListener(document, 'focusin', ({ target }) => {
    if (!(target instanceof HTMLElement) || target === document.body) return
    last = placeOf(target)
    if (!target.closest('[role=dialog], [role=alertdialog]')) onPage = last
  })
  // Who presses beside everything wants the focus nowhere; what can take it gets it right after.
  useEventListener(document, 'pointerdown', () => (last = null), { capture: true })
  let waiting = false
  useMutationObserver(
    () => document.body,
    () => {
      if (waiting || !last || document.activeElement !== document.body) return
      waiting = true
      // A frame later: whoever took it away may have somewhere better for the focus to go.
      requestAnimationFrame(() =>
        requestAnimationFrame(() => {
          waiting = false
          if (!last || document.activeElement !== document.body) return
          // What only moved to another place of its list lost the focus on the way.
          const next = last.el.isConnected ? nowAt(last) : nowAt(onPage ?? last)
          if (next?.matches('h1') && !next.hasAttribute('tabindex')) next.tabIndex = -1
          next?.focus()
        }),
      )
    },
    { childList: true, subtree: true },
  )
}
