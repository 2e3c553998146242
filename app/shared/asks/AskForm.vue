<script setup lang="ts">
import type { TaskAsks } from '#core/asks'
import CallForm from './CallForm.vue'
import FactList from './FactList.vue'
import QuestionFields from './QuestionFields.vue'
import { useUnsent } from './unsent'

/** What a task asks before it is done. */
const props = defineProps<{ asks: TaskAsks; /** `task` and its id. */ of: string }>()
const emit = defineEmits<{ answer: [answers: Record<string, unknown>] }>()
const { answers, reason } = toRefs(useUnsent().of(props.of))
const unsaid = ref(false)
const reasonBox = useTemplateRef<HTMLInputElement>('reasonBox')
const missing = computed(
  () =>
    props.asks.about === 'questions' &&
    props.asks.questions.some((one) => one.required && (answers.value[one.key] ?? null) === null),
)
function decide(decision: 'approved' | 'declined'): void {
  unsaid.value = decision === 'declined' && reason.value.trim() === ''
  if (unsaid.value) reasonBox.value?.focus()
  else emit('answer', { decision, reason: reason.value.trim() })
}
</script>

<template>
  <CallForm v-if="asks.about === 'call'" :of="of" @done="emit('answer', { ...$event })" />
  <form v-else-if="asks.about === 'approval'" @submit.prevent="decide('approved')">
    <FactList :facts="asks.facts" />
    <label class="mt-2 block"
      >Reason <span class="quiet">(needed to decline)</span>
      <input
        ref="reasonBox"
        v-model="reason"
        class="entry mt-0.5 w-full"
        maxlength="1000"
        :aria-invalid="unsaid"
        aria-describedby="reason-problem"
    /></label>
    <p v-if="unsaid" id="reason-problem" class="text-brick" role="alert">Say why it is declined.</p>
    <p class="mt-3 flex gap-2">
      <button type="submit" class="button main">Approve</button>
      <button type="button" class="button" data-decline @click="decide('declined')">Decline</button>
    </p>
  </form>
  <form v-else @submit.prevent="!missing && emit('answer', answers)">
    <FactList :facts="asks.facts" />
    <QuestionFields v-model="answers" :questions="asks.questions" />
    <p class="mt-3"><button type="submit" class="button main" :disabled="missing">Answer</button></p>
  </form>
</template>
