<script setup lang="ts">
import { autoUpdate, flip, offset, shift, useFloating } from '@floating-ui/vue'
import { onClickOutside, useEventListener } from '@vueuse/core'

/** A small panel beside the element that a selector finds. It closes on Escape and on a click elsewhere. */
const props = defineProps<{ anchor: string; label: string; wide?: boolean }>()
const emit = defineEmits<{ close: [why: 'escape' | 'outside'] }>()
const reference = shallowRef<Element | null>(null)
const panel = shallowRef<HTMLElement | null>(null)
const { floatingStyles, isPositioned } = useFloating(reference, panel, {
  placement: 'bottom-start',
  strategy: 'fixed',
  transform: false,
  middleware: [offset(6), flip({ padding: 8 }), shift({ padding: 8 })],
  whileElementsMounted: autoUpdate,
})
// The sentence is drawn anew while its popover is open: the words are looked up again, never held on to.
function find(): void {
  reference.value = document.querySelector(props.anchor)
}
onMounted(find)
onUpdated(find)
watch(
  () => props.anchor,
  () => void nextTick(find),
)
defineExpose({ find })
onClickOutside(panel, (event) => {
  if (event.target instanceof Element && event.target.closest(props.anchor)) return
  emit('close', 'outside')
})
useEventListener(
  'keydown',
  (event: KeyboardEvent) => {
    if (event.key !== 'Escape') return
    event.preventDefault()
    event.stopPropagation()
    emit('close', 'escape')
  },
  { capture: true },
)
</script>

<template>
  <Teleport to="body">
    <div
      ref="panel"
      role="dialog"
      :aria-label="label"
      data-pop
      class="pop z-40 p-2.5 text-[13px]"
      :class="wide ? 'w-[520px]' : 'w-[340px]'"
      :style="[floatingStyles, { visibility: isPositioned ? 'visible' : 'hidden' }]"
    >
      <slot />
    </div>
  </Teleport>
</template>
