<script setup lang="ts">
import { OPERATORS, operatorsFor } from '#core/conditions/operators'
import type { Field } from '#core/fields/field'
import { plainSentence } from '#core/language/sentence'
import type { OperatorName } from '#core/conditions/operator-names'
import { useHere } from './useHere'
import OptionList from './OptionList.vue'

/** What can be asked of a field, each with its negation, said with what would follow. */
const props = defineProps<{ field: Field; op: OperatorName; not: boolean }>()
const emit = defineEmits<{ pick: [value: string] }>()
const here = useHere()
const options = computed(() =>
  operatorsFor(props.field.type).flatMap((op) => {
    const operator = OPERATORS[op]
    const tail =
      operator.listed ??
      plainSentence(operator.sentence(operator.start, props.field, here.value)).replace(/^…( to …)?$/, '')
    return [
      { value: op as string, label: `${operator.words[0]} ${tail}`.trim() },
      { value: `not ${op}`, label: `${operator.words[1]} ${tail}`.trim() },
    ]
  }),
)
</script>

<template>
  <OptionList :options="options" :current="not ? `not ${op}` : op" label="Operator" @pick="emit('pick', $event)" />
</template>
