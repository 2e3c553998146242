import { watchDebounced } from '@vueuse/core'
import type { AnswerOf } from '~/shared/live/useLiveQuery'
import { read } from '~/shared/api/api'

type Answer = AnswerOf<'/api/v1/find'>
const NOTHING: Answer = { records: [], rules: [] }
const SEARCH_AFTER_MS = 120

/** Records and rules that have some words in their names, while the words are typed: always those of the last ones. */
export function useFound() {
  const words = ref('')
  const found = shallowRef<Answer>(NOTHING)
  let asked = 0
  watchDebounced(
    words,
    async (value) => {
      const mine = ++asked
      const answer =
        value.trim() === '' ? NOTHING : await read<Answer>('/api/v1/find', { words: value }).catch(() => null)
      if (mine === asked && answer) found.value = answer
    },
    { debounce: SEARCH_AFTER_MS },
  )
  return { words, found }
}
