<script setup lang="ts">
import { useNotices } from '~/shared/stores/notices'

const notices = useNotices()
</script>

<template>
  <div
    class="pointer-events-none fixed right-5 bottom-4 z-50 flex w-[430px] flex-col gap-1.5"
    role="log"
    aria-live="polite"
    aria-label="Recent messages"
  >
    <div
      v-for="notice in notices.list"
      :key="notice.id"
      class="pop pointer-events-auto flex items-start gap-2.5 px-3 py-2 text-[13px]"
      :class="notice.tone === 'wrong' && 'border-brick'"
      data-notice
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
      <button v-if="notice.undo" type="button" class="button py-0.5!" @click="notices.undo(notice)">
        Undo <kbd>U</kbd>
      </button>
      <button type="button" class="px-1 text-ink2" aria-label="Dismiss" @click="notices.drop(notice.id)">×</button>
    </div>
  </div>
</template>
