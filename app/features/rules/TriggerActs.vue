<script setup lang="ts">
import type { Trigger } from '#core/rules/document'
import type { TriggerName } from '#core/rules/triggers'
import PopOver from '~/shared/words/PopOver.vue'
import { onceReady } from '~/shared/onceReady'
import type { TriggerOption } from './context'

const OptionList = onceReady(() => import('~/shared/words/OptionList.vue'))

/** What can be done with a trigger of the sheet: make it one of another kind, or take it away. */
const props = defineProps<{
  trigger: Trigger
  /** In words, for its buttons. */
  say: string
  options: readonly TriggerOption[]
}>()
const emit = defineEmits<{ change: [kind: TriggerName]; remove: [] }>()
const open = ref(false)
const others = computed(() => props.options.filter(({ value }) => value !== props.trigger.kind))
function pick(kind: TriggerName): void {
  open.value = false
  emit('change', kind)
}
</script>

<template>
  <!-- Over the count, which gives way to it. -->
  <span
    class="peer z-10 flex-none bg-paper opacity-0 group-hover/line:opacity-100 focus-within:opacity-100 min-[640px]:absolute min-[640px]:right-0 min-[640px]:bottom-[7px]"
    :class="open && 'opacity-100'"
  >
    <button
      type="button"
      class="quiet px-1"
      :aria-label="`Change trigger: ${say}`"
      :aria-expanded="open"
      :data-change-trigger="trigger.id"
      @click="open = !open"
    >
      Change
    </button>
    <button type="button" class="quiet px-1" :aria-label="`Remove trigger: ${say}`" @click="emit('remove')">
      Remove
    </button>
    <PopOver v-if="open" :anchor="`[data-change-trigger='${trigger.id}']`" label="Trigger" @close="open = false">
      <OptionList :options="others" label="Trigger" placeholder="Search triggers" @pick="pick" />
    </PopOver>
  </span>
</template>
