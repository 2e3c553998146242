<script setup lang="ts">
import { count, figure } from '#core/language/counts'
import { watchDebounced } from '@vueuse/core'
import { EMPTY_GROUP, type Group } from '#core/conditions/document'
import { OBJECT_WORDS, OBJECTS, type ObjectKind } from '#core/records/kinds'
import type { ListPage } from '~~/server/engine/record-list'
import type { SegmentLine } from '~~/server/views/segments'
import { objectPath, objectOfPath } from '~/shared/paths'
import { read, send, attempt } from '~/shared/api/api'
import { once } from '~/shared/api/once'
import { useCalm } from '~/shared/live/useCalm'
import { useLive } from '~/shared/live/useLive'
import { useQueryChange } from '~/shared/useQueryChange'
import { useCatalogue } from '~/shared/stores/catalogue'
import SegmentBar from './SegmentBar.vue'
import FilterSentence from '~/shared/words/FilterSentence.vue'
import PopOver from '~/shared/words/PopOver.vue'
import ColumnPicker from './ColumnPicker.vue'
import StartAll from './StartAll.vue'
import BulkEditor from './BulkEditor.vue'
import NewRecord from './NewRecord.vue'
import RecordsTable from './RecordsTable.vue'
import { PAGE_ROWS, useListPages } from './listPages'
import { useLiveQuery } from '~/shared/live/useLiveQuery'

const COLUMNS: Readonly<Record<ObjectKind, readonly string[]>> = {
  deal: ['name', 'stage', 'amount', 'owner', 'kind', 'closeDate', 'quoteSentOn', 'reference'],
  contact: ['name', 'email', 'phone', 'buyingRole', 'siteRole', 'language', 'owner'],
  company: ['name', 'sector', 'fitTier', 'country', 'region', 'coldVolume', 'hygieneUntil', 'owner'],
  appointment: ['name', 'start', 'end', 'status', 'place', 'owner'],
  none: [],
}
/** What is looked at first: the names, or what is to come. */
const USUAL_SORT = { key: 'name', down: false }
const SORTS: Partial<Record<ObjectKind, typeof USUAL_SORT>> = { appointment: { key: 'start', down: true } }

const route = useRoute()
const put = useQueryChange()
const store = useCatalogue()
const object = objectOfPath(route.params.object) ?? 'deal'
if (!objectOfPath(route.params.object)) throw createError({ statusCode: 404, message: 'Page not found.', fatal: true })
useHead({ title: OBJECT_WORDS[object].many })

const text = (value: unknown): string => (typeof value === 'string' ? value : '')
function readFilter(): Group {
  try {
    const given = JSON.parse(text(route.query.filter)) as Group | null
    return Array.isArray(given?.items) ? given : EMPTY_GROUP
  } catch {
    return EMPTY_GROUP
  }
}
const { data: segmentData, refresh: readSegments } = await useLiveQuery('/api/v1/segments', {
  key: `segments-${object}`,
  query: { object },
  lazy: !route.query.segment,
})
const segments = computed(() => segmentData.value?.segments ?? [])
const segmentId = ref(Number(route.query.segment) || null)
const segment = computed(() => segments.value.find((one) => one.id === segmentId.value) ?? null)
const filter = shallowRef(route.query.filter || !segment.value ? readFilter() : segment.value.filter)
const usual = COLUMNS[object].filter((key) => store.catalogue.field(object, key))
const usualSort = SORTS[object] ?? USUAL_SORT
/** What she looks at without a segment stays as she left it. */
const own = useCookie<string>(`sky-lever-columns-${object}`, { default: () => '', maxAge: 31_536_000, sameSite: 'lax' })
const columns = ref<readonly string[]>(
  route.query.columns
    ? text(route.query.columns).split(',')
    : segment.value && segment.value.columns.length > 0
      ? segment.value.columns
      : own.value
        ? own.value.split(',')
        : usual,
)
const words = ref(text(route.query.words))
const sort = computed(() => text(route.query.sort) || (segment.value?.sort ?? usualSort.key))
const down = computed(() => (route.query.sort ? route.query.down === 'true' : (segment.value?.down ?? usualSort.down)))
const query = computed(() => ({
  filter: filter.value.items.length ? JSON.stringify(filter.value) : undefined,
  words: words.value || undefined,
  sort: sort.value,
  down: String(down.value),
  limit: PAGE_ROWS,
}))
const { data, error } = await useAsyncData(`list-${object}`, () =>
  useRequestFetch()<ListPage>(`/api/v1/record-lists/${object}`, { query: query.value }),
)
// What the server cannot read can be said by nobody.
if (error.value) filter.value = EMPTY_GROUP

