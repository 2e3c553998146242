import { getCurrentInstance, onBeforeUnmount } from 'vue'

const LONGEST_PAUSE_MS = 4000

/**
 * Runs something that reads a screen anew: at once when it is called, and again after a pause when it was called
 * meanwhile. The pause is three times what the last reading took, so that a quick screen stays quick and a heavy one
 * does not spend all its time on reading.
 */
export function useCalm(work: () => unknown): () => void {
  let busy = false
  let again = false
  let gone = false
  async function run(): Promise<void> {
    if (busy) {
      again = true
      return
    }
    busy = true
    const started = performance.now()
    await Promise.resolve(work()).catch(() => undefined)
    const pause = Math.min(LONGEST_PAUSE_MS, 3 * (performance.now() - started))
    await new Promise((resolve) => setTimeout(resolve, pause))
    busy = false
    if (!again || gone) return
    again = false
    await run()
  }
  if (getCurrentInstance())
    onBeforeUnmount(() => {
      gone = true
    })
  return () => void run()
}
