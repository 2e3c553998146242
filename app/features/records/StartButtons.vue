<script setup lang="ts">
import type { Value } from '#core/language/value'
import type { RecordRef } from '#core/records/kinds'
import { send, attempt } from '~/shared/api/api'
import { once } from '~/shared/api/once'
import { useNotices } from '~/shared/stores/notices'
import PopOver from '~/shared/words/PopOver.vue'
import StartForm from './StartForm.vue'
import { useLiveQuery } from '~/shared/live/useLiveQuery'

/** The rules that can be started by hand for this record. */
const props = defineProps<{
  to: RecordRef
  /** Counts its changes: which rules can run hangs on what it holds. */
  version: number
}>()
const emit = defineEmits<{ changed: [] }>()
const path = computed(() => `/api/v1/records/${props.to.object}/${props.to.id}/manual-runs`)
const { data, refresh } = await useLiveQuery('/api/v1/records/:object/:id/manual-runs', {
  params: () => props.to,
  changedBy: ['rules'],
})
watch(
  () => props.version,
  () => void refresh(),
)
const open = ref<number | null>(null)
/** One whose rule would keep this record out is of no use here; “Rules and why” says which condition it is. */
const shown = computed(() =>
  (data.value?.buttons ?? [])
    .map((one, at) => ({ one, at }))
    .filter(({ one, at }) => one.keeps === null || at === open.value),
)
const start = computed(() => (open.value === null ? null : (data.value?.buttons[open.value] ?? null)))
async function press(at: number): Promise<void> {
  open.value = open.value === at ? null : at
  // What it shows is that of now.
  if (open.value !== null) await refresh()
}
const go = once(async (answers: Record<string, Value>): Promise<void> => {
  const one = start.value
  if (!one) return
  const answer = await attempt(() =>
    send<{ run: number | null; state: string | null; text: string }>('POST', path.value, {
      rule: one.ruleId,
      trigger: one.trigger,
      answers,
    }),
  )
  if (!answer) return
  open.value = null
  useNotices().tell({ tone: answer.state === 'failed' ? 'wrong' : 'rule', title: one.button, text: answer.text })
  await refresh()
  emit('changed')
})
</script>

<template>
  <p v-if="shown.length > 0" class="mb-2 flex flex-wrap gap-2" aria-label="Actions by rule">
    <button
      v-for="{ one, at } in shown"
      :key="`${one.ruleId} ${one.trigger}`"
      type="button"
      class="button py-1!"
      :data-start="at"
      :aria-expanded="open === at"
      @click="press(at)"
    >
      {{ one.button }}
    </button>
    <PopOver v-if="start" :anchor="`[data-start='${open}']`" :label="start.button" @close="open = null"
      ><StartForm
        :key="start.ruleId"
        :start="start"
        :object="to.object"
        :act="start.button"
        @go="go"
        @close="open = null"
    /></PopOver>
  </p>
</template>
