import { useEventListener } from '@vueuse/core'

/** Whether somebody types there already: what they type stays theirs. */
const isEntry = (el: Element | null): boolean =>
  el instanceof HTMLElement && (el.isContentEditable || el.matches('input, select, textarea'))

/** What Enter does where it is pressed. A browser does the default of a key only for keys of its own. */
function pressEnter(entry: Element): void {
  const goesOn = entry.dispatchEvent(new KeyboardEvent('keydown', { key: 'Enter', bubbles: true, cancelable: true }))
  if (!goesOn) return
  if (entry instanceof HTMLInputElement) entry.form?.requestSubmit()
  else if (entry instanceof HTMLButtonElement || entry instanceof HTMLAnchorElement) entry.click()
  else document.execCommand('insertLineBreak')
}

type Panel = Readonly<Ref<HTMLElement | null>>
/** What was typed and has no place yet. One for all panels: Enter closes one, and the rest is meant for the next. */
const early: string[] = []
const panels = new Set<Panel>()
let handing = false
/** So many frames a panel may take to come up and to have the focus; what waits longer is given up. */
const PATIENCE = 60
const frame = (): Promise<unknown> => new Promise((done) => requestAnimationFrame(done))

/** Hands over what waits, key by key, to whatever has the focus in a panel. */
async function handOver(): Promise<void> {
  handing = true
  // Whoever takes the focus may select what stands there, so that the first letter replaces it.
  await frame()
  for (let waited = 0; early.length > 0 && waited < PATIENCE;) {
    const entry = document.activeElement
    if (!entry || ![...panels].some((panel) => panel.value?.contains(entry))) {
      waited++
      await frame()
      continue
    }
    waited = 0
    const key = early.shift()
    // The one way that reaches entries and editors alike, with their own events and their undo.
    if (key === 'Enter') pressEnter(entry)
    else if (key === 'Escape') entry.dispatchEvent(new KeyboardEvent('keydown', { key, bubbles: true }))
    else if (key) document.execCommand('insertText', false, key)
    await nextTick()
  }
  early.length = 0
  handing = false
}

// What is handed over comes by here once more, and is not kept again: that would never end.
const isKept = ({ key, ctrlKey, metaKey, altKey, isTrusted }: KeyboardEvent): boolean =>
  isTrusted &&
  !ctrlKey &&
  !metaKey &&
  !altKey &&
  // Escape is kept only behind others: it is meant for what they bring up, and not for what closes by them.
  (key.length === 1 || key === 'Enter' || (key === 'Escape' && (handing || early.length > 0)))

function keep(event: KeyboardEvent): void {
  event.preventDefault()
  event.stopImmediatePropagation()
  early.push(event.key)
}

/** The same for a panel that is asked for and not there yet, since what it is made of is still on its way. */
export function useAskedFor(asked: () => boolean): void {
  useEventListener(
    'keydown',
    (event: KeyboardEvent) => {
      if (asked() && ![...panels].some((panel) => panel.value) && !isEntry(document.activeElement) && isKept(event))
        keep(event)
    },
    { capture: true },
  )
}

/**
 * Nothing that is typed is lost: what comes while a panel opens, and has not taken the focus yet, is kept and goes into
 * what takes it. Otherwise somebody quick would type into nothing, or on to the shortcuts of the page: until then the
 * focus is still where the panel was opened from.
 */
export function useTypedAhead(panel: Panel): void {
  panels.add(panel)
  onScopeDispose(() => panels.delete(panel))
  /** Whether the panel has had the focus; from then on what is typed beside it is meant for there. */
  let taken = false
  useEventListener(
    'keydown',
    (event: KeyboardEvent) => {
      const held = document.activeElement
      const onItsWay = held === document.body || (!taken && !isEntry(held))
      if (isKept(event) && panel.value && (onItsWay || handing)) keep(event)
    },
    { capture: true },
  )
  useEventListener(panel, 'focusin', () => {
    taken = true
    if (early.length > 0 && !handing) void handOver()
  })
}
