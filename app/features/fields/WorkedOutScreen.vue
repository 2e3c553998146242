<script setup lang="ts">
import { EMPTY_GROUP } from '#core/conditions/document'
import { linkedKinds } from '#core/conditions/linked'
import { ROLL_UPS, type Making } from '#core/derived/making'
import { ROLL_UP_WORDS } from '#core/derived/roll-up'
import { FIELD_TYPES } from '#core/fields/types'
import { FUNCTIONS } from '#core/formulas/functions'
import { OBJECT_WORDS, type ObjectKind } from '#core/records/kinds'
import type { MakingShown } from '~~/server/views/derived'
import type { FieldTypeName } from '#core/language/field-types'
import { objectPath, objectOfPath } from '~/shared/paths'
import { send, attempt } from '~/shared/api/api'
import { goTo } from '~/shared/goTo'
import { once } from '~/shared/api/once'
import { useKeys } from '~/shared/keys/useKeys'
import { useCatalogue } from '~/shared/stores/catalogue'
import { useNotices } from '~/shared/stores/notices'
import FormulaEditor from '~/shared/words/FormulaEditor.vue'
import FilterSentence from '~/shared/words/FilterSentence.vue'
import MakingProof from './MakingProof.vue'

/**
 * A field whose value is calculated: from a formula on its own record, or from linked ones; with the result on real
 * records beside it.
 */
useHead({ title: 'Calculated field' })
const route = useRoute()
const store = useCatalogue()
const editable = computed(() => store.may('build'))
const field = computed(
  () => store.catalogue.data.fields.find((one) => one.id === Number(route.query.field) && one.made) ?? null,
)
const object = computed((): ObjectKind => field.value?.object ?? objectOfPath(route.query.of) ?? 'deal')
type Made = Extract<Making, { by: 'formula' | 'rollUp' }>
const own = field.value?.made
const by = ref<'formula' | 'rollUp'>(own?.by === 'rollUp' || route.query.by === 'rollUp' ? 'rollUp' : 'formula')
const label = ref(field.value?.label ?? '')
const description = ref(field.value?.description ?? '')
const text = ref(own?.by === 'formula' ? own.text : '')
const rolled = ref<Extract<Made, { by: 'rollUp' }>>(
  own?.by === 'rollUp'
    ? { ...own }
    : {
        by: 'rollUp',
        over: linkedKinds(object.value)[0] ?? 'deal',
        what: 'count',
        field: null,
        order: null,
        down: true,
        where: EMPTY_GROUP,
      },
)
const type = ref<FieldTypeName | null>(field.value?.type ?? null)
const made = computed((): Made => (by.value === 'formula' ? { by: 'formula', text: text.value } : rolled.value))

const shown = shallowRef<MakingShown | null>(null)
/** What `shown` was calculated for: what is written now may be further already. */
const shownFor = shallowRef<Made | null>(null)
const busy = ref(false)
let asked = 0
async function prove(): Promise<void> {
  const n = ++asked
  const now = made.value
  if (by.value === 'formula' && text.value.trim() === '') {
    shown.value = null
    shownFor.value = now
    return
  }
  busy.value = true
  try {
    const found = await $fetch<MakingShown>('/api/v1/derived-fields/preview' as string, {
      method: 'POST',
      body: { object: object.value, type: type.value, made: made.value },
    })
    if (n !== asked) return
    shown.value = found
    if (found.types.length > 0 && (type.value === null || (!field.value && !found.types.includes(type.value))))
      type.value = found.types[0] ?? null
  } catch {
    if (n === asked) shown.value = null
  } finally {
    if (n === asked) {
      busy.value = false
      shownFor.value = now
    }
  }
}
let timer: ReturnType<typeof setTimeout> | undefined
watch(
  [made, by],
  () => {
    clearTimeout(timer)
    timer = setTimeout(() => void prove(), 180)
  },
  { deep: true },
)
watch(type, (now, before) => {
  if (before !== null && now !== before) void prove()
})
onMounted(() => void prove())
onBeforeUnmount(() => clearTimeout(timer))

const editor = useTemplateRef<{ insert: (text: string) => void; offer: () => void }>('editor')
const looking = ref('')
const fits = (words: string): boolean => words.toLowerCase().includes(looking.value.trim().toLowerCase())
const fieldsThere = computed(() =>
  store.catalogue.fields(object.value).filter((one) => one.id !== field.value?.id && fits(`${one.label} ${one.key}`)),
)
const functionsThere = computed(() => FUNCTIONS.filter((one) => fits(`${one.name} ${one.does}`)))

