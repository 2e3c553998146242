<script setup lang="ts">
/** A few words, typed. */
const props = defineProps<{ text: string; most: number; label: string }>()
const emit = defineEmits<{ set: [text: string] }>()
const typed = ref(props.text)
const box = useTemplateRef<HTMLInputElement>('box')
onMounted(() => void nextTick(() => requestAnimationFrame(() => box.value?.focus())))
</script>

<template>
  <form class="flex gap-2" @submit.prevent="emit('set', typed.trim())">
    <input
      ref="box"
      v-model="typed"
      class="entry flex-1"
      :maxlength="most"
      :aria-label="label"
      :placeholder="label"
    /><button class="button" type="submit">Save</button>
  </form>
</template>
