<script setup lang="ts">
import { useCatalogue } from '~/shared/stores/catalogue'
import PlacesNav from '~/shared/tabs/PlacesNav.vue'

/** What needs somebody, and who has how much to do. */
defineProps<{ current: 'overview' | 'problems' | 'suggestions' | 'team' }>()
const store = useCatalogue()
const places = computed(() => [
  ...(store.may('readRules')
    ? [
        { key: 'overview' as const, label: 'Overview', to: '/overview' },
        { key: 'problems' as const, label: 'Problems', to: '/problems' },
      ]
    : []),
  ...(store.may('build') ? [{ key: 'suggestions' as const, label: 'Suggestions', to: '/suggestions' }] : []),
  { key: 'team' as const, label: 'Team', to: '/team' },
])
</script>

<template>
  <PlacesNav label="Overview" :places="places" :current="current" />
</template>
