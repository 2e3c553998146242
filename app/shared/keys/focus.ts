/** A panel is hidden until it is in its place, and what is hidden takes no focus: a moment later it does. */
export function focusSoon(el: unknown): void {
  requestAnimationFrame(() => {
    if (el instanceof HTMLElement) el.focus()
  })
}

/** An entry comes with a proposal: it is selected once it is written there, so that typing replaces it. */
export function selectSoon(el: unknown): void {
  void nextTick(() => {
    if (el instanceof HTMLInputElement) el.select()
  })
}

const FOCUSABLE =
  'a[href], button:not([disabled]), input:not([disabled]):not([type=hidden]), select:not([disabled]), textarea:not([disabled]), [contenteditable=true], [tabindex]:not([tabindex="-1"])'

/** Everything in a part of the page that Tab stops at, in its order. */
export const focusables = (within: ParentNode): HTMLElement[] =>
  [...within.querySelectorAll<HTMLElement>(FOCUSABLE)].filter(
    (one) => one.tabIndex >= 0 && one.getClientRects().length > 0,
  )

/** What a person most likely wants first: what is marked, an entry, and only then a button. */
export const firstFocusable = (within: ParentNode): HTMLElement | undefined =>
  within.querySelector<HTMLElement>('[data-first]') ??
  focusables(within).find((one) => one.matches('input, select, textarea, [contenteditable=true]')) ??
  focusables(within)[0]
