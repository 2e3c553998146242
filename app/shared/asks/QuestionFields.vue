<script setup lang="ts">
import type { Question } from '#core/asks/question'
import type { Value } from '#core/language/value'

/** Questions with an entry each; what is left blank is not there. */
const props = defineProps<{ questions: readonly Question[] }>()
const answers = defineModel<Record<string, Value>>({ required: true })
const typed = (text: string, type: string): Value => (text === '' ? null : type === 'number' ? Number(text) : text)
const INPUTS = { text: 'text', number: 'number', date: 'date' } as const
function set(key: string, value: Value): void {
  answers.value = { ...answers.value, [key]: value }
}
function choose({ key, type }: Question, { value }: HTMLSelectElement): void {
  set(key, value === '' ? null : type === 'yesNo' ? value === 'yes' : value)
}
</script>

<template>
  <p v-for="question in props.questions" :key="question.key" class="mt-2">
    <label class="block"
      >{{ question.label }} <span v-if="!question.required" class="quiet">(optional)</span>
      <select
        v-if="question.type === 'choice' || question.type === 'yesNo'"
        class="entry mt-0.5 w-full"
        @change="choose(question, $event.target as HTMLSelectElement)"
      >
        <option value="" />
        <option
          v-for="choice in question.type === 'yesNo' ? ['yes', 'no'] : question.choices"
          :key="choice"
          :value="choice"
        >
          {{ choice }}
        </option>
      </select>
      <input
        v-else
        class="entry mt-0.5 w-full"
        :type="INPUTS[question.type]"
        :step="question.type === 'number' ? 'any' : undefined"
        @input="set(question.key, typed(($event.target as HTMLInputElement).value, question.type))"
      />
    </label>
  </p>
</template>
