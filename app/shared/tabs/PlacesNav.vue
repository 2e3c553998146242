<script setup lang="ts" generic="K extends string">
/** The pages of one area, beside its heading. */
defineProps<{
  label: string
  places: readonly { readonly key: K; readonly label: string; readonly to: string }[]
  current: NoInfer<K>
}>()
</script>

<template>
  <nav :aria-label="label" class="flex flex-wrap gap-x-3 gap-y-1 font-serif text-[16px]">
    <NuxtLink
      v-for="place in places"
      :key="place.key"
      :to="place.to"
      :class="place.key === current ? 'border-b-2 border-ink font-medium' : 'text-ink2 italic hover:text-ink'"
      :aria-current="place.key === current ? 'page' : undefined"
      >{{ place.label }}</NuxtLink
    >
  </nav>
</template>
