<script setup lang="ts">
import { OBJECT_WORDS } from '#core/records/kinds'
import { sayTime, sayWeekday } from '#core/time/say'
import { dateAt } from '#core/time/dates'
import type { GoneRecord } from '~~/server/views/gone'
import { objectPath, recordPath } from '~/shared/paths'
import { bringRecordBack } from '~/shared/record/bringBack'
import { useCatalogue } from '~/shared/stores/catalogue'

/** What became of a record that is no longer there, and the way back. */
const props = defineProps<{ gone: GoneRecord }>()
const emit = defineEmits<{ back: [] }>()
const store = useCatalogue()
const zone = computed(() => store.catalogue.workspace.zone)
const when = computed(
  () => `${sayWeekday(dateAt(props.gone.atMs, zone.value))}, ${sayTime(props.gone.atMs, zone.value)}`,
)
async function back(): Promise<void> {
  if (await bringRecordBack(props.gone.ref)) emit('back')
}
</script>

<template>
  <section class="mx-auto max-w-[620px] px-6 pt-20" aria-label="What happened to this record">
    <p class="quiet">{{ OBJECT_WORDS[gone.ref.object].One }} {{ gone.ref.id }}</p>
    <h1 class="mt-1 break-words">{{ gone.name }}</h1>
    <p class="mt-3 font-serif text-[18px]">
      <template v-if="gone.into"
        >Merged into <NuxtLink :to="recordPath(gone.into.ref)" class="word">{{ gone.into.name }}</NuxtLink> by
        {{ gone.person }}</template
      >
      <template v-else>Deleted by {{ gone.person }}</template
      >, {{ when }}.
    </p>
    <p v-if="store.may('work')" class="mt-4 flex items-baseline gap-3">
      <button type="button" class="button main" :disabled="!gone.canBringBack" @click="back">Restore</button
      ><span v-if="!gone.canBringBack" class="quiet"
        >{{ gone.into?.name }} has been deleted too. Restore it first.</span
      >
    </p>
    <p class="quiet mt-8">
      <NuxtLink :to="`/records/${objectPath(gone.ref.object)}/deleted`" class="word"
        >All deleted and merged {{ OBJECT_WORDS[gone.ref.object].many }}</NuxtLink
      >
    </p>
  </section>
</template>
