<script setup lang="ts">
import PlacesNav from '~/shared/tabs/PlacesNav.vue'

/** What is written to customers: the texts, how they are sent, and the simulated other side. */
defineProps<{ current: 'templates' | 'settings' | 'web' | 'mailboxes' | 'phone' }>()
const places = [
  { key: 'templates', label: 'Templates', to: '/messages/templates' },
  { key: 'settings', label: 'Sending', to: '/messages/settings' },
  { key: 'web', label: 'Web requests', to: '/messages/web' },
  { key: 'mailboxes', label: 'Simulated mailboxes', to: '/messages/mailboxes' },
  { key: 'phone', label: 'Simulated phone', to: '/messages/phone' },
] as const
</script>

<template>
  <PlacesNav label="Messages" :places="places" :current="current" />
</template>
