import { useEventListener } from '@vueuse/core'

/** True while a person is typing, so that single letters are theirs and not commands. */
export function isTyping(target: EventTarget | null): boolean {
  return (
    target instanceof HTMLElement &&
    (target.isContentEditable || ['INPUT', 'TEXTAREA', 'SELECT'].includes(target.tagName))
  )
}

/** Single keys while nobody types and no dialog is open. A handler that answers `false` leaves the key alone. */
export function useKeys(keys: Readonly<Record<string, (event: KeyboardEvent) => unknown>>): void {
  if (import.meta.server) return
  useEventListener(window, 'keydown', (event) => {
    if (
      event.ctrlKey ||
      event.metaKey ||
      event.altKey ||
      isTyping(event.target) ||
      document.querySelector('[role=dialog], [role=alertdialog], [data-pop]')
    )
      return
    const handler = keys[event.key.length === 1 ? event.key.toLowerCase() : event.key]
    if (!handler) return
    if (handler(event) !== false) event.preventDefault()
  })
}
