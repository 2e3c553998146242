<script setup lang="ts">
import { OBJECT_WORDS, sameRef } from '#core/records/kinds'

const route = useRoute()
const store = useCatalogue()
const object = objectOfPath(route.params.object)
const id = Number(route.params.id)
const { data, refresh, error } = object ? await useFetch(`/api/v1/records/${object}/${id}`, { key: `record-${object}-${id}` }) : { data: ref(null), refresh: async () => {}, error: ref(null) }
if (!object || error.value || !data.value) throw createError({ statusCode: 404, message: 'There is no such record.', fatal: true })
const page = computed(() => data.value!)
const name = computed(() => String(page.value.values.name ?? ''))
useHead({ title: name })
useLive((message) => {
  if (message.about === 'records' && message.refs.some((ref) => sameRef(ref, { object, id }))) void refresh()
}, () => void refresh())
</script>

<template>
  <div class="grid h-full grid-cols-[380px_1fr]">
    <aside class="min-h-0 overflow-auto border-r border-hair bg-paper2 px-5 pt-4 pb-12" aria-label="Fields and links" tabindex="0">
      <p class="quiet"><NuxtLink :to="`/records/${objectPath(object)}`" class="name-link">{{ OBJECT_WORDS[object].many }}</NuxtLink> · {{ OBJECT_WORDS[object].one }} {{ id }}</p>
      <h1 class="mt-0.5 mb-3 break-words">{{ name }}</h1>
      <RecordLinks :page="page" :editable="store.may('work')" @changed="refresh()" />
      <RecordFacts :page="page" :editable="store.may('work')" @changed="refresh()" />
    </aside>
    <section class="min-h-0 overflow-auto px-6 pt-4 pb-12" aria-label="Ahead and past" tabindex="0"><RecordRail :page="page" /></section>
  </div>
</template>
