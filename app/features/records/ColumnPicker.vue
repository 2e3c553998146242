<script setup lang="ts">
import { foldText } from '#core/language/value'
import type { ObjectKind } from '#core/records/kinds'
import { useCatalogue } from '~/shared/stores/catalogue'

/** Which fields stand in the table, and in which order; the name always comes first. */
const props = defineProps<{ object: ObjectKind; columns: readonly string[] }>()
const emit = defineEmits<{ set: [columns: string[]] }>()
const store = useCatalogue()
const words = ref('')
const shown = computed(() =>
  props.columns.filter((key) => key !== 'name').flatMap((key) => store.catalogue.field(props.object, key) ?? []),
)
const others = computed(() =>
  store.catalogue
    .fields(props.object)
    .filter(
      (field) =>
        field.key !== 'name' &&
        !props.columns.includes(field.key) &&
        foldText(field.label).includes(foldText(words.value)),
    ),
)
const keys = computed(() => shown.value.map((field) => field.key))
const set = (own: readonly string[]) => emit('set', ['name', ...own])
function move(index: number, by: -1 | 1): void {
  const next = [...keys.value]
  const [key] = next.splice(index, 1)
  if (key === undefined) return
  next.splice(index + by, 0, key)
  set(next)
  void nextTick(() => document.querySelector<HTMLElement>(`[data-column="${key}"]`)?.focus())
}
const box = useTemplateRef<HTMLInputElement>('box')
onMounted(() => void nextTick(() => requestAnimationFrame(() => box.value?.focus())))
</script>

<template>
  <div>
    <ol aria-label="Columns" class="max-h-56 overflow-auto">
      <li v-for="(field, i) in shown" :key="field.key" class="flex items-center gap-1 border-b border-hair py-0.5">
        <button
          type="button"
          class="min-h-6 min-w-0 flex-1 truncate text-left hover:bg-violet-t"
          :data-column="field.key"
          :aria-label="`Hide ${field.label}`"
          @click="set(keys.filter((key) => key !== field.key))"
        >
          <span class="text-violet" aria-hidden="true">✓</span> {{ field.label }}
        </button>
        <button
          type="button"
          class="quiet min-h-6 min-w-6 px-1"
          :disabled="i === 0"
          :aria-label="`Move ${field.label} left`"
          @click="move(i, -1)"
        >
          ↑
        </button>
        <button
          type="button"
          class="quiet min-h-6 min-w-6 px-1"
          :disabled="i === shown.length - 1"
          :aria-label="`Move ${field.label} right`"
          @click="move(i, 1)"
        >
          ↓
        </button>
      </li>
    </ol>
    <input
      ref="box"
      v-model="words"
      class="entry mt-2 w-full"
      placeholder="Add column"
      aria-label="Add column"
      @keydown.enter.prevent="others[0] && set([...keys, others[0].key])"
    />
    <ul class="mt-1 max-h-40 overflow-auto">
      <li v-for="field in others" :key="field.key">
        <button
          type="button"
          class="min-h-6 w-full truncate rounded-[2px] px-1.5 py-0.5 text-left hover:bg-violet-t"
          @click="set([...keys, field.key])"
        >
          {{ field.label }}
        </button>
      </li>
    </ul>
  </div>
</template>
