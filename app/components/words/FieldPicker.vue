<script setup lang="ts">
import { FIELD_TYPES } from '#core/fields/types'
import type { ObjectKind } from '#core/records/kinds'

/** Fields of a kind of record, with what tells near-namesakes apart: the type and what keeps it. */
const props = defineProps<{ object: ObjectKind; writable?: boolean; current?: string | null }>()
const emit = defineEmits<{ pick: [key: string] }>()
const store = useCatalogue()
const options = computed(() => store.catalogue.fields(props.object).filter((field) => !props.writable || field.keptBy === null).map((field) => ({
  value: field.key, label: field.label, hint: field.keptBy ? `${FIELD_TYPES[field.type].word}, kept` : FIELD_TYPES[field.type].word, words: field.description,
})))
</script>

<template>
  <OptionList :options="options" :current="current ?? null" label="Field" placeholder="Which field?" @pick="emit('pick', $event)" />
</template>
