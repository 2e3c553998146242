<script setup lang="ts">
import { useCatalogue } from '~/shared/stores/catalogue'

/** The people that were chosen, in their order; each is taken out by pressing it. */
const people = defineModel<readonly string[]>({ required: true })
const store = useCatalogue()
</script>

<template>
  <ol v-if="people.length > 0" class="mb-2 flex flex-wrap gap-1.5">
    <li v-for="id in people" :key="id">
      <button
        type="button"
        class="button py-0.5!"
        :aria-label="`Remove ${store.personName(id)}`"
        @click="people = people.filter((one) => one !== id)"
      >
        {{ store.personName(id) }} ×
      </button>
    </li>
  </ol>
</template>
