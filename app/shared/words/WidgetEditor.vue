<script setup lang="ts">
import { labelOf } from '#core/language/labels'
import type { OtherField } from '#core/conditions/operators/another-field'
import type { Field } from '#core/fields/field'
import type { ObjectKind } from '#core/records/kinds'
import type { Widget } from '#core/language/widgets'
import type { Value } from '#core/language/value'
import type { Question } from '#core/asks/question'
import type { When } from '#core/rules/when'
import type { Who } from '#core/rules/who'
import type { ValueSource } from '#core/rules/value-source'
import { useHere } from './useHere'
import FieldPicker from './FieldPicker.vue'
import OptionList from './OptionList.vue'
import AmountEditor from './AmountEditor.vue'
import WhoEditor from './WhoEditor.vue'
import MinuteEditor from './MinuteEditor.vue'
import SeveralEditor from './SeveralEditor.vue'
import RecurrenceEditor from './RecurrenceEditor.vue'
import WhenEditor from './WhenEditor.vue'
import WordsEditor from './WordsEditor.vue'
import FieldsEditor from './FieldsEditor.vue'
import QuestionsEditor from './QuestionsEditor.vue'
import type { Reading } from '#core/web/reading'
import { onceReady } from '~/shared/onceReady'
import { isListWidget, listOfWidget } from './listWidgets'
import LinesEditor from './LinesEditor.vue'
import CountEditor from './CountEditor.vue'
import PeopleEditor from './PeopleEditor.vue'
import OtherFieldPicker from './OtherFieldPicker.vue'
import ValueEditor from './ValueEditor.vue'
import ValuesEditor from './ValuesEditor.vue'
import SourceEditor from './SourceEditor.vue'
import SourceFormula from './SourceFormula.vue'

const ReadingsEditor = onceReady(() => import('./ReadingsEditor.vue'))

const JsonEditor = onceReady(() => import('./JsonEditor.vue'))

const MergeTextEditor = defineAsyncComponent(() => import('./MergeTextEditor.vue'))

interface RecurrenceRule {
  rule: string
  from: string
}

/**
 * Draws the editor that a form names. Every widget of the core has its branch; one that is missing does not compile.
 */
const props = defineProps<{
  widget: Widget
  param: string
  params: Readonly<Record<string, unknown>>
  object: ObjectKind
}>()
const emit = defineEmits<{ set: [value: unknown] }>()
const here = useHere()

const value = computed(() => props.params[props.param])
const field = computed((): Field | null => {
  const key = 'of' in props.widget ? props.params[props.widget.of] : null
  return typeof key === 'string' ? here.value.field(props.object, key) : null
})
/** The kind of record whose fields are offered; none while it is still to be chosen. */
const fieldObject = computed((): ObjectKind | null =>
  props.widget.widget === 'field' && props.widget.object !== undefined
    ? (props.params[props.widget.object] as ObjectKind | null)
    : props.object,
)
/** The field that a condition asks about. */
const conditionField = computed((): Field | null =>
  typeof props.params.field === 'string' ? here.value.field(props.object, props.params.field) : null,
)
const kind = computed(() => props.widget)
const list = computed(() =>
  listOfWidget(props.widget, { here: here.value, object: props.object, param: props.param, params: props.params }),
)
function never(widget: never): never {
  throw new Error(`no editor for ${JSON.stringify(widget)}`)
}
/** Toggles need no panel: the sheet turns them round at once. */
const shape = computed(() => {
  const { widget: one } = props
  if (isListWidget(one)) return one.widget
  switch (one.widget) {
    case 'field':
    case 'value':
    case 'values':
    case 'source':
    case 'formula':
    case 'people':
    case 'toggle':
    case 'amount':
    case 'count':
    case 'otherField':
    case 'phoneField':
    case 'readings':
    case 'lines':
    case 'mergeText':
    case 'json':
    case 'table':
    case 'words':
    case 'fields':
    case 'questions':
    case 'who':
    case 'minute':
    case 'several':
    case 'recurrence':
    case 'when':
      return one.widget
    default:
      return never(one)
  }
})
</script>

