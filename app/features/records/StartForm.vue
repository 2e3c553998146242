<script setup lang="ts">
import type { Value } from '#core/language/value'
import type { ObjectKind } from '#core/records/kinds'
import type { StartButton } from '~~/server/views/starts'
import FactList from '~/shared/asks/FactList.vue'
import QuestionFields from '~/shared/asks/QuestionFields.vue'

/** What a button shows and asks before its rule starts. */
const props = defineProps<{ start: StartButton; object: ObjectKind; act: string }>()
const emit = defineEmits<{ go: [answers: Record<string, Value>]; close: [] }>()
const answers = ref<Record<string, Value>>({})
const missing = computed(() =>
  props.start.questions.some((one) => one.required && (answers.value[one.key] ?? null) === null),
)
</script>

<template>
  <form @submit.prevent="!missing && emit('go', answers)">
    <p class="font-serif text-[16px]">{{ start.button }}</p>
    <p class="quiet">Runs rule “{{ start.ruleName }}”</p>
    <FactList :facts="start.facts" />
    <QuestionFields v-model="answers" :questions="start.questions" />
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
