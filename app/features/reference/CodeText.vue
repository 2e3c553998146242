<script setup lang="ts">
/** A text in which what stands between backticks is set as code. */
const props = defineProps<{ text: string }>()
const parts = computed(() =>
  props.text
    .split('`')
    .map((text, i) => ({ text, code: i % 2 === 1 }))
    .filter((part) => part.text !== ''),
)
</script>

<template>
  <template v-for="(part, i) in parts" :key="i"
    ><code v-if="part.code" class="rounded-[2px] bg-paper2 px-1 text-[0.92em]">{{ part.text }}</code
    ><template v-else>{{ part.text }}</template></template
  >
</template>