<template>
  <OptionList
    v-if="list"
    :options="list.options"
    :label="list.label"
    :current="list.current"
    :placeholder="list.placeholder"
    @pick="emit('set', list.read($event))"
  />
  <FieldPicker
    v-else-if="kind.widget === 'field' && fieldObject"
    :object="fieldObject"
    :writable="kind.writable"
    :types="kind.types"
    :made="kind.made"
    :none="kind.none"
    :current="value as string | null"
    @pick="emit('set', $event === '' ? null : $event)"
  />
  <PeopleEditor
    v-else-if="kind.widget === 'people'"
    :people="(value as string[] | undefined) ?? []"
    :none="kind.none"
    @set="emit('set', $event)"
  />
  <AmountEditor
    v-else-if="kind.widget === 'amount'"
    :amount="value as { count: number; unit: string }"
    :min="kind.min"
    :max="kind.max"
    :units="kind.units"
    :note="kind.note"
    @set="emit('set', $event)"
  />
  <ReadingsEditor
    v-else-if="kind.widget === 'readings'"
    :readings="value as readonly Reading[]"
    @set="emit('set', $event)"
  />
  <FieldPicker
    v-else-if="kind.widget === 'phoneField'"
    object="contact"
    :types="['phone']"
    :current="value as string | null"
    @pick="emit('set', $event)"
  />
  <WhoEditor
    v-else-if="kind.widget === 'who'"
    :who="value as Who | undefined"
    :owner="kind.owner"
    :queue="kind.queue ?? false"
    :everyone="kind.everyone ?? false"
    :record="object !== 'none'"
    @set="emit('set', $event)"
  />
  <MinuteEditor
    v-else-if="kind.widget === 'minute'"
    :minute="value as number | null"
    :own="kind.own"
    @set="emit('set', $event)"
  />
  <SeveralEditor
    v-else-if="kind.widget === 'several'"
    :chosen="value as number[]"
    :options="kind.options"
    :none="kind.none"
    @set="emit('set', $event)"
  />
  <RecurrenceEditor
    v-else-if="kind.widget === 'recurrence'"
    :rule="value as RecurrenceRule"
    @set="emit('set', $event)"
  />
  <WhenEditor
    v-else-if="kind.widget === 'when'"
    :when="value as When | undefined"
    :object="object"
    :none="kind.none"
    :ways="kind.ways"
    :date-only="kind.dateOnly"
    @set="emit('set', $event)"
  />
  <WordsEditor
    v-else-if="kind.widget === 'words'"
    :text="String(value ?? '')"
    :most="kind.most"
    :label="kind.label"
    @set="emit('set', $event)"
  />
  <FieldsEditor
    v-else-if="kind.widget === 'fields'"
    :fields="value as string[]"
    :object="object"
    @set="emit('set', $event)"
  />
  <QuestionsEditor
    v-else-if="kind.widget === 'questions'"
    :questions="value as Question[]"
    @set="emit('set', $event)"
  />
  <LinesEditor
    v-else-if="kind.widget === 'lines'"
    :lines="value as string[]"
    :what="kind.of"
    @set="emit('set', $event)"
  />
  <CountEditor
    v-else-if="kind.widget === 'count'"
    :count="value as number"
    :min="kind.min"
    :max="kind.max"
    @set="emit('set', $event)"
  />
  <OtherFieldPicker
    v-else-if="kind.widget === 'otherField' && conditionField"
    :field="conditionField"
    :other="value as OtherField | null"
    @set="emit('set', $event)"
  />
  <MergeTextEditor
    v-else-if="kind.widget === 'mergeText'"
    :text="String(value ?? '')"
    :object="object"
    :lines="kind.lines"
    :most="kind.most"
    :label="labelOf(param, widget.label)"
    @set="emit('set', $event)"
  />
  <JsonEditor
    v-else-if="kind.widget === 'json'"
    :text="String(value ?? '')"
    :object="object"
    :most="kind.most"
    :label="labelOf(param, widget.label)"
    @set="emit('set', $event)"
  />
  <ValueEditor
    v-else-if="kind.widget === 'value' && field"
    :field="field"
    :value="value as Value"
    :as-date="param === 'date'"
    @set="emit('set', $event)"
  />
  <ValuesEditor
    v-else-if="kind.widget === 'values' && field"
    :field="field"
    :values="value as string[]"
    @set="emit('set', $event)"
  />
  <SourceEditor
    v-else-if="kind.widget === 'source' && field"
    :field="field"
    :source="value as ValueSource"
    :object="object"
    @set="emit('set', $event)"
  />
  <SourceFormula
    v-else-if="kind.widget === 'formula'"
    type="yesNo"
    :object="object"
    :text="String(value ?? '')"
    @set="emit('set', $event)"
  />
  <p v-else class="quiet" :data-shape="shape">
    {{
      kind.widget === 'table'
        ? 'Edit the table on the sheet.'
        : kind.widget === 'field'
          ? 'Choose a record type first.'
          : 'Choose a field first.'
    }}
  </p>
</template>