const pages = useListPages(
  () => query.value,
  (looked, offset) => read<ListPage>(`/api/v1/record-lists/${object}`, offset === 0 ? looked : { ...looked, offset }),
  data.value ?? null,
)
const { rows, counts } = pages
async function reread(): Promise<void> {
  // What the address asked for at first is told until something else was found.
  if ((await attempt(pages.reread)) !== null) error.value = undefined
}
watchDebounced(
  [filter, words, sort, down, segmentId],
  () => {
    void put({
      segment: segmentId.value === null ? undefined : String(segmentId.value),
      filter: query.value.filter,
      words: words.value,
    })
    void reread()
  },
  { debounce: 150 },
)
const calmly = useCalm(() => reread())
const recount = useCalm(() => readSegments())
useLive((message) => {
  if (message.about === 'segments') recount()
  if (message.about !== 'records' || !message.refs.some((ref) => ref.object === object)) return
  calmly()
  if (segments.value.length > 0) recount()
}, calmly)

const fields = computed(() => columns.value.flatMap((key) => store.catalogue.field(object, key) ?? []))
const sortBy = (key: string) => put({ sort: key, down: sort.value === key && !down.value ? 'true' : 'false' })

const changed = computed(
  () =>
    segment.value !== null &&
    (JSON.stringify(segment.value.filter) !== JSON.stringify(filter.value) ||
      (segment.value.columns.length > 0 ? segment.value.columns.join() : usual.join()) !== columns.value.join() ||
      segment.value.sort !== sort.value ||
      segment.value.down !== down.value),
)
async function choose(next: SegmentLine | null): Promise<void> {
  segmentId.value = next?.id ?? null
  filter.value = next?.filter ?? EMPTY_GROUP
  columns.value = next && next.columns.length > 0 ? next.columns : own.value ? own.value.split(',') : usual
  words.value = ''
  await put({ segment: next ? String(next.id) : undefined, filter: '', words: '', sort: '', down: '' })
}
function setColumns(next: readonly string[]): void {
  columns.value = next
  if (segmentId.value === null) own.value = next.join() === usual.join() ? '' : next.join()
}
const looked = computed(() => ({
  filter: filter.value,
  columns: columns.value.join() === usual.join() ? [] : columns.value,
  sort: sort.value,
  down: down.value,
}))
const save = once(
  async (name: string): Promise<void> => {
    const made = await attempt(() =>
      send<{ id: number }>('POST', '/api/v1/segments', { object, name, ...looked.value }),
    )
    if (!made) return
    await readSegments()
    // The columns went with it: what is seen without a segment is as it was.
    own.value = ''
    segmentId.value = made.id
  },
  (name) => name,
)
async function change(body: object): Promise<void> {
  if (await attempt(() => send('PATCH', `/api/v1/segments/${segmentId.value}`, body))) await readSegments()
}
async function remove(): Promise<void> {
  if (!(await attempt(() => send('DELETE', `/api/v1/segments/${segmentId.value}`)))) return
  await readSegments()
  await choose(null)
}
const picking = ref(false)
const bulk = ref(false)
const starting = ref(false)
const file = computed(() => {
  const asked = new URLSearchParams({
    ...(query.value.filter ? { filter: query.value.filter } : {}),
    ...(words.value ? { words: words.value } : {}),
    sort: sort.value,
    down: String(down.value),
    columns: columns.value.join(),
  })
  return `/api/v1/list-exports/${object}?${asked.toString()}`
})
const making = ref(false)
</script>

