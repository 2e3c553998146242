<script setup lang="ts">
import { activityOf } from '#core/activities/fields'
import { labelOf } from '#core/language/labels'
import type { Condition } from '#core/conditions/document'
import type { ObjectKind } from '#core/records/kinds'
import type { Widget } from '#core/language/widgets'
import type { WordTarget } from './useWords'
import { useHere } from './useHere'
import PopOver from './PopOver.vue'
import FieldPicker from './FieldPicker.vue'
import OperatorPicker from './OperatorPicker.vue'
import { loadEditors } from './editors'

const WidgetEditor = defineAsyncComponent(loadEditors)

/** The panel in which one word is edited. */
const props = defineProps<{
  target: WordTarget
  object: ObjectKind
  params: Readonly<Record<string, unknown>>
  form: Readonly<Record<string, Widget>>
  condition: Condition | null
  /** Whether there is a change whose value before it can be asked for. */
  hasBefore?: boolean
}>()
const emit = defineEmits<{ set: [value: unknown]; at: [at: 'now' | 'before']; close: [] }>()
const here = useHere()
const widget = computed(() => props.form[props.target.param] ?? null)
/** The activity whose value is asked about; `null` for a field of a record. */
const activity = computed(() =>
  props.condition ? (activityOf(props.condition.field, here.value.activities)?.kind ?? null) : null,
)
const field = computed(() => (props.condition ? here.value.field(props.object, props.condition.field) : null))
</script>

<template>
  <PopOver
    :anchor="`[data-word='${target.path}/${target.param}']`"
    :label="`Edit ${labelOf(target.param, widget?.label)}`"
    :wide="widget?.widget === 'mergeText' || widget?.widget === 'json'"
    @close="emit('close')"
  >
    <FieldPicker
      v-if="condition && target.param === 'field'"
      :object="object"
      :activity="activity"
      :current="condition.field"
      @pick="emit('set', $event)"
    />
    <OperatorPicker
      v-else-if="condition && target.param === 'op' && field"
      :field="field"
      :op="condition.op"
      :not="condition.not"
      @pick="emit('set', $event)"
    />
    <WidgetEditor
      v-else-if="widget"
      :key="`${target.path}/${target.param}`"
      :widget="widget"
      :param="target.param"
      :params="params"
      :object="object"
      @set="emit('set', $event)"
    />
    <div
      v-if="hasBefore && condition?.field && target.param === 'op'"
      role="group"
      aria-label="Value to compare"
      class="mt-2 flex gap-1.5 border-t border-hair pt-2"
    >
      <button
        v-for="[value, label] in [
          ['now', 'Current value'],
          ['before', 'Value before the change'],
        ] as const"
        :key="value"
        type="button"
        class="button py-0.5!"
        :class="(condition.at ?? 'now') === value && 'bg-violet-t'"
        :aria-pressed="(condition.at ?? 'now') === value"
        @click="emit('at', value)"
      >
        {{ label }}
      </button>
    </div>
  </PopOver>
</template>
