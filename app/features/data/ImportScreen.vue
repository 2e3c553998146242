<script setup lang="ts">
import { count, nounOf } from '#core/language/counts'
import type { ImportProgress } from '~~/server/engine/live'
import {
  importFields,
  keyFields,
  OTHER_TARGETS,
  USUAL_KEYS,
  type ImportMapping,
  type Target,
} from '#core/formats/csv/import'
import { OBJECT_WORDS, OBJECTS } from '#core/records/kinds'
import { objectPath } from '~/shared/paths'
import { send, attempt } from '~/shared/api/api'
import { once } from '~/shared/api/once'
import { useCatalogue } from '~/shared/stores/catalogue'
import TabRow from '~/shared/tabs/TabRow.vue'
import ImportMissing from './ImportMissing.vue'
import { useLiveQuery, orFail } from '~/shared/live/useLiveQuery'

const route = useRoute()
const store = useCatalogue()
const id = Number(route.params.id)
const progress = ref<ImportProgress | null>(null)
const { data: row, refresh } = await orFail(
  useLiveQuery('/api/v1/imports/:id', {
    params: { id },
    changedBy(message): boolean {
      if (message.about !== 'imports' || message.id !== id) return false
      progress.value = message.progress ?? null
      return !message.progress || row.value.state === 'ready'
    },
  }),
  `Import ${id} does not exist.`,
)
const preview = computed(() => row.value.preview)
useHead({ title: () => row.value.fileName })
const share = computed(() =>
  progress.value && progress.value.total > 0 ? Math.floor((100 * progress.value.row) / progress.value.total) : null,
)
const left = (seconds: number): string =>
  seconds < 90
    ? `about ${count(Math.max(1, Math.round(seconds)), 'second')} left`
    : `about ${count(Math.round(seconds / 60), 'minute')} left`

const rulesOn = ref(true)
const busy = ref(false)
const show = ref<'refused' | 'changed' | 'new' | 'same'>('refused')
const told = computed(() => preview.value?.counts ?? row.value.counts)
// While a run begins, the server has neither: what was counted before stays in view, with its Stop.
const kept = shallowRef(told.value)
watch(
  told,
  (now) => {
    if (now) kept.value = now
  },
  { flush: 'sync' },
)
const counts = computed(() => told.value ?? kept.value)
const tabs = computed(() =>
  (['refused', 'changed', 'new', 'same'] as const).filter((verdict) => (counts.value?.[verdict] ?? 0) > 0),
)
const tabRow = computed(() =>
  tabs.value.map((verdict) => [verdict, `${VERDICT_WORDS[verdict]} ${counts.value?.[verdict] ?? 0}`] as const),
)
watch(
  tabs,
  (now) => {
    if (!now.includes(show.value)) show.value = now[0] ?? 'new'
  },
  { immediate: true },
)
const VERDICT_WORDS = { refused: 'Rejected', changed: 'Changed', new: 'New', same: 'Unchanged' } as const
const rows = computed(() => (preview.value?.rows ?? []).filter((one) => one.verdict === show.value))

const OTHER_WORDS = {
  id: 'Sky Lever ID',
  company: 'Company (by name)',
  contact: 'Contact (by name)',
  contactEmail: 'Contact (by email)',
} as const
const object = computed(() => row.value.mapping.object)
const words = computed(() => OBJECT_WORDS[object.value])
const fieldLabel = (key: string): string => store.catalogue.field(object.value, key)?.label.toLowerCase() ?? key
const usual = computed(() =>
  USUAL_KEYS[object.value]
    .filter((key) => store.catalogue.field(object.value, key))
    .map((key) => (key === 'name' && object.value !== 'company' ? 'name and company' : fieldLabel(key)))
    .join(', else '),
)
const options = computed(() => [
  { value: 'skip', label: 'Do not import' },
  ...OTHER_TARGETS[object.value].map((to) => ({ value: to as string, label: OTHER_WORDS[to] })),
  ...importFields(object.value, store.catalogue).map((field) => ({
    value: `field:${field.key}`,
    label: `${words.value.One}: ${field.label}`,
  })),
])
const toText = (target: Target | undefined): string =>
  !target ? 'skip' : target.to === 'field' ? `field:${target.field}` : target.to
