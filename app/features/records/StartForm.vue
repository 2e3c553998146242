<script setup lang="ts">
import type { Value } from '#core/language/value'
import type { ObjectKind } from '#core/records/kinds'
import type { StartButton } from '~~/server/views/starts'

/** What a button shows and asks before its rule starts. */
const props = defineProps<{ start: StartButton; object: ObjectKind; act: string }>()
const emit = defineEmits<{ go: [answers: Record<string, Value>]; close: [] }>()
const answers = ref<Record<string, Value>>({})
const typed = (text: string, type: string): Value => (text === '' ? null : type === 'number' ? Number(text) : text)
const missing = computed(() =>
  props.start.questions.some((one) => one.required && (answers.value[one.key] ?? null) === null),
)
const INPUTS = { text: 'text', number: 'number', date: 'date' } as const
function choose({ key, type }: { readonly key: string; readonly type: string }, { value }: HTMLSelectElement): void {
  answers.value[key] = value === '' ? null : type === 'yesNo' ? value === 'yes' : value
}
</script>

<template>
  <form @submit.prevent="!missing && emit('go', answers)">
    <p class="font-serif text-[16px]">{{ start.button }}</p>
    <p class="quiet">Runs rule “{{ start.ruleName }}”</p>
    <dl v-if="start.facts.length > 0" class="mt-2 grid grid-cols-[auto_1fr] gap-x-3 rounded-[3px] bg-paper2 px-2 py-1">
      <template v-for="fact in start.facts" :key="fact.label"
        ><dt class="text-ink2">{{ fact.label }}</dt>
        <dd>{{ fact.value }}</dd></template
      >
    </dl>
    <p v-for="question in start.questions" :key="question.key" class="mt-2">
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
          @input="answers[question.key] = typed(($event.target as HTMLInputElement).value, question.type)"
        />
      </label>
    </p>
    <p v-if="start.keeps" class="mt-2 text-brick" role="alert">
      Nothing will happen: {{ start.keeps }} is not true for this record.
    </p>
    <p class="mt-3 flex gap-2">
      <button type="submit" class="button main" :disabled="missing">{{ act }}</button><button
        type="button"
        class="button"
        @click="emit('close')"
      >
        Cancel
      </button>
    </p>
  </form>
</template>
