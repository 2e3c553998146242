<script setup lang="ts">
import { count } from '#core/language/counts'
import { sayTime, sayWeekday } from '#core/time/say'
import { dateAt } from '#core/time/dates'
import type { JournalLine } from '~~/server/views/journal'
import { read, send, attempt } from '~/shared/api/api'
import { useCatalogue } from '~/shared/stores/catalogue'
import { useNotices } from '~/shared/stores/notices'
import { STATE_WORDS } from '~/shared/run/tones'
import { useLineKeys } from '~/shared/keys/useLineKeys'
import MarkLegend from '~/shared/run/MarkLegend.vue'
import { useLiveQuery } from '~/shared/live/useLiveQuery'
import { useQueryChange } from '~/shared/useQueryChange'
import RefLink from '~/shared/record/RefLink.vue'

useHead({ title: 'Journal' })
const route = useRoute()
const store = useCatalogue()
const query = computed(() => ({
  rule: route.query.rule,
  state: route.query.state,
  bundle: route.query.bundle,
  all: route.query.all === 'true' ? 'true' : 'false',
}))
const { data, refresh } = await useLiveQuery('/api/v1/runs', { query, changedBy: ['run', 'records'] })
const { data: rules } = await useLiveQuery('/api/v1/rules')
const older = shallowRef<readonly JournalLine[]>([])
const next = ref(data.value?.next ?? null)
watch(data, (now) => {
  older.value = []
  next.value = now?.next ?? null
})
const lines = computed(() => [...(data.value?.lines ?? []), ...older.value])
async function more(): Promise<void> {
  const page = await attempt(() =>
    read<{ lines: readonly JournalLine[]; next: string | null }>('/api/v1/runs', {
      ...query.value,
      cursor: next.value,
    }),
  )
  if (!page) return
  older.value = [...older.value, ...page.lines]
  next.value = page.next
}
const trying = ref(false)
async function retry(): Promise<void> {
  trying.value = true
  const answer = await attempt(() =>
    send<{ done: number; failed: number; left: number }>('POST', '/api/v1/run-retries', {
      ids: lines.value.slice(0, 200).map((line) => line.id),
    }),
  )
  trying.value = false
  if (!answer) return
  useNotices().tell({
    tone: answer.failed > 0 ? 'wrong' : 'rule',
    title: `${count(answer.done, 'run')} completed`,
    text: answer.failed > 0 ? `${answer.failed} failed again` : '',
  })
  await refresh()
}
const zone = computed(() => store.catalogue.workspace.zone)
const put = useQueryChange()
const set = (key: string, value: string) => put({ [key]: value })
const MARKS = [
  ['data', 'Changed data'],
  ['people', 'Task or notification'],
  ['outside', 'Email'],
  ['time', 'Waiting'],
  ['', 'Stopped'],
  ['stop', 'Failed'],
] as const
const list = useTemplateRef<HTMLElement>('list')
useLineKeys(list, 'tbody tr')
const day = (atMs: number): string => sayWeekday(dateAt(atMs, zone.value))
</script>

<template>
  <div class="relative h-full overflow-auto px-8 pt-4 pb-12" tabindex="0">
    <div class="flex flex-wrap items-baseline gap-x-4 gap-y-1">
      <h1>Journal</h1>
      <p v-if="route.query.bundle" class="quiet">
        Missed on the same day ·
        <button type="button" class="name-link" @click="set('bundle', '')">Show all runs</button>
      </p>
      <p v-else class="quiet">All runs, newest first</p>
      <select
        class="entry ml-auto max-w-72 max-sm:ml-0"
        aria-label="Rule"
        :value="String(route.query.rule ?? '')"
        @change="set('rule', ($event.target as HTMLSelectElement).value)"
      >
        <option value="">All rules</option>
        <option v-for="rule in rules?.rules ?? []" :key="rule.id" :value="String(rule.id)">{{ rule.name }}</option>
      </select>
      <select
        class="entry"
        aria-label="Result"
        :value="String(route.query.state ?? '')"
        @change="set('state', ($event.target as HTMLSelectElement).value)"
      >
        <option value="">All results</option>
        <option v-for="state in ['done', 'failed', 'stopped']" :key="state" :value="state">
          {{ STATE_WORDS[state] }}
        </option>
      </select>
      <label class="flex items-center gap-1.5"
        ><input
          type="checkbox"
          :checked="route.query.all === 'true'"
          @change="set('all', ($event.target as HTMLInputElement).checked ? 'true' : '')"
        />
        Include runs stopped by conditions</label
      >
    </div>
    <p
      v-if="route.query.state === 'failed' && lines.length > 0 && store.may('build')"
      class="mt-2 flex items-baseline gap-3"
    >
      <button type="button" class="button" :disabled="trying" @click="retry">
        {{ lines.length === 1 ? 'Retry this run' : `Retry ${Math.min(lines.length, 200)} runs` }}</button><span
        class="quiet"
        >Each run continues from the failed step. Completed steps are not repeated.</span
      >
    </p>
    <MarkLegend v-if="lines.length" :marks="MARKS" class="mt-2" />
    <table v-if="lines.length" ref="list" class="list mt-1 table-fixed" aria-label="Runs">
      <thead>
        <tr>
          <th class="w-[132px]">Time</th>
          <th class="w-[17%]">Rule</th>
          <th class="w-[19%]">Record</th>
          <th class="w-[21%]">Trigger</th>
          <th>Result</th>
        </tr>
      </thead>
      <tbody>
        <tr v-for="(line, i) in lines" :key="line.id" :class="line.state === 'stopped' && 'text-ink2'">
          <td class="text-right whitespace-nowrap text-ink2">
            <b
              v-if="i === 0 || day(line.lastMs) !== day(lines[i - 1]!.lastMs)"
              class="float-left font-semibold text-ink"
              >{{ day(line.lastMs) }}</b><span v-else class="sr-only">{{ day(line.lastMs) }}, </span
            >{{ sayTime(line.lastMs, zone) }}
          </td>
          <td class="truncate">
            <NuxtLink :to="`/journal/${line.id}`" class="name-link font-medium">{{ line.ruleName }}</NuxtLink>
          </td>
          <td class="truncate">
            <RefLink :of="line.ref" class="name-link" :title="line.recordName">{{ line.recordName }}</RefLink>
          </td>
          <td
            class="truncate align-baseline! font-serif text-[14.5px] leading-[19px] text-ink2 italic"
            :title="day(line.atMs) === day(line.lastMs) ? line.because : `${day(line.atMs)}: ${line.because}`"
          >
            <span v-if="day(line.atMs) !== day(line.lastMs)" class="mr-1 font-sans text-[13px] not-italic"
              >{{ day(line.atMs) }}:</span
            >{{ ` ${line.because}` }}
          </td>
          <td class="truncate" :class="line.state === 'failed' && 'text-brick'" :title="line.outcome">
            <span class="mark mr-2 scale-75" :class="line.category" aria-hidden="true" /><span class="sr-only"
              >{{ line.state }}: </span
            ><NuxtLink v-if="line.more > 0" :to="{ query: { ...route.query, bundle: line.id } }" class="name-link"
              >{{ count(line.more + 1, 'run') }}: </NuxtLink
            >{{ line.outcome }}
          </td>
        </tr>
      </tbody>
    </table>
    <p v-else class="mt-16 text-center font-serif text-[20px]">
      No runs match. <NuxtLink to="/rules" class="word">Switch a rule on</NuxtLink> and change a record it applies to.
    </p>
    <button v-if="next" type="button" class="button mt-4" @click="more">Show older runs</button>
  </div>
</template>
