<script setup lang="ts">
import { count, figure } from '#core/language/counts'
import { useVirtualizer } from '@tanstack/vue-virtual'
import { watchDebounced } from '@vueuse/core'
import { EMPTY_GROUP, type Group } from '#core/conditions/document'
import { OBJECT_WORDS, OBJECTS, type ObjectKind } from '#core/records/kinds'
import type { Values } from '#core/language/value'
import type { ListPage } from '~~/server/engine/record-list'
import type { SegmentLine } from '~~/server/views/segments'
import { objectPath, objectOfPath, recordPath } from '~/shared/paths'
import { read, send, attempt } from '~/shared/api/api'
import { goTo } from '~/shared/goTo'
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
import { useLiveQuery } from '~/shared/live/useLiveQuery'

const PAGE = 100
const ROW_PX = 29
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
    return route.query.filter ? (JSON.parse(text(route.query.filter)) as Group) : EMPTY_GROUP
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
  limit: PAGE,
}))
const { data, error } = await useAsyncData(`list-${object}`, () =>
  useRequestFetch()<ListPage>(`/api/v1/record-lists/${object}`, { query: query.value }),
)

// Pages are kept by where they begin; a new question begins anew.
const rows = shallowRef<ReadonlyMap<number, { id: number; values: Values }>>(new Map())
const counts = computed(() => ({ total: data.value?.total ?? 0, matched: data.value?.matched ?? 0 }))
const asked = new Set<number>()
function take(page: ListPage, offset: number): void {
  const next = new Map(rows.value)
  page.rows.forEach((row, i) => next.set(offset + i, row))
  rows.value = next
}
if (data.value) take(data.value, 0)
/** The last list that was asked for, and the one that is shown: answers to older ones are none any more. */
const lists = { asked: 0, shown: 0 }
async function reread(): Promise<void> {
  const mine = ++lists.asked
  const answer = await attempt(() => read<ListPage>(`/api/v1/record-lists/${object}`, query.value))
  if (mine !== lists.asked) return
  // Where it was refused, the one before stays, and its pages can be come to.
  lists.shown = mine
  if (!answer) return
  asked.clear()
  rows.value = new Map()
  data.value = answer
  take(answer, 0)
}
async function more(offset: number): Promise<void> {
  const mine = lists.asked
  if (offset === 0 || asked.has(offset) || mine !== lists.shown) return
  asked.add(offset)
  const answer = await read<ListPage>(`/api/v1/record-lists/${object}`, { ...query.value, offset }).catch(() => null)
  if (answer && mine === lists.asked) take(answer, offset)
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

const scroller = useTemplateRef<HTMLElement>('scroller')
const virtualizer = useVirtualizer(
  computed(() => ({
    count: counts.value.matched,
    getScrollElement: () => scroller.value,
    estimateSize: () => ROW_PX,
    overscan: 12,
    initialRect: { width: 1200, height: 620 },
  })),
)
const visible = computed(() => virtualizer.value.getVirtualItems())
watch([visible, rows], ([items]) => {
  for (const item of items) if (!rows.value.has(item.index)) void more(Math.floor(item.index / PAGE) * PAGE)
})
const fields = computed(() => columns.value.flatMap((key) => store.catalogue.field(object, key) ?? []))
const grid = computed(
  () =>
    `minmax(220px,2fr) ${fields.value
      .slice(1)
      .map((field) =>
        field.type === 'currency' || field.type === 'number' ? 'minmax(80px,0.8fr)' : 'minmax(90px,1fr)',
      )
      .join(' ')}`,
)
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
const newName = ref('')
const newStage = ref(store.catalogue.pipelines[0]?.stages[0]?.id ?? '')
const create = once(async (): Promise<void> => {
  const made = await attempt(() =>
    send<{ ref: { object: typeof object; id: number } }>('POST', `/api/v1/records/${object}`, {
      values: {
        name: newName.value,
        owner: store.me?.id ?? null,
        ...(object === 'deal' ? { stage: newStage.value } : {}),
      },
    }),
  )
  if (made) await goTo(recordPath(made.ref))
})
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
    <form
      v-if="making"
      class="mt-2 flex items-center gap-2 rounded-[3px] bg-paper2 p-2"
      @submit.prevent="create"
      @keydown.escape="making = false"
    >
      <input
        v-model="newName"
        class="entry flex-1"
        required
        maxlength="500"
        placeholder="Name"
        aria-label="Name"
        @vue:mounted="($event.el as HTMLElement).focus()"
      />
      <select v-if="object === 'deal'" v-model="newStage" class="entry" aria-label="Stage">
        <optgroup v-for="pipeline in store.catalogue.pipelines" :key="pipeline.id" :label="pipeline.name">
          <option v-for="stage in pipeline.stages" :key="stage.id" :value="stage.id">{{ stage.name }}</option>
        </optgroup>
      </select>
      <button type="submit" class="button main">Create</button
      ><button type="button" class="button" @click="making = false">Cancel</button>
    </form>
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
    <div
      ref="scroller"
      class="fills min-h-0 flex-1 overflow-auto"
      tabindex="0"
      role="region"
      :aria-label="`${OBJECT_WORDS[object].Many} table`"
    >
      <div
        role="table"
        :aria-label="OBJECT_WORDS[object].many"
        :aria-rowcount="counts.matched + 1"
        class="min-w-[900px] text-[13.5px]"
      >
        <div role="rowgroup" class="sticky top-0 z-10 bg-paper">
          <div role="row" class="grid gap-3 border-b border-ink2" :style="{ gridTemplateColumns: grid }">
            <span
              v-for="field in fields"
              :key="field.key"
              role="columnheader"
              :aria-sort="sort === field.key ? (down ? 'descending' : 'ascending') : 'none'"
              :class="(field.type === 'currency' || field.type === 'number') && 'text-right'"
            >
              <button
                type="button"
                class="py-1 text-[12px] font-semibold text-ink2 hover:text-ink"
                @click="sortBy(field.key)"
              >
                {{ field.label }} {{ sort === field.key ? (down ? '↓' : '↑') : '' }}
              </button>
            </span>
          </div>
        </div>
        <div role="rowgroup" class="relative" :style="{ height: `${virtualizer.getTotalSize()}px` }">
          <div
            v-for="item in visible"
            :key="item.index"
            role="row"
            :aria-rowindex="item.index + 2"
            class="absolute inset-x-0 grid items-center gap-3 border-b border-hair hover:bg-paper2"
            :style="{ gridTemplateColumns: grid, height: `${ROW_PX}px`, transform: `translateY(${item.start}px)` }"
          >
            <template v-if="rows.get(item.index)">
              <span
                v-for="(field, i) in fields"
                :key="field.key"
                role="cell"
                class="truncate"
                :class="(field.type === 'currency' || field.type === 'number') && 'text-right'"
              >
                <NuxtLink
                  v-if="i === 0"
                  :to="recordPath({ object, id: rows.get(item.index)!.id })"
                  class="name-link font-medium"
                  >{{ rows.get(item.index)!.values.name }}</NuxtLink
                >
                <template v-else>{{
                  store.show(rows.get(item.index)!.values[field.key], field, rows.get(item.index)!.values)
                }}</template>
              </span>
            </template>
            <span v-else role="cell" class="quiet">…</span>
          </div>
        </div>
      </div>
      <div v-if="counts.matched === 0" class="py-16 text-center">
        <p class="font-serif text-[20px]">
          {{ counts.total === 0 ? `No ${OBJECT_WORDS[object].many} yet.` : `No ${OBJECT_WORDS[object].many} match.` }}
        </p>
        <p class="quiet mt-1">
          <template v-if="counts.total === 0"
            ><NuxtLink to="/data" class="word">Import some</NuxtLink> from a file.</template
          ><template v-else>Remove a condition or clear the search.</template>
        </p>
      </div>
    </div>
  </div>
</template>
