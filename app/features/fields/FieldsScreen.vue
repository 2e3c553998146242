<script setup lang="ts">
import { count } from '#core/language/counts'
import { FIELD_TYPES } from '#core/fields/types'
import { foldText } from '#core/language/value'
import type { ObjectKind } from '#core/records/kinds'
import { FIELD_TYPE_NAMES, type FieldTypeName } from '#core/language/field-types'
import { objectPath, objectOfPath } from '~/shared/paths'
import { send, attempt } from '~/shared/api/api'
import { once } from '~/shared/api/once'
import { useCatalogue } from '~/shared/stores/catalogue'
import FieldsNav from './FieldsNav.vue'
import FieldDetail from './FieldDetail.vue'
import { useLiveQuery } from '~/shared/live/useLiveQuery'

useHead({ title: 'Fields' })
const route = useRoute()
const store = useCatalogue()
const object = computed((): ObjectKind => objectOfPath(route.query.of) ?? 'deal')
const { data, refresh } = await useLiveQuery('/api/v1/field-sheets/:object', {
  params: () => ({ object: object.value }),
  key: 'fields',
  changedBy: ['catalogue', 'rules'],
})
const editable = computed(() => store.may('build'))
const words = ref('')
const lines = computed(() =>
  (data.value?.lines ?? []).filter(({ field }) =>
    foldText(`${field.label} ${field.key} ${field.description} ${FIELD_TYPES[field.type].word}`).includes(
      foldText(words.value),
    ),
  ),
)
const chosen = ref<number | null>(null)
const line = computed(() => data.value?.lines.find((one) => one.field.id === chosen.value) ?? null)
watch(object, () => {
  chosen.value = null
})
const detail = useTemplateRef('detail')
/** Another field, or none, unless the one that is open holds something unsaved. */
async function choose(id: number | null): Promise<void> {
  if ((await detail.value?.mayLeave()) ?? true) chosen.value = id
}
async function changed(): Promise<void> {
  await Promise.all([store.load(), refresh()])
}

/** Fields that are being calculated for all records just now; looked at again while there are any. */
const { data: work, refresh: lookAgain } = await useLiveQuery('/api/v1/derived-fields', { changedBy: ['catalogue'] })
const jobs = computed(() =>
  (work.value?.jobs ?? []).map((job) => ({
    ...job,
    names: job.fieldIds.flatMap((id) => {
      const field = store.catalogue.data.fields.find((one) => one.id === id)
      return field ? [field.label] : []
    }),
  })),
)
let looking: ReturnType<typeof setTimeout> | undefined
onMounted(() =>
  watch(
    jobs,
    (now, before) => {
      clearTimeout(looking)
      if (now.length > 0) looking = setTimeout(() => void lookAgain(), 700)
      else if (before && before.length > 0) void refresh()
    },
    { immediate: true },
  ),
)
onBeforeUnmount(() => clearTimeout(looking))

const making = ref(false)
const types = FIELD_TYPE_NAMES.filter((type) => type !== 'stage' && type !== 'pipeline')
const given = reactive({ label: '', type: 'text' as FieldTypeName, description: '', choices: '' })
const hasChoices = computed(() => given.type === 'choice' || given.type === 'choices')
const make = once(async (): Promise<void> => {
  const { label, type, description } = given
  const choices = hasChoices.value
    ? given.choices
        .split('\n')
        .map((word) => word.trim())
        .filter(Boolean)
    : []
  const made = await attempt(() =>
    send<{ id: number }>('POST', '/api/v1/fields', { object: object.value, label, type, description, choices }),
  )
  if (!made) return
  making.value = false
  Object.assign(given, { label: '', type: 'text', description: '', choices: '' })
  await changed()
  chosen.value = made.id
})
async function move(index: number, by: -1 | 1): Promise<void> {
  const ids = store.catalogue.fields(object.value).map((field) => field.id)
  const [id = 0] = ids.splice(index, 1)
  ids.splice(index + by, 0, id)
  if (await attempt(() => send('PUT', '/api/v1/fields/order', { object: object.value, ids }))) await changed()
  await nextTick()
  document.querySelector<HTMLElement>(`[data-field="${id}"]`)?.focus()
}
const share = (filled: number): number =>
  data.value && data.value.total > 0 ? Math.round((100 * filled) / data.value.total) : 0
const active = computed(() => (data.value?.lines ?? []).filter((one) => !one.archived).length)
</script>

