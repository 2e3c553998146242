<script setup lang="ts">
import { provideUseId } from '@headlessui/vue'

provideUseId(() => useId())
const theme = useCookie<'auto' | 'light' | 'dark'>('sky-lever-theme', { default: () => 'auto' })
useHead({
  htmlAttrs: { 'data-theme': () => (theme.value === 'auto' ? undefined : theme.value) },
  titleTemplate: (title) => (title ? `${title} · Sky Lever` : 'Sky Lever'),
})
</script>

<template>
  <NuxtLayout><NuxtPage /></NuxtLayout>
</template>
