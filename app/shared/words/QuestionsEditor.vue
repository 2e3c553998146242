<script setup lang="ts">
import { QUESTION_TYPES, type Question } from '#core/asks/question'
import { outputKey } from '#core/tables/table'
import { vTyped } from '~/shared/keys/typed'

/** What whoever presses the button is asked. */
const props = defineProps<{ questions: readonly Question[] }>()
const emit = defineEmits<{ set: [questions: Question[]] }>()
const WORDS = { text: 'Text', number: 'Number', date: 'Date', yesNo: 'Yes or no', choice: 'Choice' } as const
const list = ref<Question[]>(props.questions.map((one) => ({ ...one })))
const known = new Set(props.questions.map((one) => one.key))
const add = (): void => {
  list.value = [...list.value, { key: '', label: '', type: 'text', choices: [], required: true }]
}
if (list.value.length === 0) add()
const change = (at: number, part: Partial<Question>): void => {
  list.value = list.value.map((one, i) => (i === at ? { ...one, ...part } : one))
}
function apply(): void {
  const made: Question[] = []
  for (const one of list.value) {
    const label = one.label.trim()
    // A key that was there stays: steps name the answer by it.
    if (label !== '')
      made.push({
        ...one,
        label,
        key: known.has(one.key)
          ? one.key
          : outputKey(
              label,
              [...made, ...list.value.filter((other) => known.has(other.key))].map((other) => other.key),
            ),
      })
  }
  emit('set', made)
}
const lines = (text: string): string[] => [
  ...new Set(
    text
      .split(',')
      .map((one) => one.trim())
      .filter(Boolean),
  ),
]
</script>

<template>
  <form @submit.prevent="apply">
    <ol class="space-y-2">
      <li v-for="(question, at) in list" :key="at" class="border-b border-hair pb-2">
        <p class="flex gap-2">
          <input
            :value="question.label"
            class="entry min-w-0 flex-1"
            maxlength="200"
            placeholder="Question"
            :aria-label="`Question ${at + 1}`"
            @input="change(at, { label: ($event.target as HTMLInputElement).value })"
            @vue:mounted="at === list.length - 1 && ($event.el as HTMLElement).focus()"
          /><button
            type="button"
            class="quiet px-1"
            :aria-label="`Remove question ${at + 1}`"
            @click="list = list.filter((_, i) => i !== at)"
          >
            ×
          </button>
        </p>
        <p class="mt-1 flex flex-wrap items-baseline gap-2">
          Answer type
          <select
            class="entry py-0.5!"
            :value="question.type"
            :aria-label="`Answer type of question ${at + 1}`"
            @change="change(at, { type: ($event.target as HTMLSelectElement).value as Question['type'] })"
          >
            <option v-for="type in QUESTION_TYPES" :key="type" :value="type">{{ WORDS[type] }}</option>
          </select>
          <input
            v-if="question.type === 'choice'"
            v-typed="question.choices.join(', ')"
            class="entry order-last w-full py-0.5!"
            placeholder="Sick, Fully booked, Moved"
            :aria-label="`Choices for question ${at + 1}, separated by commas`"
            @change="change(at, { choices: lines(($event.target as HTMLInputElement).value) })"
          />
          <label class="flex items-baseline gap-1"
            ><input
              type="checkbox"
              :checked="question.required"
              @change="change(at, { required: ($event.target as HTMLInputElement).checked })"
            />Required</label
          >
        </p>
      </li>
    </ol>
    <p class="mt-2 flex gap-2">
      <button class="button main" type="submit">Save</button
      ><button class="button" type="button" @click="add">Add question</button>
    </p>
  </form>
</template>
