<script setup lang="ts">
import PlacesNav from '~/shared/tabs/PlacesNav.vue'

/** Bringing data in and out, what currencies are worth, and how long things stay. */
defineProps<{ current: 'files' | 'website' | 'rates' | 'storage' }>()
const places = [
  { key: 'files', label: 'Import and export', to: '/data' },
  { key: 'website', label: 'Website', to: '/data/website' },
  { key: 'rates', label: 'Exchange rates', to: '/data/rates' },
  { key: 'storage', label: 'Storage', to: '/data/storage' },
] as const
</script>

<template>
  <PlacesNav label="Data" :places="places" :current="current" />
</template>
