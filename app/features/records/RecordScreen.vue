<script setup lang="ts">
import { OBJECT_WORDS, sameRef } from '#core/records/kinds'
import type { GoneRecord } from '~~/server/views/gone'
import { objectPath, objectOfPath } from '~/shared/paths'
import { read } from '~/shared/api/api'
import { useLive } from '~/shared/live/useLive'
import { useCatalogue } from '~/shared/stores/catalogue'
import GoneNote from './GoneNote.vue'
import StartButtons from './StartButtons.vue'
import RecordDoings from './RecordDoings.vue'
import RecordLinks from './RecordLinks.vue'
import RecordScores from './RecordScores.vue'
import RecordFacts from './RecordFacts.vue'
import RecordRail from '~/shared/record/RecordRail.vue'
import RecordRules from './RecordRules.vue'

const route = useRoute()
const store = useCatalogue()
const object = objectOfPath(route.params.object)
const id = Number(route.params.id)
const { data, refresh, error } = object
  ? await useFetch(`/api/v1/records/${object}/${id}`, { key: `record-${object}-${id}` })
  : { data: ref(null), refresh: async () => {}, error: ref(null) }
const gone = shallowRef<GoneRecord | null>(null)
if (object && error.value?.statusCode === 404)
  gone.value = (await useFetch(`/api/v1/gone/${object}/${id}`, { key: `gone-${object}-${id}` })).data.value ?? null
if (!object || (!data.value && !gone.value))
  throw createError({ statusCode: 404, message: 'There is no such record.', fatal: true })
/** What was read last: the record may go while somebody looks at it. */
const known = shallowRef(data.value)
watch(data, (now) => {
  if (now) known.value = now
})
const page = computed(() => known.value!)
const leaving = ref(false)
async function reread(): Promise<void> {
  if (leaving.value) return
  await refresh()
  gone.value =
    error.value?.statusCode === 404 ? await read<GoneRecord>(`/api/v1/gone/${object}/${id}`).catch(() => null) : null
}
const tab = computed({
  get: () => (route.query.show === 'rules' && store.may('readRules') ? 'rules' : 'rail'),
  set: (value) => void navigateTo({ query: value === 'rules' ? { show: 'rules' } : {} }, { replace: true }),
})
const name = computed(() => (known.value ? String(known.value.values.name ?? '') : (gone.value?.name ?? '')))
useHead({ title: name })
useLive(
  (message) => {
    if (message.about === 'records' && message.refs.some((ref) => sameRef(ref, { object, id }))) void reread()
  },
  () => void reread(),
)
/** What was read of a record that went is not what there is now. */
const reload = () => reloadNuxtApp({ force: true })
</script>

<template>
  <GoneNote v-if="gone" :gone="gone" @back="reload" />
  <div v-else class="grid h-full grid-cols-[380px_1fr]">
    <aside
      class="min-h-0 overflow-auto border-r border-hair bg-paper2 px-5 pt-4 pb-12"
      aria-label="Fields and links"
      tabindex="0"
    >
      <p class="quiet">
        <NuxtLink :to="`/records/${objectPath(object)}`" class="name-link">{{ OBJECT_WORDS[object].many }}</NuxtLink> ·
        {{ OBJECT_WORDS[object].one }} {{ id }}
      </p>
      <h1 class="mt-0.5 mb-3 break-words">{{ name }}</h1>
      <Suspense><StartButtons v-if="store.may('work')" :to="page.ref" @changed="reread()" /></Suspense>
      <RecordDoings v-if="store.may('work')" :page="page" @changed="reread()" @leaving="leaving = $event" />
      <RecordLinks :page="page" :editable="store.may('work')" @changed="reread()" />
      <RecordScores :scores="page.scores" />
      <RecordFacts :page="page" :editable="store.may('work')" @changed="reread()" />
    </aside>
    <section class="min-h-0 overflow-auto px-6 pt-4 pb-12" aria-label="Ahead and past" tabindex="0">
      <div
        v-if="store.may('readRules')"
        role="tablist"
        aria-label="Ahead and past, or rules"
        class="mb-2 flex items-baseline gap-5 font-serif text-[17px]"
      >
        <button
          v-for="[key, label] in [
            ['rail', 'Ahead and past'],
            ['rules', 'Rules and why'],
          ] as const"
          :key="key"
          type="button"
          role="tab"
          :aria-selected="tab === key"
          :class="tab === key ? 'border-b-2 border-ink font-medium' : 'text-ink2 italic'"
          @click="tab = key"
        >
          {{ label }}
        </button>
      </div>
      <RecordRail v-if="tab === 'rail'" :page="page" @changed="reread()" />
      <Suspense v-else
        ><RecordRules :of="page.ref" /><template #fallback><p class="quiet">Looking …</p></template></Suspense
      >
    </section>
  </div>
</template>
