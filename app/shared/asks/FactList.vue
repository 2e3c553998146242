<script setup lang="ts">
import type { Fact } from '#core/asks/question'

/** What somebody should know of the record before they answer. */
defineProps<{ facts: readonly Fact[] }>()
</script>

<template>
  <dl v-if="facts.length > 0" class="mt-2 grid grid-cols-[auto_1fr] gap-x-3 rounded-[3px] bg-paper2 px-2 py-1">
    <template v-for="fact in facts" :key="fact.label"
      ><dt class="text-ink2">{{ fact.label }}</dt>
      <dd>{{ fact.value }}</dd></template
    >
  </dl>
</template>
