<script setup lang="ts">
import { othersFor, sayOther, type OtherField } from '#core/conditions/operators/another-field'
import type { Field } from '#core/fields/field'
import { FIELD_TYPES } from '#core/fields/types'
import { useHere } from './useHere'
import OptionList from './OptionList.vue'

/** The fields that one can be compared with: its record's own, and those of the main linked records. */
const props = defineProps<{ field: Field; other: OtherField | null }>()
const emit = defineEmits<{ set: [other: OtherField] }>()
const here = useHere()
const idOf = (other: OtherField): string => `${other.via ?? ''}.${other.field}`
const others = computed(() => othersFor(props.field, here.value))
const options = computed(() =>
  others.value.map(({ other, field }) => ({
    value: idOf(other),
    label: sayOther(other, props.field, here.value) ?? field.label,
    hint: FIELD_TYPES[field.type].word,
  })),
)
function pick(id: string): void {
  const found = others.value.find(({ other }) => idOf(other) === id)
  if (found) emit('set', found.other)
}
</script>

<template>
  <OptionList
    v-if="options.length"
    :options="options"
    :current="other && idOf(other)"
    label="Other field"
    placeholder="Search fields"
    @pick="pick"
  />
  <p v-else class="quiet">No other field can be compared with this one.</p>
</template>
