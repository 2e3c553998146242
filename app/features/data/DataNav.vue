<script setup lang="ts">
/** Bringing data in and out, and how long it stays. */
defineProps<{ current: 'files' | 'storage' }>()
const places = [
  { key: 'files', label: 'Import and export', to: '/data' },
  { key: 'storage', label: 'Storage', to: '/data/storage' },
] as const
</script>

<template>
  <nav aria-label="Data" class="flex gap-3 font-serif text-[16px]">
    <NuxtLink
      v-for="place in places"
      :key="place.key"
      :to="place.to"
      :class="place.key === current ? 'border-b-2 border-ink font-medium' : 'text-ink2 italic hover:text-ink'"
      :aria-current="place.key === current ? 'page' : undefined"
      >{{ place.label }}</NuxtLink
    >
  </nav>
</template>
