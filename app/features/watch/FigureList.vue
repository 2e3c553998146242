<script setup lang="ts">
/** A few things by name, each with its figure at the end of the line, and what needs a look of it in red. */
defineProps<{
  items: readonly {
    readonly id: number
    readonly name: string
    readonly to: string
    readonly figure: string
    readonly wrong?: string
  }[]
}>()
</script>

<template>
  <ul>
    <li v-for="one in items" :key="one.id" class="flex items-baseline justify-between gap-3 py-0.5">
      <NuxtLink :to="one.to" class="name-link min-w-0 truncate">{{ one.name }}</NuxtLink>
      <span class="quiet flex-none tabular-nums"
        >{{ one.figure }}<span v-if="one.wrong" class="text-brick">, {{ one.wrong }}</span></span
      >
    </li>
  </ul>
</template>
