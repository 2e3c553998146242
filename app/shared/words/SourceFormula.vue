<script setup lang="ts">
import { FIELD_TYPES } from '#core/fields/types'
import type { FieldTypeName } from '#core/language/field-types'
import type { ObjectKind } from '#core/records/kinds'
import type { MakingShown } from '~~/server/views/derived'

const FormulaEditor = defineAsyncComponent(() => import('./FormulaEditor.vue'))

/** A formula that stands in a rule alone, with what it comes to on a few records. */
const props = withDefaults(
  defineProps<{
    type: FieldTypeName
    object: ObjectKind
    text: string
    /** Whether the field is cleared where nothing comes of it; left out where there is nothing to clear. */
    clears?: boolean | undefined
  }>(),
  { clears: undefined },
)
const emit = defineEmits<{ set: [text: string, clears: boolean] }>()
const text = ref(props.text)
const clears = ref(props.clears ?? false)
const shown = shallowRef<MakingShown | null>(null)
let asked = 0
let timer: ReturnType<typeof setTimeout> | undefined
async function prove(): Promise<void> {
  const n = ++asked
  if (text.value.trim() === '') return
  const found = await $fetch<MakingShown>('/api/v1/derived-fields/preview' as string, {
    method: 'POST',
    body: { object: props.object, type: props.type, made: { by: 'formula', text: text.value } },
  }).catch(() => null)
  if (n === asked) shown.value = found
}
watch(text, () => {
  clearTimeout(timer)
  timer = setTimeout(() => void prove(), 180)
})
onMounted(() => void prove())
onBeforeUnmount(() => clearTimeout(timer))
const misfit = computed(
  () => shown.value !== null && shown.value.problem === null && !shown.value.types.includes(props.type),
)
</script>

<template>
  <form @submit.prevent="emit('set', text, clears)" @keydown.ctrl.enter.prevent="emit('set', text, clears)">
    <FormulaEditor
      :text="text"
      :object="object"
      :problem="shown?.problem ?? null"
      label="Formula"
      @set="text = $event"
    />
    <p class="mt-1 min-h-[20px] text-[13px]" aria-live="polite">
      <span v-if="shown?.problem" class="said-wrong">{{ shown.problem.text }}</span><span
        v-else-if="misfit"
        class="said-wrong"
        >The result is {{ shown?.comesTo }}. {{ props.clears === undefined ? 'A condition' : 'This field' }} needs
        {{ FIELD_TYPES[type].word }}.</span
      ><span v-else-if="shown?.reading">{{ shown.reading }}</span>
    </p>
    <ul v-if="shown && !misfit" class="text-[13px]">
      <li v-for="sample in shown.samples.slice(0, 4)" :key="sample.id" class="flex gap-3 border-b border-hair py-0.5">
        <span class="min-w-0 flex-1 truncate">{{ sample.name }}</span><b class="font-semibold">{{ sample.result }}</b>
      </li>
    </ul>
    <label v-if="props.clears !== undefined" class="mt-2 flex items-baseline gap-2 text-[13.5px]"
      ><input v-model="clears" type="checkbox" /><span
        >Clear the field if there is no result <span class="quiet">(otherwise it stays as it is)</span></span
      ></label
    >
    <p class="mt-2 flex items-center gap-3">
      <button type="submit" class="button" :disabled="shown === null || shown.problem !== null || misfit">Save</button
      ><span class="quiet ml-auto"><kbd>Ctrl Enter</kbd> to save</span>
    </p>
  </form>
</template>