const overFields = computed(() => store.catalogue.fields(rolled.value.over))
const wantsField = computed(() => rolled.value.what !== 'count')
const candidates = computed(() =>
  overFields.value.filter((one) => {
    const { widget } = FIELD_TYPES[one.type]
    switch (rolled.value.what) {
      case 'sum':
        return widget === 'number' && one.type !== 'percent'
      case 'least':
      case 'most':
        return widget === 'number'
      case 'earliest':
      case 'latest':
        return widget === 'date' || widget === 'dateTime'
      case 'first':
        return one.type !== 'choices' && one.type !== 'pipeline'
      case 'count':
        return false
    }
  }),
)
const orders = computed(() => overFields.value.filter((one) => FIELD_TYPES[one.type].ordered))
function setRolled(change: Partial<Extract<Made, { by: 'rollUp' }>>): void {
  const next = { ...rolled.value, ...change }
  if (change.over !== undefined && change.over !== rolled.value.over)
    Object.assign(next, { field: null, order: null, where: EMPTY_GROUP })
  if (change.what !== undefined) next.field = null
  rolled.value = next
  type.value = field.value?.type ?? null
}

const upToDate = computed(() => shownFor.value === made.value)
const fine = computed(
  () => shown.value !== null && shown.value.problem === null && shown.value.types.length > 0 && type.value !== null,
)
const ready = computed(() => label.value.trim() !== '' && (fine.value || !upToDate.value))
/** Somebody who is quicker than the results gets what they wanted once these have nothing to say against it. */
const wanted = ref(false)
const keep = once(async (): Promise<void> => {
  wanted.value = label.value.trim() !== '' && !upToDate.value
  if (wanted.value || !ready.value) return
  const body = { label: label.value, description: description.value, made: made.value }
  const done = await attempt(() =>
    field.value
      ? send('PUT', `/api/v1/derived-fields/${field.value.id}`, body)
      : send('POST', '/api/v1/derived-fields', { ...body, object: object.value, type: type.value }),
  )
  if (!done) return
  await store.load()
  useNotices().tell({ tone: 'plain', title: label.value, text: 'Calculating for all records…' })
  await goTo(`/fields?of=${objectPath(object.value)}`)
})
// Whoever goes on writing does not want it yet.
watch([made, label, description], () => (wanted.value = false))
watch(upToDate, (now) => {
  if (now && wanted.value) void keep()
})
useKeys({ 'Ctrl-Enter': () => void keep() })
</script>

