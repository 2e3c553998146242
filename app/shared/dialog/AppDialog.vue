<script setup lang="ts">
import { Dialog, DialogPanel } from '@headlessui/vue'

/**
 * A question that has to be answered before anything else: over the page, with the focus kept inside, closed by Escape.
 * The focus goes to what is marked with `data-first`, else to the first thing that takes it. A press beside it closes
 * it as well, but for what somebody has typed into it: that takes Escape or a button.
 */
withDefaults(
  defineProps<{
    title: string
    /** What screen readers call it, where the title alone does not say it. */
    label?: string
    role?: 'dialog' | 'alertdialog'
    /** In pixels; a narrow window takes less. */
    width?: number
    /** It goes on filling while it stands: then its lower edge stays where it is, and with it the buttons there. */
    filling?: boolean
  }>(),
  { label: undefined, role: 'dialog', width: 440, filling: false },
)
const emit = defineEmits<{ close: [] }>()
const body = useTemplateRef<HTMLElement>('body')
/**
 * Known before Headless UI sets the focus: were it moved a frame later, a key pressed in between would press the button
 * before it, and that may be the one that deletes.
 */
const first = shallowRef<HTMLElement | null>(null)
watch(
  body,
  (el) => {
    first.value = el?.querySelector<HTMLElement>('[data-first]') ?? null
    first.value?.focus()
  },
  { flush: 'sync' },
)
/** Whether something was typed into it, and whether the last press was beside it. */
const now = { typed: false, beside: false }
function close(): void {
  if (!(now.typed && now.beside)) emit('close')
}
onMounted(() => requestAnimationFrame(() => first.value?.focus()))
</script>

<template>
  <Dialog
    :open="true"
    :role="role"
    :aria-label="label ?? title"
    :initial-focus="first"
    class="relative z-50"
    @close="close"
    @keydown.capture="now.beside = false"
    @pointerdown.capture="now.beside = !body?.contains($event.target as Node)"
    @input="now.typed = true"
  >
    <div class="fixed inset-0 bg-black/25" aria-hidden="true" />
    <div
      class="fixed inset-0 grid grid-cols-[minmax(0,1fr)] justify-items-center overflow-auto p-4"
      :class="filling ? 'items-end pb-[max(1rem,12vh)]' : 'items-center'"
    >
      <DialogPanel class="pop max-h-full max-w-full overflow-auto p-5" :style="{ width: `${width}px` }">
        <div ref="body">
          <h2>{{ title }}</h2>
          <slot />
        </div>
      </DialogPanel>
    </div>
  </Dialog>
</template>
