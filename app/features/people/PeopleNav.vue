<script setup lang="ts">
/** Who works here, who covers where, and when the firm works. */
defineProps<{ current: 'people' | 'territories' | 'hours' }>()
const places = [
  { key: 'people', label: 'People', to: '/people' },
  { key: 'territories', label: 'Territories', to: '/territories' },
  { key: 'hours', label: 'Hours and holidays', to: '/hours' },
] as const
</script>

<template>
  <nav aria-label="People and hours" class="flex gap-3 font-serif text-[16px]">
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
