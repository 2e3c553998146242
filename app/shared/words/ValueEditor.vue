<script setup lang="ts">
import type { Field } from '#core/fields/field'
import { FIELD_TYPES } from '#core/fields/types'
import type { Value } from '#core/language/value'
import { sayProblem } from '#core/language/problems'
import { ZONE_FIELD } from '#core/rules/clock'
import { readNumber } from '#core/fields/types/number'
import { localMinute } from '#core/time/dates'
import { makeChoice } from './useChoices'
import { useCatalogue } from '~/shared/stores/catalogue'
import ValuesEditor from './ValuesEditor.vue'
import OptionList from './OptionList.vue'

/** Edits one value of a field. Enter takes it; what cannot be read says why and stays. */
const props = defineProps<{ field: Field; value: Value; asDate?: boolean }>()
const emit = defineEmits<{ set: [value: Value] }>()
const store = useCatalogue()
const widget = computed(() => (props.asDate ? 'date' : FIELD_TYPES[props.field.type].widget))
const wrong = ref('')

const text = ref(
  typeof props.value === 'number' && widget.value === 'dateTime'
    ? localMinute(props.value, store.catalogue.workspace.zone)
    : Array.isArray(props.value)
      ? ''
      : String(props.value ?? ''),
)

/** By whose clock rules start: chosen from the zones there are, so that no spelling is lost. */
const isZone = computed(() => props.field.object === 'contact' && props.field.key === ZONE_FIELD)
const options = computed(() => {
  if (isZone.value)
    return [
      { value: '', label: 'None' },
      ...Intl.supportedValuesOf('timeZone').map((zone) => ({
        value: zone,
        label: zone,
        words: zone.replace(/_/g, ' '),
      })),
    ]
  switch (widget.value) {
    case 'choice':
    case 'choices':
      return props.field.choices.map((choice) => ({ value: choice.id, label: choice.label }))
    case 'person':
      return store.catalogue.people
        .filter((person) => person.active)
        .map((person) => ({ value: person.id, label: person.name, hint: person.title }))
    case 'stage':
      return store.catalogue.pipelines.flatMap((pipeline) =>
        pipeline.stages.map((stage) => ({ value: stage.id, label: stage.name, group: pipeline.name })),
      )
    case 'pipeline':
      return store.catalogue.pipelines.map((pipeline) => ({ value: pipeline.id, label: pipeline.name }))
    case 'yesNo':
      return [
        { value: 'true', label: 'yes' },
        { value: 'false', label: 'no' },
      ]
    default:
      return null
  }
})
const current = computed(() =>
  typeof props.value === 'boolean' ? String(props.value) : typeof props.value === 'string' ? props.value : null,
)

function pick(value: string): void {
  emit('set', value === '' ? null : widget.value === 'yesNo' ? value === 'true' : value)
}

/** What is missing is made right here; everything else that was typed stays. */
async function addChoice(label: string): Promise<void> {
  const id = await makeChoice(props.field, label)
  if (id !== null) pick(id)
}

function apply(): void {
  if (text.value.trim() === '') {
    emit('set', null)
    return
  }
  const type = FIELD_TYPES[widget.value === 'date' ? 'date' : props.field.type]
  // In a popover either mark is understood: a number with one comma and no point has a decimal comma.
  const style = {
    decimal: readNumber(text.value, 'point') === null ? ('comma' as const) : ('point' as const),
    dateOrder: 'dayFirst' as const,
  }
  const read = type.read(text.value.replace('T', ' '), {
    catalogue: store.catalogue,
    field: props.field,
    style,
    pipelineId: null,
  })
  if (read.ok) emit('set', read.value)
  else wrong.value = sayProblem(read.problem)
}

const box = useTemplateRef<HTMLInputElement | HTMLTextAreaElement>('box')
// At once, so that what is typed right away goes in here; and again when it is in its place.
onMounted(() => {
  const take = (): void => {
    if (document.activeElement === box.value) return
    box.value?.focus({ preventScroll: true })
    if (widget.value !== 'date' && widget.value !== 'dateTime') box.value?.select()
  }
  take()
  void nextTick(() => requestAnimationFrame(take))
})
</script>

<template>
  <ValuesEditor
    v-if="widget === 'choices'"
    :field="field"
    :values="Array.isArray(value) ? value : []"
    @set="emit('set', $event.length ? $event : null)"
  />
  <OptionList
    v-else-if="options"
    :options="options"
    :current="current"
    :label="field.label"
    :adds="widget === 'choice' && store.may('build') ? 'as a choice' : null"
    @pick="pick"
    @add="addChoice"
  />
  <form v-else @submit.prevent="apply">
    <textarea
      v-if="widget === 'longText'"
      ref="box"
      v-model="text"
      rows="5"
      class="entry w-full"
      :aria-label="field.label"
      @keydown.ctrl.enter.prevent="apply"
    />
    <input
      v-else
      ref="box"
      v-model="text"
      class="entry w-full"
      :type="widget === 'date' ? 'date' : widget === 'dateTime' ? 'datetime-local' : 'text'"
      :inputmode="widget === 'number' ? 'decimal' : undefined"
      :aria-label="field.label"
      :aria-invalid="wrong !== ''"
    />
    <p v-if="wrong" class="mt-1 text-brick" role="alert">{{ wrong }}</p>
    <p class="mt-2 flex items-center justify-between">
      <button class="button" type="submit">Save</button
      ><span class="quiet"
        ><kbd>{{ widget === 'longText' ? 'Ctrl Enter' : 'Enter' }}</kbd> to save, <kbd>Esc</kbd> to cancel</span
      >
    </p>
  </form>
</template>
