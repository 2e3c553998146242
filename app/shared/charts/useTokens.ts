import { useEventListener } from '@vueuse/core'

const NAMES = [
  'paper',
  'paper2',
  'raised',
  'ink',
  'ink2',
  'hair',
  'violet',
  'saffron',
  'moss',
  'slate',
  'brick',
] as const
export type Tokens = Readonly<Record<(typeof NAMES)[number] | 'font', string>>

/** The colours of the theme as they are now, for what is drawn outside of style sheets; `null` on the server. */
export function useTokens(): Readonly<Ref<Tokens | null>> {
  const tokens = shallowRef<Tokens | null>(null)
  function read(): void {
    const style = getComputedStyle(document.documentElement)
    const colours = Object.fromEntries(NAMES.map((name) => [name, style.getPropertyValue(`--${name}`).trim()]))
    tokens.value = {
      ...(colours as Record<(typeof NAMES)[number], string>),
      font: style.getPropertyValue('--font-sans'),
    }
  }
  onMounted(() => {
    read()
    useEventListener(matchMedia('(prefers-color-scheme: dark)'), 'change', read)
    // A theme that is chosen by hand stands on the page itself.
    const watcher = new MutationObserver(read)
    watcher.observe(document.documentElement, { attributeFilter: ['data-theme'] })
    onScopeDispose(() => watcher.disconnect())
  })
  return tokens
}
