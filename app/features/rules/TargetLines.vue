<script setup lang="ts">
import { addGroup, setGroupMode, setMeasured } from '#core/rules/edit'
import { goalSentence } from '#core/rules/goal'
import ConditionGroup from '~/shared/words/ConditionGroup.vue'
import SentenceWords from '~/shared/words/SentenceWords.vue'
import type { Pinned } from './context'
import type { RuleDraft } from './useRuleDraft'

/** What the rule is for, where somebody says so; measured by its results. */
const props = defineProps<{
  draft: RuleDraft
  editable: boolean
  openWord: string | null
  bad: Readonly<Record<string, readonly string[]>>
  notes: (id: string) => readonly Pinned[]
}>()
const emit = defineEmits<{
  edit: [path: string, param: string]
  open: [path: string, param: string]
  remove: [path: string]
}>()
const rule = computed(() => props.draft.document.value)

/** It begins with its first condition. */
function add(): void {
  const measured = setMeasured(rule.value, true)
  props.draft.set(measured)
  void nextTick(() => emit('open', `add:${measured.goal?.conditions.id ?? ''}`, 'condition'))
}
</script>

<template>
  <section aria-label="Target" class="pt-1" data-line="goal:rule">
    <template v-if="rule.goal && rule.object !== 'none'">
      <ConditionGroup
        heading="Target"
        :group="rule.goal.conditions"
        :object="rule.object"
        :editable="editable"
        :open-word="openWord"
        :bad="bad"
        :notes="notes"
        @edit="(id, param) => emit('edit', `condition:${id}`, param)"
        @mode="(id, mode) => draft.set(setGroupMode(rule, id, mode))"
        @add="emit('open', `add:${$event}`, 'condition')"
        @add-group="draft.set(addGroup(rule, $event).rule)"
        @add-linked="emit('open', `linked:${$event}`, 'object')"
        @remove="emit('remove', `condition:${$event}`)"
      />
      <p class="flex items-baseline gap-3 py-0.5 font-serif text-[15px] text-ink2">
        <SentenceWords
          :parts="goalSentence(rule.goal)"
          path="goal:rule"
          :editable="editable"
          :open="openWord"
          @edit="emit('edit', 'goal:rule', $event)"
        />
        <button
          v-if="editable"
          type="button"
          class="act font-sans whitespace-nowrap"
          @click="draft.set(setMeasured(rule, false))"
        >
          Remove target
        </button>
      </p>
    </template>
    <p v-else class="pt-2">
      <button type="button" class="act" data-add-goal @click="add">Measure a target…</button>
    </p>
  </section>
</template>
