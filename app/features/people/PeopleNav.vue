<script setup lang="ts">
import PlacesNav from '~/shared/tabs/PlacesNav.vue'

/** Who works here, who covers where, and when the firm works. */
defineProps<{ current: 'people' | 'territories' | 'hours' | 'booking' }>()
const places = [
  { key: 'people', label: 'People', to: '/people' },
  { key: 'territories', label: 'Territories', to: '/territories' },
  { key: 'hours', label: 'Hours and holidays', to: '/hours' },
  { key: 'booking', label: 'Booking pages', to: '/booking' },
] as const
</script>

<template>
  <PlacesNav label="People and hours" :places="places" :current="current" />
</template>
