import { useEventListener } from '@vueuse/core'

/** Entries that are pressed and not typed into. */
const PRESSED: ReadonlySet<string> = new Set([
  'checkbox',
  'radio',
  'button',
  'submit',
  'reset',
  'file',
  'range',
  'color',
])

/** True while a person is typing, so that single letters are theirs and not commands. */
export function isTyping(target: EventTarget | null): boolean {
  return (
    target instanceof HTMLElement &&
    (target.isContentEditable ||
      ['TEXTAREA', 'SELECT'].includes(target.tagName) ||
      (target instanceof HTMLInputElement && !PRESSED.has(target.type)))
  )
}

const isLetter = (key: string): boolean => key.length === 1

/** How single letters work for this person: at once, only together with Alt, or not at all. */
export const SHORTCUT_WAYS = ['on', 'alt', 'off'] as const
export type ShortcutWay = (typeof SHORTCUT_WAYS)[number]
export const useShortcutWay = () =>
  useCookie<ShortcutWay>('sky-lever-shortcuts', { default: () => 'on', maxAge: 31_536_000, sameSite: 'lax' })

/** Single keys while nobody types and no dialog is open. A handler that answers `false` leaves the key alone. */
export function useKeys(keys: Readonly<Record<string, (event: KeyboardEvent) => unknown>>): void {
  if (import.meta.server) return
  const way = useShortcutWay()
  useEventListener(window, 'keydown', (event) => {
    if (
      event.ctrlKey ||
      event.metaKey ||
      (isLetter(event.key) ? event.altKey !== (way.value === 'alt') || way.value === 'off' : event.altKey) ||
      isTyping(event.target) ||
      document.querySelector('[role=dialog], [role=alertdialog], [data-pop]')
    )
      return
    const handler = keys[isLetter(event.key) ? event.key.toLowerCase() : event.key]
    if (!handler) return
    if (handler(event) !== false) event.preventDefault()
  })
}
