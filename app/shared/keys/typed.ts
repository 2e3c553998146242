import type { ObjectDirective } from 'vue'

type Typed = string | number | null | undefined
interface Entry extends HTMLInputElement {
  typing?: boolean
}
const say = (value: Typed): string => (value === null || value === undefined ? '' : String(value))

/**
 * Shows a value in an entry that reports on `change`, without ever writing over what is being typed. A bound `:value`
 * is written anew at every redraw, whatever the redraw was for: an answer that comes in between takes half a word away.
 */
export const vTyped: ObjectDirective<Entry, Typed> = {
  created(entry) {
    entry.addEventListener('input', () => (entry.typing = true))
    for (const end of ['change', 'blur']) entry.addEventListener(end, () => (entry.typing = false))
  },
  beforeMount(entry, { value }) {
    entry.value = say(value)
  },
  updated(entry, { value }) {
    if (!entry.typing && entry.value !== say(value)) entry.value = say(value)
  },
  getSSRProps: ({ value }) => ({ value: say(value) }),
}
