<script setup lang="ts">
import { autoUpdate, flip, offset, shift, useFloating } from '@floating-ui/vue'
import { onClickOutside, useEventListener } from '@vueuse/core'
import { firstFocusable, focusables } from '~/shared/keys/focus'
import { useTypedAhead } from '~/shared/keys/useTypedAhead'

/**
 * A small panel beside the element that a selector finds. It takes the focus once it is in its place, keeps Tab inside,
 * closes on Escape and on a click elsewhere, and gives the focus back to what it belongs to.
 */
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
useTypedAhead(panel)
const inside = (): boolean => panel.value?.contains(document.activeElement) ?? false
/** What is in the panel may still be on its way: the focus goes in as soon as there is something that takes it. */
let coming: MutationObserver | undefined
function takeFocus(): void {
  if (!panel.value || inside()) return
  const first = firstFocusable(panel.value)
  first?.focus()
  // What stands there already is replaced by typing, as in every entry that is come to by Tab.
  if (first instanceof HTMLInputElement && first.type !== 'checkbox' && first.type !== 'radio') first.select()
  if (inside()) {
    coming?.disconnect()
    coming = undefined
  }
}
watch(isPositioned, (placed) => {
  if (!placed || !panel.value) return
  // Editors choose for themselves where to begin; a frame later it is taken care of.
  requestAnimationFrame(() => requestAnimationFrame(takeFocus))
  coming = new MutationObserver(() => requestAnimationFrame(takeFocus))
  coming.observe(panel.value, { childList: true, subtree: true })
  setTimeout(() => coming?.disconnect(), 3000)
})
onMounted(find)
onUpdated(find)
watch(
  () => props.anchor,
  () => void nextTick(find),
)
defineExpose({ find })
onBeforeUnmount(() => {
  coming?.disconnect()
  if (!inside()) return
  const { anchor } = props
  // Whoever closes it may have sent the focus somewhere already.
  requestAnimationFrame(() => {
    if (document.activeElement === document.body) document.querySelector<HTMLElement>(anchor)?.focus()
  })
})
onClickOutside(panel, (event) => {
  if (event.target instanceof Element && event.target.closest(props.anchor)) return
  emit('close', 'outside')
})
useEventListener(
  'keydown',
  (event: KeyboardEvent) => {
    if (event.key === 'Escape') {
      event.preventDefault()
      event.stopPropagation()
      emit('close', 'escape')
    }
    if (event.key === 'Tab' && panel.value && inside()) {
      // A list under an entry would take Tab for a choice: here it only goes on.
      event.stopPropagation()
      const stops = focusables(panel.value)
      const at = stops.findIndex((one) => one === document.activeElement)
      const next = event.shiftKey ? at - 1 : at + 1
      if (at >= 0 && next >= 0 && next < stops.length) return
      event.preventDefault()
      stops[event.shiftKey ? stops.length - 1 : 0]?.focus()
    }
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
      class="pop z-40 max-w-[calc(100vw-16px)] p-2.5 text-[13px]"
      :class="wide ? 'w-[520px]' : 'w-[340px]'"
      :style="[floatingStyles, { visibility: isPositioned ? 'visible' : 'hidden' }]"
    >
      <slot />
    </div>
  </Teleport>
</template>
