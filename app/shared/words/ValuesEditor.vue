<script setup lang="ts">
import { Combobox, ComboboxInput, ComboboxOption, ComboboxOptions } from '@headlessui/vue'
import type { Field } from '#core/fields/field'
import { FIELD_TYPES } from '#core/fields/types'
import { foldText } from '#core/language/value'
import { makeChoice } from './useChoices'
import { useCatalogue } from '~/shared/stores/catalogue'

/** Edits several values at once: ticked in a list, or, for texts, typed or pasted one a line. */
const props = defineProps<{ field: Field; values: readonly string[] }>()
const emit = defineEmits<{ set: [values: string[]] }>()
const store = useCatalogue()
const widget = computed(() => FIELD_TYPES[props.field.type].widget)
const words = ref('')
const options = computed(() => {
  switch (widget.value) {
    case 'choice':
    case 'choices':
      return props.field.choices.map((choice) => ({ value: choice.id, label: choice.label }))
    case 'person':
      return store.catalogue.people
        .filter((person) => person.active)
        .map((person) => ({ value: person.id, label: person.name }))
    case 'stage':
      return store.catalogue.pipelines.flatMap((pipeline) =>
        pipeline.stages.map((stage) => ({ value: stage.id, label: `${stage.name} · ${pipeline.name}` })),
      )
    case 'pipeline':
      return store.catalogue.pipelines.map((pipeline) => ({ value: pipeline.id, label: pipeline.name }))
    default:
      return null
  }
})
const shown = computed(() =>
  (options.value ?? []).filter((option) => foldText(option.label).includes(foldText(words.value))),
)
const offered = computed(
  () =>
    (widget.value === 'choice' || widget.value === 'choices') &&
    store.may('build') &&
    words.value.trim() !== '' &&
    !props.field.choices.some((choice) => foldText(choice.label) === foldText(words.value)),
)
/** What is missing is made right here, and ticked. */
async function addChoice(): Promise<void> {
  const id = await makeChoice(props.field, words.value.trim())
  if (id === null) return
  picked.value = [...picked.value, id]
  words.value = ''
}
const picked = ref([...props.values])
/** What was pasted and is none of the values. */
const unknown = ref<readonly string[]>([])
function clear(): void {
  words.value = ''
  if (input.value) (input.value.el as HTMLInputElement).value = ''
}
// Having ticked one she types the next.
watch(picked, clear)
/** Whether she has gone through the list by the arrows since she typed. */
let moved = false
function type(text: string): void {
  words.value = text
  moved = false
}
/**
 * Enter takes what the words find first, known at this very moment: the list itself knows it a frame later, and a quick
 * hand would tick what it found before.
 */
function keyed(event: KeyboardEvent): void {
  if (event.key === 'ArrowDown' || event.key === 'ArrowUp') moved = true
  if (event.key !== 'Enter') return
  const [first] = shown.value
  if (event.ctrlKey) emit('set', picked.value)
  else if (words.value.trim() === '' || moved) return
  else if (first)
    picked.value = picked.value.includes(first.value)
      ? picked.value.filter((id) => id !== first.value)
      : [...picked.value, first.value]
  else if (offered.value) void addChoice()
  event.preventDefault()
  event.stopPropagation()
}
/** A pasted list ticks all that it names, one a line or parted by semicolons, tabs or commas. */
function paste(event: ClipboardEvent): void {
  const text = event.clipboardData?.getData('text/plain') ?? ''
  const parts = text
    .split(/[\n\r;,\t]/)
    .map((part) => part.trim())
    .filter(Boolean)
  if (parts.length < 2) return
  event.preventDefault()
  const found = (part: string) =>
    options.value?.find(
      (option) =>
        foldText(option.label) === foldText(part) || foldText(option.label.split(' · ')[0] ?? '') === foldText(part),
    )
  picked.value = [...new Set([...picked.value, ...parts.flatMap((part) => found(part)?.value ?? [])])]
  unknown.value = parts.filter((part) => !found(part))
}
const lines = ref(props.values.join('\n'))
const input = useTemplateRef<{ el: HTMLElement }>('input')
const box = useTemplateRef<HTMLTextAreaElement>('box')
onMounted(() => void nextTick(() => requestAnimationFrame(() => (input.value?.el ?? box.value)?.focus())))
</script>

<template>
  <form v-if="options" @submit.prevent="emit('set', picked)">
    <div @keydown.capture="keyed">
      <Combobox v-model="picked" multiple>
        <ComboboxInput
          ref="input"
          class="entry w-full"
          placeholder="Type or paste a list"
          :aria-label="field.label"
          autocomplete="off"
          @paste="paste"
          @change="type($event.target.value)"
        />
        <ComboboxOptions static class="mt-1.5 max-h-[280px] overflow-auto">
          <ComboboxOption
            v-for="option in shown"
            :key="option.value"
            v-slot="{ active, selected }"
            :value="option.value"
            as="template"
          >
            <li class="flex cursor-pointer gap-2 rounded-[3px] px-1.5 py-1" :class="active && 'bg-violet-t'">
              <span class="w-4 text-violet" aria-hidden="true">{{ selected ? '✓' : '' }}</span>{{ option.label }}
            </li>
          </ComboboxOption>
        </ComboboxOptions>
      </Combobox>
    </div>
    <p v-if="unknown.length" class="mt-1 text-brick" role="alert">Not found: {{ unknown.join(', ') }}</p>
    <button
      v-if="offered"
      type="button"
      class="mt-1 block w-full rounded-[3px] px-1.5 py-1 text-left hover:bg-violet-t"
      data-add-choice
      @click="addChoice"
    >
      Add “{{ words.trim() }}” as a choice
    </button>
    <p class="mt-2 flex items-center justify-between">
      <button class="button" type="submit">Save {{ picked.length }}</button
      ><span class="quiet"><kbd>Enter</kbd> to select, <kbd>Ctrl Enter</kbd> to save</span>
    </p>
  </form>
  <form
    v-else
    @submit.prevent="
      emit(
        'set',
        lines
          .split('\n')
          .map((line) => line.trim())
          .filter(Boolean),
      )
    "
  >
    <textarea
      ref="box"
      v-model="lines"
      rows="6"
      class="entry w-full"
      :aria-label="`${field.label}, one per line`"
      placeholder="One per line"
      @keydown.ctrl.enter.prevent="
        emit(
          'set',
          lines
            .split('\n')
            .map((line) => line.trim())
            .filter(Boolean),
        )
      "
    />
    <p class="mt-2 flex items-center justify-between">
      <button class="button" type="submit">Save</button><span class="quiet"><kbd>Ctrl Enter</kbd> to save</span>
    </p>
  </form>
</template>
