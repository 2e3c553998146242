<script setup lang="ts">
import { OBJECT_WORDS, OBJECTS, type ObjectKind } from '#core/records/kinds'
import { objectPath } from '~/shared/paths'
import PlacesNav from '~/shared/tabs/PlacesNav.vue'

/**
 * What records are made of: the fields of each kind, the scorecards, the pipelines, and the spellings that count as
 * one.
 */
type Place = ObjectKind | 'pipelines' | 'synonyms' | 'scorecards' | 'activities'
defineProps<{ current: Place }>()
const places = computed(() => [
  ...OBJECTS.map((one) => ({
    key: one as Place,
    label: OBJECT_WORDS[one].Many,
    to: one === 'deal' ? '/fields' : `/fields?of=${objectPath(one)}`,
  })),
  { key: 'scorecards' as Place, label: 'Scorecards', to: '/scorecards' },
  { key: 'activities' as Place, label: 'Activities', to: '/activity-kinds' },
  { key: 'pipelines' as Place, label: 'Pipelines', to: '/pipelines' },
  { key: 'synonyms' as Place, label: 'Synonyms', to: '/synonyms' },
])
</script>

<template>
  <PlacesNav label="Fields and scores" :places="places" :current="current" />
</template>
