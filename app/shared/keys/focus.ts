/** A panel is hidden until it is in its place, and what is hidden takes no focus: a moment later it does. */
export function focusSoon(el: unknown): void {
  requestAnimationFrame(() => {
    if (el instanceof HTMLElement) el.focus()
  })
}
