<script setup lang="ts">
import { OBJECT_WORDS } from '#core/records/kinds'
import { sayTime, sayWeekday } from '#core/time/say'
import { dateAt } from '#core/time/dates'
import type { GoneRecord } from '~~/server/views/gone'
import { objectPath, objectOfPath, recordPath } from '~/shared/paths'
import { read, attempt } from '~/shared/api/api'
import { bringRecordBack } from '~/shared/record/bringBack'
import { useCatalogue } from '~/shared/stores/catalogue'
import { useLiveQuery } from '~/shared/live/useLiveQuery'

const route = useRoute()
const store = useCatalogue()
const object = objectOfPath(route.params.object)
if (!object) throw createError({ statusCode: 404, message: 'Page not found.', fatal: true })
const { data } = await useLiveQuery('/api/v1/deleted-records/:object', { params: { object }, changedBy: ['records'] })
const more = shallowRef<readonly GoneRecord[]>([])
const next = ref<string | null>(data.value?.next ?? null)
const rows = computed<readonly GoneRecord[]>(() => [...(data.value?.rows ?? []), ...more.value])
useHead({ title: `Deleted and merged ${OBJECT_WORDS[object].many}` })
async function readMore(): Promise<void> {
  const page = await attempt(() =>
    read<{ rows: readonly GoneRecord[]; next: string | null }>(`/api/v1/deleted-records/${object}`, {
      cursor: next.value,
    }),
  )
  if (!page) return
  more.value = [...more.value, ...page.rows]
  next.value = page.next
}
watch(data, (now) => {
  more.value = []
  next.value = now?.next ?? null
})
async function back(gone: GoneRecord): Promise<void> {
  if (await bringRecordBack(gone.ref)) await navigateTo(recordPath(gone.ref))
}
const zone = computed(() => store.catalogue.workspace.zone)
</script>

<template>
  <div
    class="relative h-full overflow-auto px-8 pt-4 pb-12"
    tabindex="0"
    role="region"
    :aria-label="`Deleted and merged ${OBJECT_WORDS[object].many}`"
  >
    <p class="quiet">
      <NuxtLink :to="`/records/${objectPath(object)}`" class="name-link">{{ OBJECT_WORDS[object].Many }}</NuxtLink>
    </p>
    <h1>Deleted and merged {{ OBJECT_WORDS[object].many }}</h1>
    <p v-if="rows.length === 0" class="mt-10 font-serif text-[18px]">
      No deleted or merged {{ OBJECT_WORDS[object].many }}.
    </p>
    <table
      v-else
      class="list mt-3 w-full max-w-[980px]"
      :aria-label="`Deleted and merged ${OBJECT_WORDS[object].many}`"
    >
      <thead>
        <tr>
          <th class="text-left">Name</th>
          <th class="text-left">What happened</th>
          <th class="text-left">When</th>
          <th><span class="sr-only">Restore</span></th>
        </tr>
      </thead>
      <tbody>
        <tr v-for="gone in rows" :key="gone.ref.id">
          <td class="max-w-72 truncate">
            <NuxtLink :to="recordPath(gone.ref)" class="name-link font-medium">{{ gone.name }}</NuxtLink>
          </td>
          <td class="max-w-96 truncate">
            <template v-if="gone.into"
              >Merged into
              <NuxtLink :to="recordPath(gone.into.ref)" class="name-link">{{ gone.into.name }}</NuxtLink> by
              {{ gone.person }}</template
            ><template v-else>Deleted by {{ gone.person }}</template>
          </td>
          <td class="whitespace-nowrap">{{ sayWeekday(dateAt(gone.atMs, zone)) }}, {{ sayTime(gone.atMs, zone) }}</td>
          <td>
            <button
              v-if="store.may('work')"
              type="button"
              class="word"
              :disabled="!gone.canBringBack"
              :aria-label="`Restore ${gone.name}`"
              @click="back(gone)"
            >
              Restore
            </button>
          </td>
        </tr>
      </tbody>
    </table>
    <button v-if="next" type="button" class="button mt-3" @click="readMore">Show more</button>
  </div>
</template>