<template>
  <div class="screen flex h-full flex-col px-8 pt-4">
    <div class="flex flex-none items-baseline gap-4">
      <h1>{{ OBJECT_WORDS[object].Many }}</h1>
      <nav aria-label="Record types" class="flex gap-3 font-serif text-[16px]">
        <NuxtLink
          v-for="other in OBJECTS.filter((one) => one !== object)"
          :key="other"
          :to="`/records/${objectPath(other)}`"
          class="text-ink2 italic hover:text-ink"
          >{{ OBJECT_WORDS[other].Many }}</NuxtLink
        >
      </nav>
      <p class="quiet" aria-live="polite">
        {{
          counts.matched === counts.total
            ? count(counts.total, object)
            : `${figure(counts.matched)} of ${count(counts.total, object)}`
        }}
      </p>
      <input
        v-model="words"
        class="entry ml-auto w-56 max-sm:ml-0"
        type="search"
        placeholder="Search by name"
        aria-label="Search by name"
      />
      <button v-if="store.may('work')" type="button" class="button" @click="making = !making">
        New {{ OBJECT_WORDS[object].one }}
      </button>
    </div>
    <NewRecord v-if="making" :object="object" @close="making = false" />
    <SegmentBar
      class="mt-1 flex-none"
      :object="object"
      :segments="segments"
      :current="segmentId"
      :changed="changed"
      :something="filter.items.length > 0 || looked.columns.length > 0"
      @choose="choose"
      @save="save"
      @keep="change(looked)"
      @rename="change({ name: $event })"
      @remove="remove"
    />
    <div class="flex flex-none items-end gap-x-6 gap-y-2 max-[899px]:flex-wrap">
      <FilterSentence
        class="min-w-0 flex-1 max-[899px]:basis-full"
        :group="filter"
        :object="object"
        @set="filter = $event"
      />
      <div
        class="flex flex-none items-baseline gap-x-4 gap-y-2 pb-1 text-[13px] max-[899px]:flex-auto max-[899px]:flex-wrap"
      >
        <button
          type="button"
          class="min-h-6 text-ink2 hover:text-ink"
          data-columns
          :aria-expanded="picking"
          @click="picking = !picking"
        >
          Columns
        </button>
        <button
          v-if="store.may('work') && counts.matched > 0"
          type="button"
          class="min-h-6 text-ink2 hover:text-ink"
          :aria-expanded="bulk"
          @click="bulk = !bulk"
        >
          Edit all {{ figure(counts.matched) }}…
        </button>
        <button
          v-if="store.may('work') && counts.matched > 0"
          type="button"
          class="min-h-6 text-ink2 hover:text-ink"
          data-start-all
          :aria-expanded="starting"
          @click="starting = !starting"
        >
          Run a rule…
        </button>
        <a v-if="counts.matched > 0" :href="file" class="min-h-6 text-ink2 hover:text-ink" download>Export CSV</a>
        <NuxtLink
          v-if="store.may('build')"
          :to="`/linking?of=${objectPath(object)}`"
          class="min-h-6 text-ink2 hover:text-ink"
          >Link records…</NuxtLink
        >
        <NuxtLink :to="`/records/${objectPath(object)}/deleted`" class="min-h-6 text-ink2 hover:text-ink"
          >Deleted records</NuxtLink
        >
      </div>
    </div>
    <PopOver v-if="picking" anchor="[data-columns]" label="Columns" @close="picking = false"
      ><ColumnPicker :object="object" :columns="columns" @set="setColumns"
    /></PopOver>
    <PopOver v-if="starting" anchor="[data-start-all]" label="Run a rule" @close="starting = false"
      ><Suspense
        ><StartAll
          :object="object"
          :filter="filter"
          :words="words"
          :matched="counts.matched"
          @close="starting = false" /></Suspense
    ></PopOver>
    <BulkEditor
      v-if="bulk"
      class="flex-none"
      :object="object"
      :filter="filter"
      :words="words"
      :matched="counts.matched"
      @close="bulk = false"
      @done="reread"
    />
    <p v-if="error" class="text-brick" role="alert">
      The filter in this address is not valid. Remove it to see all {{ OBJECT_WORDS[object].many }}.
    </p>
    <RecordsTable
      :object="object"
      :fields="fields"
      :rows="rows"
      :matched="counts.matched"
      :sort="sort"
      :down="down"
      @sort="sortBy"
      @need="pages.need"
    >
      <template #empty>
        <div class="py-16 text-center">
          <p class="font-serif text-[20px]">
            {{ counts.total === 0 ? `No ${OBJECT_WORDS[object].many} yet.` : `No ${OBJECT_WORDS[object].many} match.` }}
          </p>
          <p class="quiet mt-1">
            <template v-if="counts.total === 0"
              ><NuxtLink to="/data" class="word">Import some</NuxtLink> from a file.</template
            ><template v-else>Remove a condition or clear the search.</template>
          </p>
        </div>
      </template>
    </RecordsTable>
  </div>
</template>
