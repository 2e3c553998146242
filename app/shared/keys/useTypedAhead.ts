import { useEventListener } from '@vueuse/core'

/** Whether somebody types there already: what they type stays theirs. */
const isEntry = (el: Element | null): boolean =>
  el instanceof HTMLElement && (el.isContentEditable || el.matches('input, select, textarea'))

/**
 * Nothing that is typed is lost: what comes while a panel opens, and has not taken the focus yet, is kept and goes into
 * what takes it. Otherwise somebody quick would type into nothing, or on to the shortcuts of the page: until then the
 * focus is still where the panel was opened from.
 */
export function useTypedAhead(panel: Readonly<Ref<HTMLElement | null>>): void {
  const early: string[] = []
  let handing = false
  /** Whether the panel has had the focus; from then on what is typed beside it is meant for there. */
  let taken = false
  // What is handed over comes by here once more, and is not kept again: that would never end.
  const isKept = ({ key, ctrlKey, metaKey, altKey, isTrusted }: KeyboardEvent): boolean =>
    isTrusted && !ctrlKey && !metaKey && !altKey && (key.length === 1 || key === 'Enter')

  async function handOver(): Promise<void> {
    handing = true
    // Whoever takes the focus may select what stands there, so that the first letter replaces it.
    await new Promise((done) => requestAnimationFrame(done))
    for (let key = early.shift(); key !== undefined; key = early.shift()) {
      const entry = document.activeElement
      if (!entry || !panel.value?.contains(entry)) continue
      // The one way that reaches entries and editors alike, with their own events and their undo.
      if (key !== 'Enter') document.execCommand('insertText', false, key)
      else entry.dispatchEvent(new KeyboardEvent('keydown', { key, bubbles: true, cancelable: true }))
      await nextTick()
    }
    early.length = 0
    handing = false
  }

  useEventListener(
    'keydown',
    (event: KeyboardEvent) => {
      const held = document.activeElement
      const onItsWay = held === document.body || (!taken && !isEntry(held))
      if (!isKept(event) || !panel.value || !(onItsWay || handing)) return
      event.preventDefault()
      event.stopImmediatePropagation()
      early.push(event.key)
    },
    { capture: true },
  )
  useEventListener(panel, 'focusin', () => {
    taken = true
    if (early.length > 0 && !handing) void handOver()
  })
}