<template>
  <div class="split grid h-full" :class="line ? 'grid-cols-[minmax(0,1fr)_360px]' : 'grid-cols-1'">
    <div class="relative min-h-0 overflow-auto px-8 pt-4 pb-12" tabindex="0" role="region" aria-label="Fields">
      <div class="flex flex-wrap items-baseline gap-x-4 gap-y-1">
        <h1>Fields</h1>
        <FieldsNav :current="object" />
        <p class="quiet">{{ count(active, 'field') }} · {{ count(data?.total ?? 0, object) }}</p>
        <span class="ml-auto flex flex-wrap gap-2"
          ><input
            v-model="words"
            class="entry w-52"
            type="search"
            placeholder="Search fields"
            aria-label="Search fields"
          />
          <template v-if="editable"
            ><NuxtLink :to="`/calculated-fields?of=${objectPath(object)}`" class="button" data-worked-out
              >New calculated field</NuxtLink
            ><button type="button" class="button main" @click="making = !making">New field</button></template
          ></span
        >
      </div>
      <p
        v-for="job in jobs"
        :key="job.id"
        class="mt-3 flex items-center gap-3 rounded-[3px] bg-violet-t px-3 py-1.5"
        data-working-out
      >
        Calculating for all records: {{ job.names.join(', ')
        }}<progress
          class="ml-auto w-40"
          :max="Math.max(1, job.total)"
          :value="job.done"
          :aria-label="`Calculating ${job.names.join(', ')}`"
        /><span class="w-12 text-right tabular-nums"
          >{{ Math.floor((100 * job.done) / Math.max(1, job.total)) }} %</span
        >
      </p>
      <form
        v-if="making"
        class="mt-3 rounded-[3px] bg-paper2 p-3"
        aria-label="New field"
        @submit.prevent="make"
        @keydown.escape="making = false"
      >
        <div class="flex flex-wrap items-end gap-3">
          <label class="quiet"
            >Name<br /><input
              v-model="given.label"
              class="entry w-52"
              required
              maxlength="100"
              @vue:mounted="($event.el as HTMLElement).focus()"
          /></label>
          <label class="quiet"
            >Type<br /><select v-model="given.type" class="entry">
              <option v-for="type in types" :key="type" :value="type">{{ FIELD_TYPES[type].word }}</option>
            </select></label
          >
          <label class="quiet min-w-64 flex-1"
            >Description<br /><input v-model="given.description" class="entry w-full" maxlength="500"
          /></label>
        </div>
        <label v-if="hasChoices" class="quiet mt-2 block"
          >Choices (one per line)<br /><textarea v-model="given.choices" class="entry w-80" rows="4" required />
        </label>
        <p class="mt-3 flex gap-2">
          <button type="submit" class="button main">Create field</button
          ><button type="button" class="button" @click="making = false">Cancel</button>
        </p>
      </form>
      <table class="list mt-3 table-fixed" aria-label="Fields">
        <thead>
          <tr>
            <th :class="line ? 'w-[40%]' : 'w-[24%]'">Name</th>
            <th class="w-[120px]">Type</th>
            <th :class="line && 'max-[1200px]:hidden'">Description</th>
            <th class="w-[120px]">Filled</th>
            <th class="w-[70px] text-right!">Used in rules</th>
            <th v-if="editable" class="w-[64px]"><span class="sr-only">Order</span></th>
          </tr>
        </thead>
        <tbody>
          <tr
            v-for="(one, i) in lines"
            :key="one.field.id"
            :class="[one.field.id === chosen && 'bg-violet-t', one.archived && 'text-ink2']"
          >
            <td class="truncate">
              <button
                type="button"
                class="name-link max-w-full truncate text-left font-medium"
                :data-field="one.field.id"
                :aria-expanded="one.field.id === chosen"
                @click="choose(one.field.id === chosen ? null : one.field.id)"
              >
                {{ one.field.label }}</button><span v-if="one.archived" class="quiet"> · Archived</span
              ><span v-else-if="one.field.required" class="quiet"> · Required</span>
            </td>
            <td class="truncate">{{ FIELD_TYPES[one.field.type].word }}</td>
            <td
              class="truncate text-ink2"
              :class="line && 'max-[1200px]:hidden'"
              :title="one.field.description || one.field.keptBy || ''"
            >
              {{
                one.field.description ||
                (one.field.keptBy
                  ? `Read-only: ${one.field.keptBy}`
                  : one.samples.map((sample) => sample.text).join(', '))
              }}
            </td>
            <td>
              <span
                class="flex items-center gap-2"
                :title="`${one.filled.toLocaleString('en')} of ${data?.total.toLocaleString('en')}`"
                ><span class="h-1.5 w-14 bg-paper2" aria-hidden="true"
                  ><span class="block h-1.5 bg-ink2" :style="{ width: `${share(one.filled)}%` }" /></span
                >{{ share(one.filled) }} %</span
              >
            </td>
            <td class="num">{{ one.uses.length || '' }}</td>
            <td v-if="editable" class="num whitespace-nowrap">
              <template v-if="!one.archived && words === ''"
                ><button
                  type="button"
                  class="quiet px-1"
                  :disabled="i === 0"
                  :aria-label="`Move ${one.field.label} up`"
                  @click="move(i, -1)"
                >
                  ↑</button
                ><button
                  type="button"
                  class="quiet px-1"
                  :disabled="i === active - 1"
                  :aria-label="`Move ${one.field.label} down`"
                  @click="move(i, 1)"
                >
                  ↓
                </button></template
              >
            </td>
          </tr>
        </tbody>
      </table>
      <p v-if="lines.length === 0" class="quiet py-10 text-center">No fields match.</p>
    </div>
    <aside
      v-if="line"
      class="relative min-h-0 overflow-auto border-l border-hair bg-paper2"
      tabindex="0"
      aria-label="Field"
    >
      <FieldDetail
        ref="detail"
        :key="line.field.id"
        :line="line"
        :total="data?.total ?? 0"
        :editable="editable"
        @changed="changed"
        @close="chosen = null"
      />
    </aside>
  </div>
</template>
