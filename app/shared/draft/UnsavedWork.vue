<script setup lang="ts">
import { useEventListener } from '@vueuse/core'
import AppDialog from '~/shared/dialog/AppDialog.vue'

/**
 * Asks before somebody leaves what is written here and not saved: for another page, another item or another tab. Stands
 * where it is told that somebody else saved another version meanwhile.
 */
const props = defineProps<{ dirty: boolean; elsewhere?: boolean }>()
const emit = defineEmits<{ take: [] }>()
/** Answers whoever waits to know whether to go on. */
const asking = shallowRef<((leave: boolean) => void) | null>(null)
async function mayLeave(): Promise<boolean> {
  // What is saved, and leads elsewhere by itself, is known here with the next tick.
  await nextTick()
  if (!props.dirty) return true
  // The Escape that asked for it is not to answer it as well.
  await new Promise((resolve) => setTimeout(resolve))
  asking.value?.(false)
  return new Promise((resolve) => (asking.value = resolve))
}
function answer(leave: boolean): void {
  asking.value?.(leave)
  asking.value = null
}
// Saved while it was asked.
watch(
  () => props.dirty,
  (dirty) => {
    if (!dirty) answer(true)
  },
)
onBeforeRouteLeave(mayLeave)
onBeforeRouteUpdate(mayLeave)
if (import.meta.client)
  useEventListener(window, 'beforeunload', (event) => {
    if (props.dirty) event.preventDefault()
  })
onBeforeUnmount(() => answer(true))
// For what replaces the item without another address.
defineExpose({ mayLeave })
</script>

<template>
  <p v-if="elsewhere" class="my-2 rounded-[3px] bg-brick-t px-2.5 py-1" role="alert">
    <slot>Someone else saved another version while you were writing. If you save, yours replaces it.</slot>
    <button type="button" class="word ml-1" @click="emit('take')">Discard mine</button>
  </p>
  <AppDialog v-if="asking" title="Discard changes?" role="alertdialog" @close="answer(false)">
    <p class="mt-2">What you wrote on this page is not saved yet.</p>
    <p class="mt-4 flex flex-wrap gap-2">
      <button type="button" class="button main" data-first @click="answer(false)">Keep editing</button>
      <button type="button" class="button" data-discard @click="answer(true)">Discard changes</button>
    </p>
  </AppDialog>
</template>
