<script setup lang="ts">
import type { Condition } from '#core/conditions/document'
import type { ObjectKind } from '#core/records/kinds'
import type { Widget } from '#core/rules/widgets'
import type { WordTarget } from '~/composables/useWords'

/** The panel in which one word is edited. */
const props = defineProps<{
  target: WordTarget
  object: ObjectKind
  params: Readonly<Record<string, unknown>>
  form: Readonly<Record<string, Widget>>
  condition: Condition | null
}>()
const emit = defineEmits<{ set: [value: unknown]; close: [] }>()
const store = useCatalogue()
const widget = computed(() => props.form[props.target.param] ?? null)
const field = computed(() => (props.condition ? store.catalogue.field(props.object, props.condition.field) : null))
</script>

<template>
  <PopOver :anchor="`[data-word='${target.path}/${target.param}']`" :label="`Set ${target.param}`" :wide="widget?.widget === 'mergeText'" @close="emit('close')">
    <FieldPicker v-if="condition && target.param === 'field'" :object="object" :current="condition.field" @pick="emit('set', $event)" />
    <OperatorPicker v-else-if="condition && target.param === 'op' && field" :field="field" :op="condition.op" :not="condition.not" @pick="emit('set', $event)" />
    <WidgetEditor v-else-if="widget" :key="`${target.path}/${target.param}`" :widget="widget" :param="target.param" :params="params" :object="object" @set="emit('set', $event)" />
  </PopOver>
</template>
