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

/**
 * The focus never falls to the page itself: when what had it goes away, it goes to what took its place. Dialogs and
 * panels give it back by themselves; this looks after everything else.
 */
export function useKeptFocus(): void {
  if (import.meta.server) return
  let last: Place | null = null
  useEventListener(document, 'focusin', ({ target }) => {
    if (target instanceof HTMLElement && target !== document.body) last = placeOf(target)
  })
  let waiting = false
  useMutationObserver(
    () => document.body,
    () => {
      if (waiting || !last || last.el.isConnected) return
      waiting = true
      // A frame later: whoever took it away may have somewhere better for the focus to go.
      requestAnimationFrame(() =>
        requestAnimationFrame(() => {
          waiting = false
          if (last && !last.el.isConnected && document.activeElement === document.body) nextAfter(last)?.focus()
        }),
      )
    },
    { childList: true, subtree: true },
  )
}
