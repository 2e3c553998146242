<script setup lang="ts">
import { OBJECT_WORDS } from '#core/records/kinds'
import { linkedOptions } from './linkedOptions'
import { activityOfGroup, idsIn, objectOfGroup, type Group } from '#core/conditions/document'
import { addNode, newLinked, newQuestion, removeNode, setConditionWord, setMode } from '#core/conditions/edit'
import type { ObjectKind } from '#core/records/kinds'
import { conditionPart } from '#core/conditions/part'
import { useWords } from './useWords'
import { useCatalogue } from '~/shared/stores/catalogue'
import ConditionGroup from './ConditionGroup.vue'
import PopOver from './PopOver.vue'
import FieldPicker from './FieldPicker.vue'
import OptionList from './OptionList.vue'
import WordPop from './WordPop.vue'

/** Conditions by themselves, edited word by word as on a rule's sheet: the filter above a table, a segment. */
const props = defineProps<{
  group: Group
  object: ObjectKind
  /** Without a heading above it: it goes on behind other words. */ bare?: boolean
  /** What stands above the conditions. */ heading?: string
}>()
const emit = defineEmits<{ set: [group: Group] }>()
const store = useCatalogue()
const { target, openKey, open, close, goOn, begin } = useWords()
const place = computed(() => target.value?.path.split(':') ?? [])
const part = computed(() =>
  place.value[0] === 'condition' ? conditionPart(props.group, props.object, place.value[1] ?? '') : null,
)
const groupObject = computed(
  (): ObjectKind => objectOfGroup(props.group, props.object, place.value[1] ?? '') ?? props.object,
)

function freshId(also: readonly string[] = []): string {
  const taken = new Set([...idsIn(props.group), ...also])
  let n = 1
  while (taken.has(`c${n}`)) n++
  return `c${n}`
}

function set(value: unknown): void {
  if (!target.value) return
  const { path, param } = target.value
  emit('set', setConditionWord(props.group, place.value[1] ?? '', param, value, props.object, store.catalogue))
  void goOn(path, param)
}

function add(id: string, group: Group): void {
  emit('set', group)
  target.value = null
  void begin(`condition:${id}`)
}

function addCondition(key: string): void {
  const id = freshId()
  add(id, addNode(props.group, place.value[1] ?? '', newQuestion(id, key, groupObject.value, store.catalogue)))
}

function addLinked(other: ObjectKind): void {
  const id = freshId()
  add(id, addNode(props.group, place.value[1] ?? '', newLinked(id, freshId([id]), other)))
}
</script>

<template>
  <div>
    <ConditionGroup
      :group="group"
      :object="object"
      editable
      :open-word="openKey"
      :nested="bare"
      :of-linked="bare"
      subject="the"
      :heading="heading ?? `Show ${OBJECT_WORDS[object].many} where`"
      @edit="(id, param) => (openKey === `condition:${id}/${param}` ? close() : open(`condition:${id}`, param))"
      @mode="(id, mode) => emit('set', setMode(group, id, mode))"
      @add="open(`add:${$event}`, 'condition')"
      @add-linked="open(`linked:${$event}`, 'object')"
      @remove="emit('set', removeNode(group, $event))"
      @add-group="emit('set', addNode(group, $event, { kind: 'group', id: freshId(), mode: 'any', items: [] }))"
    />
    <PopOver v-if="place[0] === 'add'" :anchor="`[data-word='${openKey}']`" label="Field" @close="close"
      ><FieldPicker :object="groupObject" :activity="activityOfGroup(group, place[1] ?? '')" asks @pick="addCondition"
    /></PopOver>
    <PopOver
      v-else-if="place[0] === 'linked'"
      :anchor="`[data-word='${openKey}']`"
      label="Linked records"
      @close="close"
    >
      <OptionList
        :options="linkedOptions(groupObject)"
        label="Linked records"
        placeholder="Search record types"
        @pick="addLinked"
      />
    </PopOver>
    <WordPop
      v-else-if="target && part"
      :target="target"
      :object="part.object"
      :params="part.params"
      :form="part.form"
      :condition="part.condition"
      @set="set"
      @close="close"
    />
  </div>
</template>
