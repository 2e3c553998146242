<script setup lang="ts">
import type { NuxtError } from '#app'

defineProps<{ error: NuxtError }>()
</script>

<template>
  <main class="mx-auto max-w-xl p-16">
    <h1>
      {{ error.statusCode === 404 ? 'Page not found' : error.statusMessage || 'Something went wrong' }}
    </h1>
    <p class="mt-3 text-[16px]">{{ error.message }}</p>
    <button type="button" class="button main mt-6" @click="clearError({ redirect: '/day-sheet' })">
      Go to Day sheet
    </button>
  </main>
</template>