const toTarget = (text: string): Target =>
  text.startsWith('field:') ? { to: 'field', field: text.slice(6) } : { to: text as Exclude<Target['to'], 'field'> }
async function map(change: Partial<ImportMapping>): Promise<void> {
  await attempt(() => send('PUT', `/api/v1/imports/${id}/mapping`, { ...row.value.mapping, ...change }))
  await refresh()
}
/** Columns that were sent nowhere on purpose, so that no field is offered for them unasked. */
const skipped = reactive(new Set<number>())
const isMissing = computed(() => Object.values(preview.value?.missing ?? {}).some((some) => some.length > 0))
function mapColumn(column: number, text: string): Promise<void> {
  if (text === 'skip') skipped.add(column)
  else skipped.delete(column)
  return map({
    targets: (preview.value?.headings ?? []).map((_, i) =>
      i === column ? toTarget(text) : (row.value.mapping.targets[i] ?? { to: 'skip' }),
    ),
  })
}
const bring = once(async (): Promise<void> => {
  busy.value = true
  await attempt(() => send('POST', `/api/v1/imports/${id}/run`, { rulesOn: rulesOn.value }))
  await refresh()
  busy.value = false
})
async function halt(): Promise<void> {
  await attempt(() => send('POST', `/api/v1/imports/${id}/stop`))
  await refresh()
}
const delimiterWord = computed(
  () =>
    (({ ';': 'semicolons', ',': 'commas', '\t': 'tabs', '|': 'bars' }) as Readonly<Record<string, string>>)[
      preview.value?.delimiter ?? ','
    ] ?? 'commas',
)
const changesOf = (one: {
  changes: readonly { field: string; old: unknown; new: unknown }[]
  values: Readonly<Record<string, unknown>>
}): string =>
  one.changes
    .map((change) => {
      const field = store.catalogue.field(object.value, change.field)
      return field
        ? `${field.label.toLowerCase()}: ${store.show(change.old as string, field) || 'empty'} → ${store.show(change.new as string, field) || 'empty'}`
        : ''
    })
    .join('; ')
type Named = { name: string; id: number | null } | null
const summaryOf = (one: { values: Readonly<Record<string, unknown>>; company: Named; contact: Named }): string =>
  [
    ...Object.entries(one.values)
      .filter(([key, value]) => key !== 'name' && value !== null)
      .slice(0, 3)
      .map(([key, value]) => {
        const field = store.catalogue.field(object.value, key)
        return field ? store.show(value as string, field, one.values as Record<string, string>) : ''
      }),
    ...[one.company, one.contact].map((named) => named && `${named.name}${named.id === null ? ' (new)' : ''}`),
  ]
    .filter(Boolean)
    .join(' · ')
const sum = computed(() => (counts.value ? counts.value.new + counts.value.changed : 0))
</script>

