import type { LiveMessage } from '~~/server/engine/live'
import { useCatalogue } from '~/shared/stores/catalogue'

type Listener = (message: LiveMessage) => void

const listeners = new Set<Listener>()
const again = new Set<() => void>()
let source: EventSource | null = null

/**
 * One connection a window. The browser says what it heard last when it connects again, and the server tells what was
 * missed; when that is too long ago it says `anew`, and every screen reads itself again.
 */
function connect(): void {
  if (source) return
  source = new EventSource(`/api/v1/live?after=${encodeURIComponent(useCatalogue().facts?.live ?? '')}`)
  source.addEventListener('hello', () => {
    document.documentElement.dataset.live = 'yes'
  })
  source.addEventListener('anew', () => {
    document.documentElement.dataset.live = 'yes'
    for (const reread of again) reread()
  })
  source.addEventListener('message', (event: MessageEvent<string>) => {
    const message = JSON.parse(event.data) as LiveMessage
    for (const listener of listeners) listener(message)
  })
}

/** Hears what changes while the component is on screen. `reread` is called after a lost connection is back. */
export function useLive(listener: Listener, reread?: () => void): void {
  onMounted(() => {
    listeners.add(listener)
    if (reread) again.add(reread)
    connect()
  })
  onBeforeUnmount(() => {
    listeners.delete(listener)
    if (reread) again.delete(reread)
  })
}