<template>
  <div class="split grid h-full grid-cols-[minmax(0,56fr)_minmax(0,44fr)]">
    <form
      class="min-h-0 overflow-auto px-8 pt-4 pb-12"
      tabindex="0"
      @submit.prevent="keep"
      @keydown.ctrl.enter.prevent="keep"
    >
      <h1 class="sr-only">Calculated field</h1>
      <p class="quiet">
        <NuxtLink :to="`/fields?of=${objectPath(object)}`" class="word">{{ OBJECT_WORDS[object].One }} fields</NuxtLink>
      </p>
      <div class="mt-1 flex flex-wrap items-end gap-x-4 gap-y-2">
        <label class="quiet"
          >Name<br /><input
            v-model="label"
            class="sentence-entry w-[430px] max-w-full text-[24px]!"
            :disabled="!editable"
            required
            maxlength="100"
            placeholder="Days past expected close"
        /></label>
        <button
          v-if="editable"
          type="submit"
          class="button main ml-auto"
          :disabled="!ready"
          :aria-busy="wanted"
          data-keep
        >
          {{ field ? 'Save' : 'Create field' }}
        </button>
      </div>
      <nav v-if="!field" aria-label="Calculate from" class="mt-5 flex gap-4 font-serif text-[17px]">
        <button
          v-for="[key, word] in [
            ['formula', 'Formula'],
            ['rollUp', 'Linked records'],
          ] as const"
          :key="key"
          type="button"
          :class="by === key ? 'border-b-2 border-ink font-medium' : 'text-ink2 italic hover:text-ink'"
          :aria-pressed="by === key"
          @click="by = key"
        >
          {{ word }}
        </button>
      </nav>
      <div v-if="by === 'formula'" class="mt-3">
        <FormulaEditor
          ref="editor"
          :text="text"
          :object="object"
          :problem="shown?.problem ?? null"
          :label="`Formula for ${label || 'the new field'}`"
          @set="text = $event"
        />
        <p class="mt-1 min-h-[22px] text-[13px]" aria-live="polite">
          <span v-if="shown?.problem" class="said-wrong" data-problem>{{ shown.problem.text }}</span><span
            v-else-if="shown"
            class="text-ink2"
            >Result: {{ shown.comesTo }}</span
          >
        </p>
        <p v-if="shown && shown.types.length > 0" class="mt-1 flex flex-wrap items-center gap-3">
          Saved as
          <select v-if="!field && shown.types.length > 1" v-model="type" class="entry">
            <option v-for="one in shown.types" :key="one" :value="one">{{ FIELD_TYPES[one].word }}</option></select
          ><b v-else class="font-medium">{{ FIELD_TYPES[type ?? shown.types[0] ?? 'number'].word }}</b
          ><span v-if="shown.comesTo === 'a number of days'" class="quiet">(number of days)</span>
        </p>
        <label class="quiet mt-4 block"
          >Search fields and functions <input v-model="looking" class="entry ml-2 w-56" type="search"
        /></label>
        <div class="mt-2 grid grid-cols-2 gap-x-6">
          <div>
            <h2 class="border-b border-hair text-[15px]!">{{ OBJECT_WORDS[object].One }} fields</h2>
            <ul class="max-h-[290px] overflow-auto" tabindex="0" aria-label="Fields">
              <li
                v-for="one in fieldsThere"
                :key="one.key"
                class="flex items-baseline gap-2 border-b border-hair py-0.5 text-[13px]"
              >
                <button type="button" class="name-link font-medium" @click="editor?.insert(one.key)">
                  {{ one.key }}</button><span class="min-w-0 flex-1 truncate text-ink2">{{ one.label }}</span
                ><span class="quiet">{{ FIELD_TYPES[one.type].word }}</span>
              </li>
            </ul>
          </div>
          <div>
            <h2 class="border-b border-hair text-[15px]!">Functions</h2>
            <ul class="max-h-[290px] overflow-auto" tabindex="0" aria-label="Functions">
              <li v-for="one in functionsThere" :key="one.name" class="border-b border-hair py-0.5 text-[13px]">
                <button type="button" class="name-link font-medium" @click="editor?.insert(`${one.name}(`)">
                  {{ one.takes }}</button><br /><span class="text-ink2">{{ one.does }}</span>
              </li>
            </ul>
          </div>
        </div>
      </div>
      <div v-else class="mt-4 font-serif text-[19px] leading-[2.1]">
        the
        <select
          class="sentence-entry sized min-w-0!"
          aria-label="Calculation"
          :value="rolled.what"
          @change="setRolled({ what: ($event.target as HTMLSelectElement).value as typeof rolled.what })"
        >
          <option v-for="one in ROLL_UPS" :key="one" :value="one">{{ ROLL_UP_WORDS[one] }}</option>
        </select>
        <template v-if="wantsField"
          >{{ ' '
          }}<select
            class="sentence-entry sized min-w-0!"
            aria-label="Field"
            :value="rolled.field ?? ''"
            @change="setRolled({ field: ($event.target as HTMLSelectElement).value || null })"
          >
            <option value="" disabled>a field</option>
            <option v-for="one in candidates" :key="one.key" :value="one.key">{{ one.label.toLowerCase() }}</option>
          </select>
          of</template
        >
        <template v-if="rolled.what === 'first'">
          the one with the
          <select
            class="sentence-entry sized min-w-0!"
            aria-label="Order"
            :value="String(rolled.down)"
            @change="setRolled({ down: ($event.target as HTMLSelectElement).value === 'true' })"
          >
            <option value="true">highest</option>
            <option value="false">lowest</option>
          </select>
          by
          <select
            class="sentence-entry sized min-w-0!"
            aria-label="Sort by"
            :value="rolled.order ?? ''"
            @change="setRolled({ order: ($event.target as HTMLSelectElement).value || null })"
          >
            <option value="">creation date</option>
            <option v-for="one in orders" :key="one.key" :value="one.key">{{ one.label.toLowerCase() }}</option>
          </select>
          of</template
        >
        its
        <select
          class="sentence-entry sized min-w-0!"
          aria-label="Linked records"
          :value="rolled.over"
          @change="setRolled({ over: ($event.target as HTMLSelectElement).value as ObjectKind })"
        >
          <option v-for="one in linkedKinds(object)" :key="one" :value="one">{{ OBJECT_WORDS[one].many }}</option>
        </select>
        <div class="mt-3 border-l border-hair pl-5 leading-normal">
          <FilterSentence
            heading="where"
            :group="rolled.where"
            :object="rolled.over"
            @set="setRolled({ where: $event })"
          />
        </div>
        <p v-if="shown && shown.types.length > 0" class="mt-3 font-sans text-[14px]">
          Saved as <b class="font-medium">{{ FIELD_TYPES[shown.types[0] ?? 'number'].word }}</b>
        </p>
      </div>
      <label class="quiet mt-5 block"
        >Description<br /><input
          v-model="description"
          class="entry w-full max-w-[560px]"
          maxlength="500"
          :disabled="!editable"
      /></label>
    </form>
    <aside class="min-h-0 overflow-auto border-l border-hair bg-paper2 px-6 pt-5 pb-12" tabindex="0" aria-label="Proof">
      <MakingProof :shown="shown" :object="object" :busy="busy" />
      <p v-if="!shown" class="quiet">Results for your records appear here as you type.</p>
    </aside>
  </div>
</template>
