<script setup lang="ts">
import { readMinute, sayMinute } from '#core/time/moments'

/** A time of day; where it may be left open, a button says what that means. */
const props = defineProps<{ minute: number | null; own: string | null }>()
const emit = defineEmits<{ set: [minute: number | null] }>()
const text = ref(props.minute === null ? '' : sayMinute(props.minute))
const readNow = computed(() => readMinute(text.value))
const box = useTemplateRef<HTMLInputElement>('box')
onMounted(() => void nextTick(() => requestAnimationFrame(() => box.value?.select())))
</script>

<template>
  <form class="flex flex-wrap items-center gap-2" @submit.prevent="readNow !== null && emit('set', readNow)">
    <input
      ref="box"
      v-model="text"
      class="entry w-20"
      placeholder="8:30"
      aria-label="Time of day"
      :aria-invalid="readNow === null && text !== ''"
    />
    <button class="button main" type="submit" :disabled="readNow === null">Save</button>
    <button v-if="own !== null" class="button" type="button" @click="emit('set', null)">{{ own }}</button>
    <p v-if="readNow === null && text !== ''" class="w-full text-brick" role="alert">Enter a time, for example 8:30.</p>
  </form>
</template>