<template>
  <div class="relative h-full overflow-auto px-8 pt-4 pb-12" tabindex="0">
    <p class="quiet"><NuxtLink to="/data" class="name-link">Data</NuxtLink></p>
    <h1>{{ row.fileName }}</h1>
    <div v-if="counts" class="mt-3 flex flex-wrap items-end gap-8 text-[13px] text-ink2" aria-live="polite" data-counts>
      <div
        v-for="[key, label] in [
          ['new', 'new'],
          ['changed', 'changed'],
          ['same', 'unchanged'],
          ['refused', 'rejected'],
        ] as const"
        :key="key"
        :class="key === 'refused' && counts.refused > 0 && 'text-brick'"
      >
        <b
          class="block font-serif text-[26px] leading-none font-medium"
          :class="key === 'refused' && counts.refused > 0 ? 'text-brick' : 'text-ink'"
          >{{ counts[key].toLocaleString('en') }}</b>{{ label }}
      </div>
      <p v-if="object !== 'company'" class="quiet">
        plus {{ counts.companies }} new {{ nounOf(counts.companies, 'company')
        }}<template v-if="object === 'deal'">
          and {{ counts.contacts }} new {{ nounOf(counts.contacts, 'contact') }}</template
        >
      </p>
      <div v-if="row.state === 'ready'" class="ml-auto flex items-center gap-3">
        <label class="flex items-center gap-1.5 text-ink"
          ><input v-model="rulesOn" type="checkbox" /> Run rules for these changes</label
        >
        <button
          type="button"
          class="button main"
          :disabled="busy || sum === 0 || (preview?.mappingProblems.length ?? 0) > 0"
          data-bring
          @click="bring"
        >
          Import {{ count(sum, object) }}
        </button>
      </div>
      <div v-else class="ml-auto flex items-center gap-3">
        <p class="font-serif text-[17px] text-ink" data-state>
          {{ row.state === 'running' ? 'Running' : row.state === 'stopped' ? 'Stopped' : 'Imported' }}
          <span class="quiet">{{ row.rulesOn ? 'Rules: on' : 'Rules: off' }}</span>
        </p>
        <button v-if="row.state === 'running'" type="button" class="button" data-stop @click="halt">Stop</button>
        <button v-if="row.state === 'stopped'" type="button" class="button main" data-go-on @click="bring">
          Continue
        </button>
      </div>
    </div>

    <div v-if="row.state === 'running' || row.state === 'stopped'" class="mt-4">
      <div
        class="h-2 bg-paper2"
        role="progressbar"
        aria-label="Import progress"
        :aria-valuenow="share ?? undefined"
        aria-valuemin="0"
        aria-valuemax="100"
      >
        <div class="h-2 bg-saffron" :style="{ width: `${share ?? 0}%` }" />
      </div>
      <p class="quiet mt-1" data-progress>
        {{
          progress && share !== null
            ? `${share}%, row ${progress.row.toLocaleString('en')} of ${progress.total.toLocaleString('en')}`
            : `row ${row.position.toLocaleString('en')}`
        }}<template v-if="progress && row.state === 'running'">
          · {{ Math.round(progress.perSecond).toLocaleString('en') }} rows per second ·
          {{ left(progress.leftSeconds) }}</template
        >
      </p>
    </div>

    <template v-if="preview">
      <p
        v-for="problem in preview.mappingProblems"
        :key="problem.heading + problem.text"
        class="mt-3 rounded-[3px] bg-brick-t px-3 py-1.5 text-brick"
        role="alert"
      >
        <span class="mark stop mr-2" aria-hidden="true" /><b v-if="problem.heading">{{ problem.heading }}: </b
        >{{ problem.text }}
      </p>
      <ImportMissing
        v-if="isMissing"
        :import-id="id"
        :object="object"
        :missing="preview.missing"
        :skipped="skipped"
        @made="refresh"
      />
      <section class="mt-5" aria-label="Columns">
        <div class="flex items-baseline gap-4">
          <h2>Columns</h2>
          <p class="quiet">
            Separated by {{ delimiterWord }}. Columns were matched automatically; change them if needed.
          </p>
        </div>
        <div class="mt-1 flex flex-wrap items-baseline gap-x-5 gap-y-1">
          <label class="quiet"
            >Rows are
            <select
              class="entry py-0.5!"
              :value="object"
              data-object
              @change="map({ object: ($event.target as HTMLSelectElement).value as typeof object })"
            >
              <option v-for="one in OBJECTS" :key="one" :value="one">{{ OBJECT_WORDS[one].Many }}</option>
            </select></label
          >
          <label class="quiet"
            >Match existing by
            <select
              class="entry max-w-[260px] py-0.5!"
              :value="row.mapping.knownBy ?? ''"
              data-known-by
              @change="map({ knownBy: ($event.target as HTMLSelectElement).value || null })"
            >
              <option value="">{{ usual }}</option>
              <option v-for="field in keyFields(object, store.catalogue)" :key="field.key" :value="field.key">
                {{ field.label }} only
              </option>
            </select></label
          >
          <label class="quiet ml-auto"
            >Decimals
            <select
              class="entry py-0.5!"
              :value="row.mapping.decimal"
              @change="map({ decimal: ($event.target as HTMLSelectElement).value as 'comma' })"
            >
              <option value="point">1,234.50</option>
              <option value="comma">1.234,50</option>
            </select></label
          >
          <label class="quiet"
            >Dates like 3/4
            <select
              class="entry py-0.5!"
              :value="row.mapping.dateOrder"
              @change="map({ dateOrder: ($event.target as HTMLSelectElement).value as 'dayFirst' })"
            >
              <option value="dayFirst">Day first</option>
              <option value="monthFirst">Month first</option>
            </select></label
          >
        </div>
        <div class="mt-2 overflow-x-auto" tabindex="0" role="region" aria-label="Columns of the file">
          <table class="list" aria-label="Columns of the file">
            <thead>
              <tr>
                <th v-for="(heading, i) in preview.headings" :key="i" class="max-w-[190px] align-bottom">
                  <span class="block truncate font-serif text-[15px] text-ink italic">{{
                    heading || '(no column name)'
                  }}</span>
                  <select
                    class="entry mt-1 w-[160px] py-0.5!"
                    :aria-label="`Target of column ${heading}`"
                    :value="toText(row.mapping.targets[i])"
                    @change="mapColumn(i, ($event.target as HTMLSelectElement).value)"
                  >
                    <option v-for="option in options" :key="option.value" :value="option.value">
                      {{ option.label }}
                    </option>
                  </select>
                </th>
              </tr>
            </thead>
            <tbody>
              <tr v-for="(cells, r) in preview.sample" :key="r" class="text-ink2">
                <td v-for="(cell, i) in cells" :key="i" class="max-w-[190px] truncate">{{ cell.slice(0, 200) }}</td>
              </tr>
            </tbody>
          </table>
        </div>
      </section>
      <section v-if="tabs.length" class="mt-6" aria-label="Rows">
        <TabRow v-model="show" :tabs="tabRow" label="Rows" class="border-b border-hair" />
        <table class="list mt-2" aria-label="Rows">
          <thead class="sr-only">
            <tr>
              <th scope="col">Row of the file</th>
              <th scope="col">Name</th>
              <th scope="col">What the import does</th>
            </tr>
          </thead>
          <tbody>
            <tr v-for="one in rows" :key="one.row">
              <td class="num w-16 text-ink2">Row {{ one.row }}</td>
              <td class="w-[30%]">{{ String(one.values.name ?? '').slice(0, 120) || '—' }}</td>
              <td v-if="one.verdict === 'refused'" class="text-brick">
                <span v-for="problem in one.problems" :key="problem.heading + problem.text" class="block"
                  ><b v-if="problem.heading">{{ problem.heading }}: </b>{{ problem.text }}</span
                >
              </td>
              <td v-else>
                {{ one.verdict === 'changed' ? changesOf(one) : one.verdict === 'new' ? summaryOf(one) : 'No changes' }}
              </td>
            </tr>
          </tbody>
        </table>
        <p v-if="(counts?.[show] ?? 0) > rows.length" class="quiet mt-2">
          Showing {{ rows.length }} of {{ counts?.[show] }}.
        </p>
        <p v-if="show === 'refused'" class="mt-2">
          <a :href="`/api/v1/imports/${id}/refused`" download class="word">Download rejected rows with reasons</a>
          <span class="quiet"> Correct the file and import it again.</span>
        </p>
      </section>
    </template>
    <section v-else-if="row.refused?.length" class="mt-6" aria-label="Rejected rows">
      <div class="flex items-baseline gap-4">
        <h2>Rejected rows</h2>
        <template v-if="row.hasFile"
          ><a :href="`/api/v1/imports/${id}/refused`" download class="word">Download rejected rows with reasons</a
          ><span class="quiet"> Correct the file and import it again.</span></template
        ><span v-else class="quiet">The file is not stored any more, so its rows can’t be downloaded.</span>
      </div>
      <table class="list mt-2" aria-label="Rejected rows">
        <tbody>
          <tr v-for="one in row.refused" :key="one.row">
            <td class="num w-16 text-ink2">Row {{ one.row }}</td>
            <td class="text-brick">
              <span v-for="problem in one.problems" :key="problem.heading + problem.text" class="block"
                ><b v-if="problem.heading">{{ problem.heading }}: </b>{{ problem.text }}</span
              >
            </td>
          </tr>
        </tbody>
      </table>
    </section>
    <p v-if="row.state === 'done'" class="mt-6">
      <NuxtLink :to="`/records/${objectPath(object)}`" class="word">Show {{ words.many }}</NuxtLink> ·
      <NuxtLink to="/journal" class="word">Show what rules did</NuxtLink>
    </p>
  </div>
</template>
