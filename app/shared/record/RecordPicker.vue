<script setup lang="ts">
import type { RecordRef } from '#core/records/kinds'
import OptionList from '~/shared/words/OptionList.vue'
import { useFound } from './useFound'

/** A record found by words in its name: type, arrows, Enter. */
const props = defineProps<{
  label: string
  placeholder: string
  /** Which records can be meant. */
  fits: (ref: RecordRef) => boolean
  /** What stands small beside a name. */
  hint: (ref: RecordRef) => string
}>()
const emit = defineEmits<{ pick: [ref: RecordRef] }>()
const { words, found } = useFound()
const nameOf = (ref: RecordRef): string => `${ref.object}:${ref.id}`
const records = computed(() => found.value.records.filter((one) => props.fits(one.ref)))
const options = computed(() =>
  records.value.map((one) => ({ value: nameOf(one.ref), label: one.name, hint: props.hint(one.ref) })),
)
function pick(value: string): void {
  const one = records.value.find((record) => nameOf(record.ref) === value)
  if (one) emit('pick', one.ref)
}
</script>

<template>
  <OptionList
    :options="options"
    :current="null"
    :label="label"
    :placeholder="placeholder"
    searched
    @words="words = $event"
    @pick="pick"
  />
</template>
