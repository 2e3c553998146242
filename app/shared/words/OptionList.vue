<script setup lang="ts" generic="V extends string | boolean">
import { ranked } from './ranked'
import { Combobox, ComboboxInput, ComboboxOption, ComboboxOptions } from '@headlessui/vue'
import { foldText } from '#core/language/value'

export interface Option<T> {
  readonly value: T
  readonly label: string
  /** Shown at the right, in small. */
  readonly hint?: string
  /** A second line, where two options could be taken for one another. */
  readonly detail?: string
  /** Other words it is looked for by. */
  readonly words?: string
  readonly group?: string
}

/** A searchable list, by keyboard first: type, arrows, Enter. */
const props = defineProps<{
  options: readonly Option<V>[]
  current?: V | null
  label: string
  placeholder?: string
  /** Lets what is typed be added when nothing is called that; says what it is. */ adds?: string | null
  /** The options are those that were searched for already, by the words that are told. */ searched?: boolean
}>()
const emit = defineEmits<{ pick: [value: V]; add: [word: string]; words: [words: string] }>()
const words = ref('')
watch(words, (now) => emit('words', now))
const shown = computed(() => {
  if (props.searched) return props.options

  return ranked(props.options, words.value).slice(0, 200)
})
const input = useTemplateRef<{ el: HTMLInputElement }>('input')
// At once, so that what is typed right behind the key that opened it goes in here; and again when it is in its place.
onMounted(() => {
  const focus = (): void => input.value?.el.focus({ preventScroll: true })
  focus()
  void nextTick(() => requestAnimationFrame(focus))
})
const offered = computed(
  () =>
    Boolean(props.adds) &&
    words.value.trim() !== '' &&
    !props.options.some((option) => foldText(option.label) === foldText(words.value)),
)
/** What was typed has found something, and Enter means the first of it, also where the list has not marked it yet. */
function takeFirst(event: KeyboardEvent, marked: boolean): void {
  const [first] = shown.value
  if (marked || !first || words.value.trim() === '' || props.searched) return
  event.preventDefault()
  emit('pick', first.value)
}
const chosen = computed(() => props.options.find((option) => option.value === props.current) ?? null)
</script>

<template>
  <Combobox
    v-slot="{ activeOption }"
    :model-value="chosen"
    by="value"
    nullable
    @update:model-value="
      (option: Option<V> | null) => (option ? emit('pick', option.value) : offered && emit('add', words.trim()))
    "
  >
    <ComboboxInput
      ref="input"
      class="entry w-full"
      :placeholder="placeholder ?? 'Type to search'"
      :aria-label="label"
      autocomplete="off"
      :display-value="() => ''"
      @change="words = $event.target.value"
      @keydown.enter="takeFirst($event, activeOption !== null)"
    />
    <ComboboxOptions static class="mt-1.5 max-h-[300px] overflow-auto" :aria-label="label">
      <template v-for="(option, i) in shown" :key="String(option.value)">
        <li
          v-if="option.group && option.group !== shown[i - 1]?.group"
          role="presentation"
          class="px-1.5 pt-1.5 font-serif text-[13px] text-ink2 italic"
        >
          {{ option.group }}
        </li>
        <ComboboxOption v-slot="{ active }" :value="option" as="template">
          <li
            class="flex cursor-pointer items-baseline justify-between gap-3 rounded-[3px] px-1.5 py-1"
            :class="active && 'bg-violet-t'"
          >
            <span class="min-w-0"
              ><span :class="option.value === current && 'font-semibold'">{{ option.label }}</span
              ><span v-if="option.detail" class="quiet block truncate text-[12px]">{{ option.detail }}</span></span
            ><span class="quiet flex-none truncate text-right text-[12px]">{{ option.hint }}</span>
          </li>
        </ComboboxOption>
      </template>
      <ComboboxOption v-if="offered" v-slot="{ active }" :value="null" as="template"
        ><li
          class="flex cursor-pointer gap-2 rounded-[3px] border-t border-hair px-1.5 py-1"
          :class="active && 'bg-violet-t'"
          data-add-choice
        >
          Add “{{ words.trim() }}” {{ adds }}
        </li></ComboboxOption
      >
    </ComboboxOptions>
    <p v-if="!offered && shown.length === 0" role="status" class="quiet px-1.5 py-1">
      {{ searched && words.trim() === '' ? 'Type a name to search.' : 'No matches.' }}
    </p>
  </Combobox>
</template>
