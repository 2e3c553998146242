<script setup lang="ts">
import { dateAt } from '#core/time/dates'
import { sayTime, sayWeekday } from '#core/time/say'
import type { RecordRef } from '#core/records/kinds'
import { send, attempt, read } from '~/shared/api/api'
import { useCatalogue } from '~/shared/stores/catalogue'
import { useLiveQuery } from '~/shared/live/useLiveQuery'
import PopOver from '~/shared/words/PopOver.vue'
import RecordPicker from '~/shared/record/RecordPicker.vue'
import RefLink from '~/shared/record/RefLink.vue'

/** A website that ships with the demo, and beside it what comes of each visit. */
defineProps<{ pages: readonly string[] }>()
const store = useCatalogue()
const zone = computed(() => store.catalogue.workspace.zone)
const changedBy = ['records', 'run'] as const
const { data: told } = await useLiveQuery('/api/v1/activities', { query: { limit: 12 }, changedBy })
const { data: ran } = await useLiveQuery('/api/v1/runs', {
  query: { all: 'true', limit: 12 },
  changedBy,
  key: 'website',
})

interface Line {
  readonly key: string
  readonly atMs: number
  readonly ref: RecordRef
  readonly name: string
  readonly text: string
  readonly run: { readonly id: number; readonly rule: string; readonly category: string | null } | null
}
const lines = computed((): readonly Line[] =>
  [
    ...(told.value?.activities ?? []).map((one): Line => ({
      key: `a${one.id}`,
      atMs: one.atMs,
      ref: one.ref,
      name: one.name,
      text: `${store.catalogue.activities.words(one.kind).did}${one.about ? `: ${one.about}` : ''}`,
      run: null,
    })),
    ...(ran.value?.lines ?? []).map((run): Line => ({
      key: `r${run.id}`,
      atMs: run.lastMs,
      ref: run.ref,
      name: run.recordName,
      text: run.outcome,
      run: { id: run.id, rule: run.ruleName, category: run.category },
    })),
  ]
    .sort((a, b) => b.atMs - a.atMs || b.key.localeCompare(a.key, 'en', { numeric: true }))
    .slice(0, 16),
)

/** The time, and of another day its name. */
const when = (atMs: number): string =>
  `${dateAt(atMs, zone.value) === store.today ? '' : `${sayWeekday(dateAt(atMs, zone.value)).slice(0, 3)} `}${sayTime(atMs, zone.value)}`

const frame = useTemplateRef<HTMLIFrameElement>('frame')
const who = shallowRef<{ readonly name: string } | null>(null)
const choosing = ref(false)
/** Forgets who visited: the key of the simulated website lies beside ours, in this browser. */
function forget(): void {
  localStorage.removeItem('sky-lever-visitor')
  who.value = null
}
function show(path: string): void {
  frame.value?.contentWindow?.location.assign(path)
}
async function visitAs(ref: RecordRef): Promise<void> {
  choosing.value = false
  const link = await attempt(() => read<{ person: string }>(`/api/v1/personal-links/${ref.id}`))
  const record = await attempt(() => read<{ values: { name?: string } }>(`/api/v1/records/contact/${ref.id}`))
  if (!link) return
  forget()
  who.value = { name: record?.values.name ?? `contact ${ref.id}` }
  show(`/website?for=${link.person}`)
}
function visitUnknown(): void {
  forget()
  show('/website')
}
const sending = ref(false)
async function sendVisitors(): Promise<void> {
  sending.value = true
  await attempt(() => send('POST', '/api/v1/simulated-visitors', { visitors: 10 }))
  sending.value = false
}
</script>

<template>
  <section aria-labelledby="simulated-title">
    <div class="flex flex-wrap items-baseline gap-x-3 gap-y-1">
      <h2 id="simulated-title">Simulated website</h2>
      <span class="quiet"
        >Visits as <b class="font-medium text-ink" data-visitor>{{ who?.name ?? 'someone unknown' }}</b></span
      >
      <button type="button" class="button" data-word="visitor/contact" @click="choosing = true">
        Visit as contact…
      </button>
      <button v-if="who" type="button" class="button" @click="visitUnknown">Visit as someone unknown</button>
      <button v-if="store.may('build')" type="button" class="button ml-auto" :disabled="sending" @click="sendVisitors">
        Send 10 visitors
      </button>
    </div>
    <PopOver v-if="choosing" anchor="[data-word='visitor/contact']" label="Contact" @close="choosing = false">
      <RecordPicker
        label="Contact"
        placeholder="Search contacts"
        :fits="(ref) => ref.object === 'contact'"
        :hint="() => ''"
        @pick="visitAs"
      />
    </PopOver>
    <div class="mt-2 grid grid-cols-[minmax(0,1.1fr)_minmax(0,1fr)] gap-5 max-[899px]:grid-cols-1">
      <iframe
        ref="frame"
        src="/website"
        title="Simulated website"
        class="h-[430px] w-full rounded-[4px] border border-hair bg-white"
      />
      <div class="min-w-0">
        <h3>What comes of it</h3>
        <p v-if="lines.length === 0" class="quiet">Nothing yet. Open a page on the left.</p>
        <div v-else class="overflow-x-auto" tabindex="0" role="region" aria-label="What comes of it">
          <table class="list mt-1 table-fixed" data-effects aria-label="What comes of it">
            <tbody>
              <tr v-for="line in lines" :key="line.key">
                <td class="w-22 text-ink2">{{ when(line.atMs) }}</td>
                <td class="w-[30%] truncate">
                  <RefLink :of="line.ref" class="name-link" :title="line.name">{{ line.name }}</RefLink>
                </td>
                <td class="truncate" :title="line.text">
                  <template v-if="line.run"
                    ><span class="mark mr-1.5 scale-75" :class="line.run.category" aria-hidden="true" /><NuxtLink
                      :to="`/journal/${line.run.id}`"
                      class="name-link font-medium"
                      >{{ line.run.rule }}</NuxtLink
                    >: {{ line.text }}</template
                  ><span v-else class="text-slate">{{ line.text }}</span>
                </td>
              </tr>
            </tbody>
          </table>
        </div>
      </div>
    </div>
  </section>
</template>
