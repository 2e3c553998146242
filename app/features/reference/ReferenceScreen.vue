<script setup lang="ts">
import { groupBy, operationsOf, type Description } from './description'
import RouteSheet from './RouteSheet.vue'
import { useLiveQuery, orFail } from '~/shared/live/useLiveQuery'

useHead({ title: 'API reference' })
const { data } = await orFail(useLiveQuery('/api/v1/openapi.json'), 'The API description could not be loaded.')
// The route's own type is that of any JSON: what stands in a description is said where it is shown.
const description = computed(() => data.value as unknown as Description)
const words = ref('')
const all = computed(() => operationsOf(description.value))
const shown = computed(() =>
  all.value.filter((one) =>
    `${one.method} ${one.path} ${one.summary}`.toLowerCase().includes(words.value.trim().toLowerCase()),
  ),
)
const sections = computed(() =>
  description.value.tags
    .map(({ name }) => ({ name, operations: groupBy(shown.value, name) }))
    .filter((section) => section.operations.length > 0),
)
const host = useRequestURL().origin
</script>

<template>
  <div class="split grid h-full grid-cols-[300px_minmax(0,1fr)]">
    <nav
      class="relative min-h-0 overflow-auto border-r border-hair bg-paper2 px-5 pt-4 pb-12 text-[13px]"
      aria-label="Routes"
      tabindex="0"
    >
      <input
        v-model="words"
        class="entry w-full"
        type="search"
        placeholder="Search routes"
        aria-label="Search routes"
      />
      <section v-for="section in sections" :key="section.name" class="mt-4">
        <h2 class="text-[16px]!">{{ section.name }}</h2>
        <a
          v-for="one in section.operations"
          :key="one.id"
          :href="`#${one.id}`"
          class="grid grid-cols-[52px_minmax(0,1fr)] gap-1 py-0.5 leading-5 hover:text-violet"
          ><span class="text-ink2">{{ one.method.toUpperCase() }}</span
          ><span class="break-all">{{ one.path }}</span></a
        >
      </section>
      <p v-if="sections.length === 0" class="quiet mt-4">No routes match.</p>
    </nav>
    <article class="relative min-h-0 overflow-auto px-8 pt-4 pb-24" tabindex="0" aria-label="API reference">
      <h1>API reference</h1>
      <p class="mt-2 max-w-[760px]">
        {{ description.info.description }} Create a key under
        <NuxtLink to="/account" class="word">Account and API keys</NuxtLink> and send it with each request. A program
        has the permissions of the key’s owner.
      </p>
      <pre
        class="mt-3 max-w-[760px] overflow-x-auto rounded-[3px] bg-paper2 px-3 py-2 text-[13px]"
        tabindex="0"
        aria-label="Example"
      >
curl -H 'Authorization: Bearer …' {{ host }}/api/v1/records/deal?limit=2</pre>
      <p class="quiet mt-2">
        Also available as <a href="/api/v1/openapi.json" class="word" target="_blank">an OpenAPI 3.1 document</a>,
        generated from the request validation.
      </p>
      <section v-for="section in sections" :key="section.name" class="mt-8" :aria-labelledby="`s-${section.name}`">
        <h2 :id="`s-${section.name}`" class="border-b border-ink2 pb-1">{{ section.name }}</h2>
        <RouteSheet
          v-for="one in section.operations"
          :key="one.id"
          :operation="one"
          :schemas="description.components.schemas"
        />
      </section>
    </article>
  </div>
</template>
