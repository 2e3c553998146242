import { useAskedFor } from '~/shared/keys/useTypedAhead'
import { loadEditors } from './editors'

/** Which word of a sentence is being edited, and where the focus goes after. `path` is `step:s1`. */
export interface WordTarget {
  readonly path: string
  readonly param: string
}

export function useWords() {
  const target = ref<WordTarget | null>(null)
  if (import.meta.client) onNuxtReady(() => void loadEditors())
  useAskedFor(() => target.value !== null)
  const openKey = computed(() => (target.value ? `${target.value.path}/${target.value.param}` : null))

  const wordAt = (path: string, param: string) => document.querySelector<HTMLElement>(`[data-word="${path}/${param}"]`)

  function open(path: string, param: string): void {
    target.value = { path, param }
  }

  function close(): void {
    const was = target.value
    target.value = null
    if (was) void nextTick(() => wordAt(was.path, was.param)?.focus())
  }

  /** After a word was set: on to the next one of the line that is still to be chosen, or back to the word itself. */
  async function goOn(path: string, param: string): Promise<void> {
    target.value = null
    await nextTick()
    const next = document.querySelector<HTMLElement>(`[data-word^="${path}/"][data-missing]`)
    const name = next?.dataset.word?.slice(path.length + 1)
    if (name !== undefined && name !== param) open(path, name)
    else (wordAt(path, param) ?? next)?.focus()
  }

  /** Opens the first word of a new line that must be chosen, or gives its first word the focus. */
  async function begin(path: string): Promise<void> {
    await nextTick()
    const missing = document.querySelector<HTMLElement>(`[data-word^="${path}/"][data-missing]`)
    const name = missing?.dataset.word?.slice(path.length + 1)
    if (name !== undefined) open(path, name)
    else document.querySelector<HTMLElement>(`[data-word^="${path}/"]`)?.focus()
  }

  return { target, openKey, open, close, goOn, begin }
}
