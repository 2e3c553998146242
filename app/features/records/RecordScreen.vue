<script setup lang="ts">
import { OBJECT_WORDS, sameRef } from '#core/records/kinds'
import { objectPath, objectOfPath } from '~/shared/paths'
import { useQueryChange } from '~/shared/useQueryChange'
import { useCatalogue } from '~/shared/stores/catalogue'
import GoneNote from './GoneNote.vue'
import StartButtons from './StartButtons.vue'
import RecordDoings from './RecordDoings.vue'
import RecordLinks from './RecordLinks.vue'
import RecordScores from './RecordScores.vue'
import RecordFacts from './RecordFacts.vue'
import RecordRail from '~/shared/record/RecordRail.vue'
import RecordRules from './RecordRules.vue'
import { canWriteFrom } from '#core/messages/letter'
import { onceReady } from '~/shared/onceReady'
import TabRow from '~/shared/tabs/TabRow.vue'
import { useKeys } from '~/shared/keys/useKeys'
import { useLiveQuery } from '~/shared/live/useLiveQuery'

const RecordMessages = onceReady(() => import('./RecordMessages.vue'))
const route = useRoute()
const put = useQueryChange()
const store = useCatalogue()
const object = objectOfPath(route.params.object)
const id = Number(route.params.id)
const leaving = ref(false)
const { data, problem, refresh } = await useLiveQuery('/api/v1/records/:object/:id', {
  params: object ? { object, id } : null,
  changedBy: (message) =>
    object !== null && message.about === 'records' && message.refs.some((ref) => sameRef(ref, { object, id })),
  reread: () => reread(),
})
const { data: gone } = await useLiveQuery('/api/v1/deleted-records/:object/:id', {
  params: () => (object && problem.value?.status === 404 ? { object, id } : null),
  key: `gone-${object}-${id}`,
})
if (!object || (!data.value && !gone.value))
  throw createError({ statusCode: 404, message: 'Record not found.', fatal: true })
/** What was read last: the record may go while somebody looks at it. */
const known = shallowRef(data.value)
watch(data, (now) => {
  if (now) known.value = now
})
const page = computed(() => known.value!)
async function reread(): Promise<void> {
  if (!leaving.value) await refresh()
}
const TABS = [
  ['rail', 'Timeline'],
  ['messages', 'Messages'],
  ['rules', 'Rules'],
] as const
const tabs = computed(() =>
  TABS.filter(([key]) => (key === 'rules' ? store.may('readRules') : key !== 'messages' || canWriteFrom(object))),
)
const tab = computed<(typeof TABS)[number][0]>({
  get: () => tabs.value.find(([key]) => key === route.query.show)?.[0] ?? 'rail',
  set: (value) => void put({ show: value === 'rail' ? '' : value }),
})
const name = computed(() => (known.value ? String(known.value.values.name ?? '') : (gone.value?.name ?? '')))
useHead({ title: name })
/** From anywhere on the page to the rules about it: the first of them is asked with Enter. */
useKeys({
  r: () => {
    if (!store.may('readRules')) return false
    tab.value = 'rules'
    const begun = performance.now()
    const reach = (): void => {
      const first = document.querySelector<HTMLElement>('[data-why]')
      if (first) first.focus()
      else if (performance.now() - begun < 3000) requestAnimationFrame(reach)
    }
    requestAnimationFrame(reach)
    return undefined
  },
})
/** What was read of a record that went is not what there is now. */
const reload = () => reloadNuxtApp({ force: true })
</script>

<template>
  <GoneNote v-if="gone" :gone="gone" @back="reload" />
  <div v-else class="split grid h-full grid-cols-[380px_1fr]">
    <aside
      class="min-h-0 overflow-auto border-r border-hair bg-paper2 px-5 pt-4 pb-12"
      aria-label="Fields and links"
      tabindex="0"
    >
      <p class="quiet">
        <NuxtLink :to="`/records/${objectPath(object)}`" class="name-link">{{ OBJECT_WORDS[object].Many }}</NuxtLink> ·
        {{ OBJECT_WORDS[object].One }} {{ id }}
      </p>
      <h1 class="mt-0.5 mb-3 break-words">{{ name }}</h1>
      <Suspense
        ><StartButtons v-if="store.may('work')" :to="page.ref" :version="page.version" @changed="reread()"
      /></Suspense>
      <RecordDoings v-if="store.may('work')" :page="page" @changed="reread()" @leaving="leaving = $event" />
      <RecordLinks :page="page" :editable="store.may('work')" @changed="reread()" />
      <RecordScores :scores="page.scores" />
      <RecordFacts :page="page" :editable="store.may('work')" @changed="reread()" />
    </aside>
    <section class="min-h-0 overflow-auto px-6 pt-4 pb-12" aria-label="Timeline" tabindex="0">
      <TabRow v-if="tabs.length > 1" v-model="tab" :tabs="tabs" label="Timeline, messages or rules" class="mb-2" />
      <RecordRail v-if="tab === 'rail'" :page="page" @changed="reread()" />
      <Suspense v-else-if="tab === 'messages'"
        ><RecordMessages :of="page.ref" /><template #fallback><p class="quiet">Loading…</p></template></Suspense
      >
      <Suspense v-else
        ><RecordRules :of="page.ref" /><template #fallback><p class="quiet">Loading…</p></template></Suspense
      >
    </section>
  </div>
</template>
