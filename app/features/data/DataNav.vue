<script setup lang="ts">
import PlacesNav from '~/shared/tabs/PlacesNav.vue'

/** Bringing data in and out, and how long it stays. */
defineProps<{ current: 'files' | 'storage' }>()
const places = [
  { key: 'files', label: 'Import and export', to: '/data' },
  { key: 'storage', label: 'Storage', to: '/data/storage' },
] as const
</script>

<template>
  <PlacesNav label="Data" :places="places" :current="current" />
</template>
