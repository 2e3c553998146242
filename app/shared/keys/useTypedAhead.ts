import { useEventListener } from '@vueuse/core'

/**
 * Nothing that is typed is lost: what comes while a panel opens, and nothing has the focus yet, is kept and goes into
 * what takes it. Otherwise somebody quick would type into nothing, or on to the shortcuts of the page.
 */
export function useTypedAhead(panel: Readonly<Ref<HTMLElement | null>>): void {
  const early: string[] = []
  let handing = false
  const isKept = ({ key, ctrlKey, metaKey, altKey }: KeyboardEvent): boolean =>
    !ctrlKey && !metaKey && !altKey && (key.length === 1 || key === 'Enter')

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
      const nowhere = document.activeElement === document.body
      if (!isKept(event) || !panel.value || !(nowhere || handing)) return
      event.preventDefault()
      event.stopImmediatePropagation()
      early.push(event.key)
    },
    { capture: true },
  )
  useEventListener(panel, 'focusin', () => {
    if (early.length > 0 && !handing) void handOver()
  })
}
