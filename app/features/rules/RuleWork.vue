<script setup lang="ts">
import { count, figure, plural } from '#core/language/counts'
import { sayInstant } from '#core/time/say'
import { send, attempt } from '~/shared/api/api'
import { useCatalogue } from '~/shared/stores/catalogue'
import { useLiveQuery } from '~/shared/live/useLiveQuery'

/** Work of the rule over many records, whether it is paused, and taking back what it did. */
const props = defineProps<{ ruleId: number; editable: boolean }>()
const store = useCatalogue()
const zone = computed(() => store.catalogue.workspace.zone)
/** How far it has come, told while it goes on. */
const heard = ref<Readonly<Record<number, { readonly done: number; readonly total: number }>>>({})
const { data, refresh } = await useLiveQuery('/api/v1/rules/:id/jobs', {
  params: () => ({ id: props.ruleId }),
  changedBy(message) {
    if (message.about === 'rules') return true
    if (message.about !== 'jobs' || message.ruleId !== props.ruleId) return false
    heard.value = { ...heard.value, [message.id]: message }
    return message.state !== 'running'
  },
})
const paused = computed(() => data.value?.paused ?? null)
const whyPaused = computed(() => {
  if (!paused.value) return ''
  const { starts, usual, messages } = paused.value
  return messages === null
    ? `${count(starts, 'run')} in one hour, usually ${usual < 1 ? 'less than 1' : figure(Math.round(usual))}`
    : `${count(messages, 'message')} in one hour, as many as a rule may send. The others wait until you resume it`
})
const shown = computed(() =>
  (data.value?.jobs ?? [])
    .filter((job, i) => job.state !== 'done' || (i === 0 && closed.value !== job.id))
    .map((job) => ({ ...job, done: Math.max(job.done, heard.value[job.id]?.done ?? 0) })),
)
const closed = ref<number | null>(null)
const WORDS = {
  backfill: 'Running for existing records',
  hand: 'Running by hand',
  undo: 'Undoing',
  held: 'Running what was held back',
} as const
const n = (count: number): string => count.toLocaleString('en')
async function act(id: number, what: 'stop' | 'continue'): Promise<void> {
  await attempt(() => send('POST', `/api/v1/rule-jobs/${id}`, { act: what }))
  await refresh()
}
async function goOn(what: 'continue' | 'drop'): Promise<void> {
  await attempt(() => send('POST', `/api/v1/rules/${props.ruleId}/pause`, { act: what }))
  await refresh()
}
</script>

<template>
  <div>
    <section v-if="paused" class="mb-3 rounded-[3px] bg-brick-t px-3 py-2" role="alert" aria-label="Paused">
      <p class="font-medium text-brick"><span class="mark stop mr-2" aria-hidden="true" />Paused: {{ whyPaused }}.</p>
      <p class="mt-0.5">
        {{ sayInstant(paused.atMs, zone) }}.
        {{
          paused.held === 0
            ? 'Nothing has triggered it since.'
            : `${count(paused.held, 'run')} ${plural(paused.held, 'has', 'have')} been held back since.`
        }}
      </p>
      <p v-if="editable" class="mt-2 flex flex-wrap gap-2">
        <button type="button" class="button main" @click="goOn('continue')">
          {{ paused.held > 0 ? `Resume and run the ${figure(paused.held)}` : 'Resume' }}</button><button
          v-if="paused.held > 0"
          type="button"
          class="button"
          @click="goOn('drop')"
        >
          Resume without them
        </button>
      </p>
    </section>
    <section
      v-for="job in shown"
      :key="job.id"
      class="mb-3 rounded-[3px] bg-paper2 px-3 py-2 text-[13.5px]"
      :aria-label="WORDS[job.what]"
      data-job
    >
      <p class="flex flex-wrap items-baseline gap-x-3">
        <b class="font-semibold">{{ WORDS[job.what] }}</b><span aria-live="polite" data-job-state
          >{{ job.state === 'done' ? 'Done' : job.state === 'stopped' ? 'Stopped' : 'Running' }}: {{ n(job.done) }} of
          {{ n(job.total) }}</span
        ><span class="quiet">{{ job.person }}, {{ sayInstant(job.createdAt, zone) }}</span>
        <span class="ml-auto flex gap-2"
          ><button
            v-if="editable && job.state === 'running'"
            type="button"
            class="button py-0.5!"
            @click="act(job.id, 'stop')"
          >
            Stop</button
          ><button
            v-if="editable && job.state === 'stopped'"
            type="button"
            class="button py-0.5!"
            @click="act(job.id, 'continue')"
          >
            Continue</button
          ><button
            v-if="job.state === 'done'"
            type="button"
            class="quiet px-1"
            aria-label="Dismiss"
            @click="closed = job.id"
          >
            ×
          </button></span
        >
      </p>
      <progress
        v-if="job.state !== 'done'"
        class="mt-1 h-1.5 w-full"
        :value="job.done"
        :max="Math.max(1, job.total)"
        :aria-label="WORDS[job.what]"
      />
      <details v-if="job.left.length > 0" class="mt-1">
        <summary class="word">{{ count(job.left.length, 'change') }} could not be undone</summary>
        <ul class="max-h-40 overflow-auto">
          <li v-for="(line, i) in job.left" :key="i">{{ line }}</li>
        </ul>
      </details>
    </section>
  </div>
</template>
