<script setup lang="ts">
import { CALL_ENDS, CALL_OUTCOMES, type CallEnd, type CallOutcome, type CallResult } from '#core/asks/call'
import { useUnsent } from './unsent'

/** How a call went, by one key each: the outcome, then how it ended, then what was said. */
const props = defineProps<{ /** What it is for, so that what was written for it is there again. */ of: string }>()
const emit = defineEmits<{ done: [result: CallResult] }>()
const { outcome, ended, notes, minutes } = toRefs(useUnsent().of(props.of))
const notesBox = useTemplateRef<HTMLTextAreaElement>('notesBox')
const endBox = useTemplateRef<HTMLElement>('endBox')

function chooseOutcome(id: CallOutcome): void {
  outcome.value = id
  ended.value = null
  void nextTick(() => (id === 'finished' ? endBox.value?.querySelector('button') : notesBox.value)?.focus())
}
function chooseEnd(id: CallEnd): void {
  ended.value = id
  void nextTick(() => notesBox.value?.focus())
}
/** A digit chooses wherever nothing is typed. */
function digit(event: KeyboardEvent): void {
  const at = Number(event.key) - 1
  if (event.target instanceof HTMLTextAreaElement || event.target instanceof HTMLInputElement) return
  const one = outcome.value === 'finished' ? CALL_ENDS[at] : CALL_OUTCOMES[at]
  if (!one || event.ctrlKey || event.metaKey || event.altKey) return
  event.preventDefault()
  event.stopPropagation()
  if (outcome.value === 'finished') chooseEnd(one.id as CallEnd)
  else chooseOutcome(one.id as CallOutcome)
}
function save(): void {
  if (outcome.value === null) return
  emit('done', {
    outcome: outcome.value,
    ended: outcome.value === 'finished' ? ended.value : null,
    notes: notes.value.trim(),
    minutes: minutes.value === '' ? null : minutes.value,
  })
}
</script>

<template>
  <form aria-label="How the call went" @submit.prevent="save" @keydown="digit">
    <fieldset>
      <legend class="quiet">How it went</legend>
      <div class="mt-1 grid grid-cols-2 gap-1">
        <button
          v-for="(one, i) in CALL_OUTCOMES"
          :key="one.id"
          type="button"
          class="button flex justify-between gap-2 text-left"
          :class="outcome === one.id && 'bg-violet-t!'"
          :aria-pressed="outcome === one.id"
          :data-outcome="one.id"
          @click="chooseOutcome(one.id)"
        >
          {{ one.label }} <kbd>{{ i + 1 }}</kbd>
        </button>
      </div>
    </fieldset>
    <fieldset v-if="outcome === 'finished'" ref="endBox" class="mt-2">
      <legend class="quiet">How it ended</legend>
      <div class="mt-1 grid grid-cols-2 gap-1">
        <button
          v-for="(one, i) in CALL_ENDS"
          :key="one.id"
          type="button"
          class="button flex justify-between gap-2 text-left"
          :class="ended === one.id && 'bg-violet-t!'"
          :aria-pressed="ended === one.id"
          :data-ended="one.id"
          @click="chooseEnd(one.id)"
        >
          {{ one.label }} <kbd>{{ i + 1 }}</kbd>
        </button>
      </div>
    </fieldset>
    <template v-if="outcome">
      <label class="mt-2 block"
        ><span class="quiet">Notes</span>
        <textarea
          ref="notesBox"
          v-model="notes"
          rows="2"
          maxlength="4000"
          class="entry mt-0.5 w-full"
          @keydown.enter.exact.prevent="save"
        />
      </label>
      <p class="mt-2 flex items-baseline gap-3">
        <label v-if="outcome === 'finished'"
          ><input v-model.number="minutes" type="number" min="0" max="1440" class="entry w-20" /> minutes</label
        >
        <button type="submit" class="button main ml-auto">Save <kbd>Enter</kbd></button>
      </p>
    </template>
  </form>
</template>
