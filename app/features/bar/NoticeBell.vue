<script setup lang="ts">
import { count, figure } from '#core/language/counts'
import { sayInstant } from '#core/time/say'
import { send, attempt } from '~/shared/api/api'
import { onceReady } from '~/shared/onceReady'
import { useCatalogue } from '~/shared/stores/catalogue'
import PopOver from '~/shared/words/PopOver.vue'
import { useLiveQuery } from '~/shared/live/useLiveQuery'
import RefLink from '~/shared/record/RefLink.vue'

const AskedOfYou = onceReady(() => import('./AskedOfYou.vue'))

/** What rules told this person, and what they ask. */
const store = useCatalogue()
const { data, refresh } = await useLiveQuery('/api/v1/notifications', {
  query: { limit: 30 },
  changedBy: ['notices', 'problems', 'tasks'],
})
watch(
  () => store.me?.id,
  () => void refresh(),
)
const open = ref(false)
const unread = computed(() => data.value?.unread ?? 0)
const asked = computed(() => data.value?.asked ?? [])
/** Whatever is new here, or waits. */
const waiting = computed(() => unread.value + asked.value.length)
const said = computed(
  () =>
    `Notifications, ${unread.value === 0 ? 'none' : unread.value} unread${asked.value.length === 0 ? '' : `, ${asked.value.length} waiting for your answer`}`,
)
async function close(): Promise<void> {
  open.value = false
  if (unread.value > 0 && (await attempt(() => send('POST', '/api/v1/notifications/read', { ids: null }))))
    await refresh()
}
</script>

<template>
  <button
    type="button"
    class="rounded-[3px] px-1 py-0.5 hover:bg-paper2"
    data-bell
    :aria-label="said"
    :aria-expanded="open"
    @click="open ? close() : (open = true)"
  >
    <span :class="waiting > 0 && 'max-[1100px]:sr-only'">Notifications</span>
    <span
      v-if="waiting > 0"
      class="ml-0.5 rounded-[3px] bg-moss px-1 text-[11px] font-bold text-paper"
      :data-unread="unread > 0 ? '' : undefined"
      >{{ waiting > 99 ? '99+' : waiting }}</span
    >
  </button>
  <PopOver v-if="open" anchor="[data-bell]" label="Notifications" @close="close">
    <AskedOfYou v-if="asked.length > 0" :asked="asked" @answered="refresh" @leave="close" />
    <p v-if="data && data.problems > 0" class="border-b border-hair p-1 pb-2">
      <span class="mark stop mr-2 scale-75" aria-hidden="true" /><NuxtLink to="/problems" class="word" @click="close">{{
        count(data.problems, 'problem')
      }}</NuxtLink>
    </p>
    <p v-if="data?.notices.length === 0" class="p-1">No notifications yet. Rules notify you here.</p>
    <ul class="overflow-auto" :class="asked.length > 0 ? 'max-h-[30vh]' : 'max-h-[60vh]'" tabindex="0">
      <li v-for="notice in data?.notices ?? []" :key="notice.id" class="border-b border-hair px-1 py-1.5">
        <p class="flex items-baseline gap-2">
          <span
            class="mark people flex-none scale-75"
            :class="notice.read && 'opacity-30'"
            aria-hidden="true"
          /><RefLink :of="notice.ref" class="name-link font-medium" @click="close">{{ notice.subject }}</RefLink>
        </p>
        <p v-if="notice.body" class="ml-5 whitespace-pre-line">{{ notice.body }}</p>
        <details v-if="notice.moreCount > 0" class="ml-5" data-more-notices>
          <summary class="word cursor-pointer">and {{ figure(notice.moreCount) }} more</summary>
          <ul class="max-h-48 overflow-auto">
            <li v-for="one in notice.more" :key="one.runId">
              <RefLink :of="one.ref" class="name-link" @click="close">{{ one.recordName }}</RefLink>
              <span v-if="one.subject !== notice.subject" class="quiet"> {{ one.subject }}</span>
            </li>
          </ul>
          <p v-if="notice.moreCount > notice.more.length" class="quiet">
            Showing {{ notice.more.length }} of {{ figure(notice.moreCount) }}.
            <NuxtLink :to="`/journal?rule=${notice.ruleId}`" class="word" @click="close">Journal</NuxtLink>
          </p>
        </details>
        <p class="quiet ml-5">
          {{ notice.recordName }} · <i class="font-serif">From rule “{{ notice.ruleName }}”</i> ·
          {{ sayInstant(notice.atMs, store.catalogue.workspace.zone) }}
        </p>
      </li>
    </ul>
  </PopOver>
</template>
