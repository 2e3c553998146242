<script setup lang="ts">
import { UNIT_WORDS, type MomentUnit } from '#core/time/moments'

/** A count and a unit: 2 working days. */
const props = defineProps<{
  amount: { readonly count: number; readonly unit: string }
  min: number
  max: number
  units: readonly string[]
  note: string
}>()
const emit = defineEmits<{ set: [amount: { count: number; unit: MomentUnit }] }>()
const count = ref(String(props.amount.count))
const unit = ref(props.amount.unit)
const wrong = computed(() => {
  const n = Number(count.value)
  return Number.isInteger(n) && n >= props.min && n <= props.max && count.value.trim() !== ''
    ? ''
    : `Enter a whole number from ${props.min} to ${props.max}.`
})
function apply(): void {
  if (!wrong.value) emit('set', { count: Number(count.value), unit: unit.value as MomentUnit })
}
const box = useTemplateRef<HTMLInputElement>('box')
onMounted(() => void nextTick(() => requestAnimationFrame(() => box.value?.select())))
</script>

<template>
  <form @submit.prevent="apply">
    <div class="flex gap-2">
      <input
        ref="box"
        v-model="count"
        class="entry w-20"
        inputmode="numeric"
        aria-label="Number"
        :aria-invalid="wrong !== ''"
      />
      <select v-model="unit" class="entry flex-1" aria-label="Unit">
        <option v-for="one in units" :key="one" :value="one">{{ UNIT_WORDS[one as MomentUnit] }}</option>
      </select>
    </div>
    <p v-if="wrong" class="mt-1 text-brick" role="alert">{{ wrong }}</p>
    <p class="quiet mt-1">{{ note }} Working days exclude weekends and holidays.</p>
    <p class="mt-2 flex items-center justify-between">
      <button class="button" type="submit" :disabled="wrong !== ''">Save</button
      ><span class="quiet"><kbd>Enter</kbd> to save, <kbd>Esc</kbd> to cancel</span>
    </p>
  </form>
</template>
