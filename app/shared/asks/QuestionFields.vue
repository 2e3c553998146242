<script setup lang="ts">
import type { Question } from '#core/asks/question'
import type { Value } from '#core/language/value'

/** Questions with an entry each; what is left blank is not there. */
const props = defineProps<{ questions: readonly Question[] }>()
const answers = defineModel<Record<string, Value>>({ required: true })
const typed = (text: string, type: string): Value => (text === '' ? null : type === 'number' ? Number(text) : text)
/** What stood there when it was opened, as an entry holds it; from then on entries keep what is typed by themselves. */
const before = { ...answers.value }
function said({ key, type }: Question): string {
  const value = before[key] ?? null
  return value === null ? '' : type === 'yesNo' ? (value === true ? 'yes' : 'no') : String(value)
}
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
          :selected="choice === said(question)"
        >
          {{ choice }}
        </option>
      </select>
      <input
        v-else
        class="entry mt-0.5 w-full"
        :type="INPUTS[question.type]"
        :value="said(question)"
        :step="question.type === 'number' ? 'any' : undefined"
        @input="set(question.key, typed(($event.target as HTMLInputElement).value, question.type))"
      />
    </label>
  </p>
</template>
