<script setup lang="ts">
import type { Breakdown } from '#core/results/figures'
import { FIGURE_WORDS, type ListedFigure } from '#core/results/figure-names'
import { sayInstant } from '#core/time/say'
import { attempt, read } from '~/shared/api/api'
import AppDialog from '~/shared/dialog/AppDialog.vue'
import type { AnswerOf } from '~/shared/live/useLiveQuery'
import RefLink from '~/shared/record/RefLink.vue'
import { useCatalogue } from '~/shared/stores/catalogue'

/** The records behind a figure, a page at a time. */
const props = defineProps<{
  ruleId: number
  figure: ListedFigure
  alone?: boolean
  /** The kind of an answer, the outcome of a call. */
  of?: string
  by?: Breakdown | null
  value?: string
  /** What of it, in words. */
  words?: string
}>()
const emit = defineEmits<{ close: [] }>()
const store = useCatalogue()
type Page = AnswerOf<'/api/v1/rules/:id/results/records'>
const records = ref<Page['records']>([])
const next = ref<string | null>(null)
const loaded = ref(false)
async function more(): Promise<void> {
  const { ruleId, figure, alone = false, of = '', by = null, value = '' } = props
  const query = {
    figure,
    alone: String(alone),
    of,
    ...(by === null ? {} : { by, value }),
    ...(next.value === null ? {} : { cursor: next.value }),
  }
  const page = await attempt(() => read<Page>(`/api/v1/rules/${ruleId}/results/records`, query))
  if (!page) return
  records.value = [...records.value, ...page.records]
  next.value = page.next
  loaded.value = true
}
onMounted(more)
</script>

<template>
  <AppDialog :title="`${FIGURE_WORDS[figure]}${words ? `: ${words}` : ''}`" :width="720" @close="emit('close')">
    <p v-if="loaded && records.length === 0" class="font-serif text-[16px]">No records that you may see.</p>
    <ul class="max-h-[60vh] overflow-auto" tabindex="0" aria-label="Records">
      <li v-for="one in records" :key="one.id" class="flex items-baseline gap-3 border-b border-hair py-1">
        <RefLink :of="one.ref" class="name-link min-w-0 flex-1 truncate">{{ one.name }}</RefLink>
        <span v-if="one.text" class="quiet min-w-0 flex-1 truncate" :title="one.text">{{ one.text }}</span>
        <span class="quiet flex-none">{{ sayInstant(one.reachedAt ?? one.atMs, store.catalogue.workspace.zone) }}</span>
        <NuxtLink v-if="one.runId !== null" :to="`/journal/${one.runId}`" class="word flex-none">Show run</NuxtLink>
      </li>
    </ul>
    <button v-if="next !== null" type="button" class="button mt-3" @click="more">Show more</button>
  </AppDialog>
</template>
