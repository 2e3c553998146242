<script setup lang="ts">
import { percent } from '#core/language/counts'
import { namesakes } from '#core/fields/namesakes'
import { FIELD_TYPES } from '#core/fields/types'
import type { ActivityName } from '#core/activities'
import { activityFields } from '#core/activities/fields'
import { DID_KEY, type AskKey } from '#core/conditions/asks'
import type { Field } from '#core/fields/field'
import type { ObjectKind } from '#core/records/kinds'
import type { FieldTypeName } from '#core/language/field-types'
import { useFieldSheet } from './useFieldSheet'
import { useHere } from './useHere'
import OptionList from './OptionList.vue'

/**
 * Fields of a kind of record, with what tells near-namesakes apart: the type, what keeps it, how far it is filled, and
 * for those that could be taken for one another what they mean and hold.
 */
const props = defineProps<{
  object: ObjectKind
  writable?: boolean
  /** Only fields of these types. */ types?: readonly FieldTypeName[] | undefined
  /** Only the points of scorecards. */ made?: 'score' | undefined
  current?: string | null
  /** What can be asked of the record as a whole is offered behind its fields. */ asks?: boolean
  /** The values of such an activity, in place of fields of the record. */ activity?: ActivityName | null
  /** What it means to choose none, where that can be. */ none?: string | undefined
}>()
const emit = defineEmits<{ pick: [key: string] }>()
const here = useHere()
const { sheet, look } = useFieldSheet(() => props.object)
onMounted(look)
const activity = computed(() => (props.activity ? here.value.activities.get(props.activity) : null))
const fields = computed(() =>
  (activity.value ? activityFields(activity.value, props.object) : here.value.fields(props.object)).filter(
    (field) =>
      (!props.writable || field.keptBy === null) &&
      (!props.types || props.types.includes(field.type)) &&
      (props.made === undefined || (field.made?.by === 'score' && field.made.part === 'points')),
  ),
)
const options = computed(() => {
  const alike = namesakes(fields.value)
  return [
    ...(props.none === undefined ? [] : [{ value: '', label: props.none, words: '', hint: '' }]),
    ...fields.value.map(option),
    ...(props.asks && !props.activity ? ASKS : []),
  ]
  function option(field: Field) {
    const line = sheet.value?.lines.find((one) => one.field.id === field.id)
    const share =
      line && sheet.value && sheet.value.total > 0 ? `${percent(line.filled / sheet.value.total)} filled` : ''
    const samples = line?.samples.map((sample) => sample.text).join(', ') ?? ''
    return {
      value: field.key,
      label: field.label,
      words: field.description,
      hint: [FIELD_TYPES[field.type].word, field.keptBy && !props.activity ? 'kept' : '', share]
        .filter(Boolean)
        .join(', '),
      ...(alike.has(field.key) ? { detail: field.keptBy ?? (field.description || samples) } : {}),
    }
  }
})
const ASKS: readonly { value: AskKey | typeof DID_KEY; label: string; words: string; hint: string }[] = [
  { value: '@inSegment', label: 'In a segment', words: 'saved filter list', hint: 'a saved filter' },
  {
    value: DID_KEY,
    label: 'Something people did',
    words: 'activity visit form call message appointment opened answered missed',
    hint: 'visits, calls, forms',
  },
  { value: '@formula', label: 'A formula is true', words: 'calculate compute expression', hint: 'calculated' },
]
</script>

<template>
  <OptionList
    :options="options"
    :current="current ?? null"
    label="Field"
    placeholder="Search fields"
    @pick="emit('pick', $event)"
  />
</template>
