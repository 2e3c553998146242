<script setup lang="ts">
import { OBJECT_WORDS, OBJECTS, type ObjectKind } from '#core/records/kinds'
import { objectPath } from '~/shared/paths'

/**
 * What records are made of: the fields of each kind, the scorecards, the pipelines, and the spellings that count as
 * one.
 */
const props = defineProps<{ current: ObjectKind | 'pipelines' | 'synonyms' | 'scorecards' }>()
const places = computed(() => [
  ...OBJECTS.map((one) => ({
    key: one as string,
    label: OBJECT_WORDS[one].Many,
    to: one === 'deal' ? '/fields' : `/fields?of=${objectPath(one)}`,
  })),
  { key: 'scorecards', label: 'Scorecards', to: '/scorecards' },
  { key: 'pipelines', label: 'Pipelines', to: '/pipelines' },
  { key: 'synonyms', label: 'Synonyms', to: '/synonyms' },
])
const isAt = (key: string): boolean => key === props.current
</script>

<template>
  <nav aria-label="Fields and scores" class="flex flex-wrap gap-x-3 gap-y-1 font-serif text-[16px]">
    <NuxtLink
      v-for="place in places"
      :key="place.key"
      :to="place.to"
      :class="isAt(place.key) ? 'border-b-2 border-ink font-medium' : 'text-ink2 italic hover:text-ink'"
      :aria-current="isAt(place.key) ? 'page' : undefined"
      >{{ place.label }}</NuxtLink
    >
  </nav>
</template>
