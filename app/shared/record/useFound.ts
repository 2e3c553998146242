import { foldText } from '#core/language/value'
import { watchDebounced } from '@vueuse/core'
import type { AnswerOf } from '~/shared/live/useLiveQuery'
import { read } from '~/shared/api/api'

type Answer = AnswerOf<'/api/v1/find'>
const NOTHING: Answer = { records: [], rules: [] }
const SEARCH_AFTER_MS = 120

/** Records and rules that have some words in their names, while the words are typed: always those of the last ones. */
export function useFound() {
  const words = ref('')
  const answered = shallowRef<Answer>(NOTHING)
  // What was found for fewer letters is not shown as what was meant: Enter would take it.
  const found = computed((): Answer => {
    const wanted = foldText(words.value)
    return {
      records: answered.value.records.filter(({ name }) => foldText(name).includes(wanted)),
      rules: answered.value.rules.filter(({ name }) => foldText(name).includes(wanted)),
    }
  })
  let asked = 0
  watchDebounced(
    words,
    async (value) => {
      const mine = ++asked
      const answer =
        value.trim() === '' ? NOTHING : await read<Answer>('/api/v1/find', { words: value }).catch(() => null)
      if (mine === asked && answer) answered.value = answer
    },
    { debounce: SEARCH_AFTER_MS },
  )
  return { words, found }
}
