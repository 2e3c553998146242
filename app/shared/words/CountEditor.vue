<script setup lang="ts">
/** A whole number between two ends. */
const props = defineProps<{ count: number; min: number; max: number }>()
const emit = defineEmits<{ set: [count: number] }>()
const text = ref(String(props.count))
const wrong = computed(() => {
  const n = Number(text.value)
  return text.value.trim() !== '' && Number.isInteger(n) && n >= props.min && n <= props.max
    ? ''
    : `Enter a whole number from ${props.min} to ${props.max}.`
})
const box = useTemplateRef<HTMLInputElement>('box')
onMounted(() => void nextTick(() => requestAnimationFrame(() => box.value?.select())))
</script>

<template>
  <form class="flex gap-2" @submit.prevent="wrong || emit('set', Number(text))">
    <input
      ref="box"
      v-model="text"
      class="entry w-20"
      inputmode="numeric"
      aria-label="Number"
      :aria-invalid="wrong !== ''"
    />
    <button class="button" type="submit" :disabled="wrong !== ''">Save</button>
    <span v-if="wrong" class="text-brick" role="alert">{{ wrong }}</span>
  </form>
</template>
