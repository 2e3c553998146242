<script setup lang="ts" generic="K extends string">
/** A row of tabs: one stop for Tab, arrows choose, as the tabs pattern of the ARIA Authoring Practices has it. */
const props = defineProps<{ tabs: readonly (readonly [key: K, label: string])[]; label: string }>()
const chosen = defineModel<K>({ required: true })
const row = useTemplateRef<HTMLElement>('row')
function move(event: KeyboardEvent, by: -1 | 1): void {
  event.preventDefault()
  const at = props.tabs.findIndex(([key]) => key === chosen.value)
  const next = props.tabs[(at + by + props.tabs.length) % props.tabs.length]
  if (!next) return
  chosen.value = next[0]
  row.value?.querySelector<HTMLElement>(`[data-tab="${next[0]}"]`)?.focus()
}
</script>

<template>
  <div
    ref="row"
    role="tablist"
    :aria-label="label"
    class="flex flex-wrap gap-x-5 font-serif text-[17px]"
    @keydown.right="move($event, 1)"
    @keydown.left="move($event, -1)"
  >
    <button
      v-for="[key, words] in tabs"
      :key="key"
      type="button"
      role="tab"
      :data-tab="key"
      :aria-selected="chosen === key"
      :tabindex="chosen === key ? 0 : -1"
      class="pb-1.5 whitespace-nowrap"
      :class="chosen === key ? 'border-b-2 border-ink font-medium' : 'text-ink2 italic'"
      @click="chosen = key"
    >
      {{ words }}
    </button>
  </div>
</template>
