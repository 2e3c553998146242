<script setup lang="ts">
import { useNotices, type Notice } from '~/shared/stores/notices'

const notices = useNotices()
/** Where the keyboard was before it came in here, so that closing a message gives it back. */
const before = shallowRef<HTMLElement | null>(null)
function comeIn(event: FocusEvent): void {
  const { relatedTarget, currentTarget } = event
  if (!(currentTarget instanceof Element) || !(relatedTarget instanceof HTMLElement)) return
  if (!currentTarget.contains(relatedTarget)) before.value = relatedTarget
}
async function giveBack(): Promise<void> {
  await nextTick()
  if (document.activeElement !== document.body) return
  if (before.value?.isConnected) before.value.focus()
  else document.querySelector<HTMLElement>('main h1')?.focus()
}
/** The pointer leaves; whoever is in it by keyboard stays. */
function leave({ currentTarget }: PointerEvent, id: number): void {
  notices.hold(id, currentTarget instanceof Element && currentTarget.contains(document.activeElement))
}
function close(id: number): void {
  notices.drop(id)
  void giveBack()
}
function undo(notice: Notice): void {
  notices.undo(notice)
  void giveBack()
}
</script>

<template>
  <div
    class="pointer-events-none fixed right-5 bottom-4 z-50 flex w-[430px] max-w-[calc(100vw-40px)] flex-col gap-1.5"
    role="log"
    aria-live="polite"
    aria-label="Recent messages"
    @focusin="comeIn"
  >
    <div
      v-for="notice in notices.list"
      :key="notice.id"
      class="pop pointer-events-auto flex items-start gap-2.5 px-3 py-2 text-[13px]"
      :class="notice.tone === 'wrong' && 'border-brick'"
      data-notice
      @focusin="notices.hold(notice.id, true)"
      @focusout="notices.hold(notice.id, false)"
      @pointerenter="notices.hold(notice.id, true)"
      @pointerleave="leave($event, notice.id)"
    >
      <span
        class="mark mt-1"
        :class="notice.tone === 'rule' ? 'data' : notice.tone === 'wrong' ? 'stop' : ''"
        aria-hidden="true"
      />
      <div class="min-w-0 flex-1">
        <component
          :is="notice.to ? resolveComponent('NuxtLink') : 'span'"
          :to="notice.to ?? undefined"
          class="font-semibold"
          :class="notice.tone === 'wrong' && 'text-brick'"
          >{{ notice.title }}</component
        >
        <p v-if="notice.text" class="line-clamp-3 text-ink2">{{ notice.text }}</p>
      </div>
      <button v-if="notice.undo" type="button" class="button py-0.5!" @click="undo(notice)">Undo <kbd>U</kbd></button>
      <button type="button" class="px-1 text-ink2" aria-label="Dismiss" @click="close(notice.id)">×</button>
    </div>
  </div>
</template>
