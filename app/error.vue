<script setup lang="ts">
import type { NuxtError } from '#app'

defineProps<{ error: NuxtError }>()
</script>

<template>
  <main class="mx-auto max-w-xl p-16">
    <h1>
      {{ error.statusCode === 404 ? 'There is nothing at this address' : error.statusMessage || 'That did not work' }}
    </h1>
    <p class="mt-3 text-[16px]">{{ error.message }}</p>
    <button type="button" class="button main mt-6" @click="clearError({ redirect: '/day-sheet' })">
      To the day sheet
    </button>
  </main>
</template>
