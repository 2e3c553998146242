<script setup lang="ts">
/** What the marks on a line of time mean: each has a form and a colour of its own, so that neither is needed alone. */
defineProps<{ marks: readonly (readonly [mark: string, words: string])[] }>()
</script>

<template>
  <ul aria-label="Meaning of the marks" class="flex flex-wrap gap-x-4 gap-y-1 text-[12.5px] text-ink2">
    <li v-for="[mark, words] in marks" :key="words" class="flex items-center gap-1.5">
      <span class="mark scale-75" :class="mark" aria-hidden="true" />{{ words }}
    </li>
  </ul>
</template>
