<script setup lang="ts">
import type { Field } from '#core/fields/field'
import type { Value } from '#core/language/value'
import type { ObjectKind, RecordKind } from '#core/records/kinds'
import { mainKinds } from '#core/conditions/operators/another-field'
import { canAdd, fits, type ValueSource } from '#core/rules/value-source'
import { useHere } from './useHere'
import ValueEditor from './ValueEditor.vue'
import OptionList from './OptionList.vue'
import SourceFormula from './SourceFormula.vue'

/** Where a written value comes from: a value, another field, today, or nothing. */
const props = defineProps<{ field: Field; source: ValueSource; object: ObjectKind }>()
const emit = defineEmits<{ set: [source: ValueSource] }>()
const here = useHere()
type Way = ValueSource['from']
const way = ref<Way>(props.source.from)
const others = computed(() =>
  here.value.fields(props.object).filter((field) => field.key !== props.field.key && fits(field, props.field)),
)
const linked = computed(() =>
  mainKinds(props.object).flatMap((via) =>
    here.value
      .fields(via)
      .filter((field) => field.id !== 0 && fits(field, props.field))
      .map((field) => ({ value: `${via}.${field.key}`, label: field.label, group: via })),
  ),
)
const keptAsFormula = ['number', 'currency', 'percent', 'text', 'longText', 'yesNo', 'date', 'dateTime'].includes(
  props.field.type,
)
const ways = computed((): readonly { value: Way; label: string }[] => [
  { value: 'value', label: 'Value' },
  ...(props.field.type === 'date'
    ? [{ value: 'today' as const, label: 'Today' }]
    : props.field.type === 'dateTime'
      ? [{ value: 'today' as const, label: 'Now' }]
      : []),
  ...(others.value.length ? [{ value: 'field' as const, label: 'Another field' }] : []),
  ...(keptAsFormula ? [{ value: 'formula' as const, label: 'Formula' }] : []),
  ...(linked.value.length ? [{ value: 'linked' as const, label: 'Field of a linked record' }] : []),
  ...(canAdd(props.field) ? [{ value: 'add' as const, label: 'Add to current value' }] : []),
  ...(props.field.required ? [] : [{ value: 'empty' as const, label: 'Clear the field' }]),
])
function choose(value: Way): void {
  way.value = value
  if (value === 'today' || value === 'empty') emit('set', { from: value })
}
const start = computed((): Value =>
  props.source.from === 'value' || props.source.from === 'add' ? props.source.value : null,
)
const set = (value: Value) => emit('set', { from: way.value === 'add' ? 'add' : 'value', value })
function setLinked(value: string): void {
  const [via = '', field = ''] = value.split('.')
  emit('set', { from: 'linked', via: via as RecordKind, field })
}
</script>

<template>
  <div role="group" aria-label="Source of the value" class="mb-2 flex flex-wrap gap-1.5">
    <button
      v-for="one in ways"
      :key="one.value"
      type="button"
      class="button py-0.5!"
      :class="way === one.value && 'bg-violet-t'"
      :aria-pressed="way === one.value"
      @click="choose(one.value)"
    >
      {{ one.label }}
    </button>
  </div>
  <ValueEditor v-if="way === 'value' || way === 'add'" :key="way" :field="field" :value="start" @set="set" />
  <OptionList
    v-else-if="way === 'field'"
    :options="others.map((other) => ({ value: other.key, label: other.label }))"
    label="Other field"
    :current="source.from === 'field' ? source.field : null"
    @pick="emit('set', { from: 'field', field: $event })"
  />
  <SourceFormula
    v-else-if="way === 'formula'"
    :type="field.type"
    :object="object"
    :text="source.from === 'formula' ? source.text : ''"
    :clears="field.required ? undefined : source.from === 'formula' && source.clears === true"
    @set="(text, clears) => emit('set', { from: 'formula', text, ...(clears ? { clears } : {}) })"
  />
  <OptionList
    v-else-if="way === 'linked'"
    :options="linked"
    label="Linked record’s field"
    :current="source.from === 'linked' ? `${source.via}.${source.field}` : null"
    @pick="setLinked"
  />
</template>
