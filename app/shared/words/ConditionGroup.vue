<script setup lang="ts">
import { plainSentence } from '#core/language/sentence'
import { count, figure, plural } from '#core/language/counts'
import { conditionSentence } from '#core/conditions/compile'
import { askSentence } from '#core/conditions/asks'
import { objectWithin, type Group, type GroupMode, type Leaf } from '#core/conditions/document'
import { didSentence } from '#core/conditions/did'
import { linkedSentence } from '#core/conditions/linked'
import type { ObjectKind } from '#core/records/kinds'
import { useHere } from './useHere'
import SentenceWords from './SentenceWords.vue'

/** Conditions as sentences under the word that joins them; groups stand indented in groups. */
const props = defineProps<{
  group: Group
  object: ObjectKind
  editable: boolean
  openWord: string | null
  /** How many records each condition lets through by itself, of how many. */
  alone?: Readonly<Record<string, number>>
  total?: number
  /** The condition that keeps the record out that is being looked at. */
  missId?: string | null
  bad?: Readonly<Record<string, readonly string[]>>
  /** What preflight has to say about a condition or a group, by its id. */
  notes?: ((id: string) => readonly { readonly text: string; readonly tone: string }[]) | undefined
  nested?: boolean
  /** What is asked of linked records, under the line that asks it. */ ofLinked?: boolean
  /** What is asked of an activity: its own values alone. */ ofActivity?: boolean
  /** Whose fields are asked about: “its”, or “the” behind a “where”. */ subject?: 'its' | 'the'
  /** What stands above the conditions. */ heading?: string
}>()
const emit = defineEmits<{
  edit: [id: string, param: string]
  mode: [id: string, mode: GroupMode]
  add: [groupId: string]
  addGroup: [groupId: string]
  addLinked: [groupId: string]
  remove: [id: string]
}>()
const here = useHere()
const MODES: readonly { value: GroupMode; label: string }[] = [
  { value: 'all', label: 'all of these are true' },
  { value: 'any', label: 'any of these is true' },
  { value: 'none', label: 'none of these is true' },
]
const modeWord = computed(() => MODES.find((mode) => mode.value === props.group.mode)?.label)
const nextMode = computed((): GroupMode => (({ all: 'any', any: 'none', none: 'all' }) as const)[props.group.mode])
function sentence(item: Leaf) {
  switch (item.kind) {
    case 'condition':
      return conditionSentence(item, props.object, here.value, props.subject ?? 'its')
    case 'linked':
      return linkedSentence(item, props.object, here.value)
    case 'did':
      return didSentence(item, props.object, here.value)
    case 'inSegment':
    case 'formula':
      return askSentence(item, props.object, here.value, props.subject ?? 'its')
  }
}
const share = (id: string): number => (props.total ? (props.alone?.[id] ?? 0) / props.total : 0)
</script>

