import type { Component } from 'vue'

/**
 * A component that is not on a page's first screen. It is fetched when the page stands, before anybody can have asked
 * for it, so that the first screen does not wait for it and what is typed ahead finds it there.
 */
export function onceReady<C extends Component>(load: () => Promise<{ readonly default: C }>): C {
  if (import.meta.client) onNuxtReady(() => void load())
  return defineAsyncComponent(load)
}