<template>
  <div>
    <div
      v-if="!ofLinked || group.items.length > 1 || group.mode !== 'all'"
      :class="nested ? 'font-serif text-[17px]' : 'part'"
    >
      <h2 v-if="!nested" class="part mr-1 inline">{{ heading ?? 'Only if' }}</h2>
      <button
        v-if="editable && (group.items.length > 1 || (nested && !ofLinked) || group.mode !== 'all')"
        type="button"
        class="word font-sans text-[13px] not-italic"
        :aria-label="`Change: ${modeWord}`"
        @click="emit('mode', group.id, nextMode)"
      >
        {{ modeWord }}
      </button>
      <span v-else-if="group.items.length > 1 || group.mode !== 'all'" class="font-sans text-[13px] not-italic">{{
        modeWord
      }}</span>
    </div>
    <div v-if="group.items.length > 0" role="list" aria-label="Conditions">
      <div v-for="item in group.items" :key="item.id" role="listitem">
        <div
          v-if="item.kind !== 'group'"
          :data-line="`condition:${item.id}`"
          class="group/line flex items-baseline gap-3 rounded-sm py-0.5"
          :class="missId === item.id && 'bg-brick-t'"
          @keydown.delete="editable && $event.key === 'Delete' && emit('remove', item.id)"
        >
          <p class="min-w-0 flex-1 font-serif text-[18px] leading-normal">
            <SentenceWords
              :parts="sentence(item)"
              :path="`condition:${item.id}`"
              :editable="editable"
              :open="openWord"
              :bad="bad?.[item.id]"
              @edit="emit('edit', item.id, $event)"
            />
            <span
              v-for="note in notes?.(item.id) ?? []"
              :key="note.text"
              class="ml-2 inline-block rounded-[3px] px-1.5 font-sans text-[13px] font-medium"
              :class="note.tone"
              >{{ note.text }}</span
            >
          </p>
          <button
            v-if="editable"
            type="button"
            class="quiet px-1 opacity-0 group-focus-within/line:opacity-100 group-hover/line:opacity-100"
            :aria-label="`Remove condition: ${plainSentence(sentence(item))}`"
            @click="emit('remove', item.id)"
          >
            Remove
          </button>
          <span
            v-if="alone && total !== undefined"
            class="quiet flex items-center gap-2 whitespace-nowrap"
            :title="`${figure(alone[item.id] ?? 0)} of ${count(total, object)} ${plural(alone[item.id] ?? 0, 'meets', 'meet')} this condition alone`"
          >
            <i
              class="inline-block h-2 bg-violet opacity-55"
              :style="{ width: `${Math.round(share(item.id) * 60)}px` }"
              aria-hidden="true"
            />{{ alone[item.id] ?? 0 }} of {{ total }}
          </span>
        </div>
        <div
          v-if="(item.kind === 'linked' || item.kind === 'did') && (editable || item.group.items.length > 0)"
          class="mb-1 border-l border-hair pl-5"
        >
          <ConditionGroup
            :group="item.group"
            :object="objectWithin(item)"
            :of-activity="item.kind === 'did'"
            subject="the"
            :editable="editable"
            :open-word="openWord"
            :bad="bad"
            :notes="notes"
            nested
            of-linked
            @edit="(id, param) => emit('edit', id, param)"
            @mode="(id, mode) => emit('mode', id, mode)"
            @add="emit('add', $event)"
            @add-group="emit('addGroup', $event)"
            @add-linked="emit('addLinked', $event)"
            @remove="emit('remove', $event)"
          />
        </div>
        <div
          v-else-if="item.kind === 'group'"
          class="my-1 border-l border-hair pl-5"
          :class="missId === item.id && 'bg-brick-t'"
        >
          <ConditionGroup
            :group="item"
            :object="object"
            :of-activity="ofActivity"
            :subject="subject"
            :editable="editable"
            :open-word="openWord"
            :alone="alone"
            :total="total"
            :miss-id="missId"
            :bad="bad"
            :notes="notes"
            nested
            @edit="(id, param) => emit('edit', id, param)"
            @mode="(id, mode) => emit('mode', id, mode)"
            @add="emit('add', $event)"
            @add-group="emit('addGroup', $event)"
            @add-linked="emit('addLinked', $event)"
            @remove="emit('remove', $event)"
          />
        </div>
      </div>
    </div>
    <p v-if="editable" class="flex gap-4 pb-1 text-[14px]">
      <button type="button" class="act" :data-word="`add:${group.id}/condition`" @click="emit('add', group.id)">
        {{ group.items.length ? (group.mode === 'all' ? 'And…' : 'Or…') : ofLinked ? 'Where…' : 'Add condition' }}
      </button>
      <button
        v-if="!ofActivity"
        type="button"
        class="act"
        :data-word="`linked:${group.id}/object`"
        @click="emit('addLinked', group.id)"
      >
        Linked records…
      </button>
      <button v-if="group.items.length > 0" type="button" class="act" @click="emit('addGroup', group.id)">
        Add group
      </button>
      <button v-if="nested && !ofLinked" type="button" class="act" @click="emit('remove', group.id)">
        Remove group
      </button>
    </p>
  </div>
</template>
