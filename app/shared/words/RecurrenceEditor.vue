<script setup lang="ts">
import { nounOf } from '#core/language/counts'
import {
  EVERY,
  nextRecurrence,
  readPlain,
  toRule,
  WEEKDAY_WORDS,
  WEEKDAYS,
  wrongRule,
  type Every,
  type Plain,
  type Weekday,
} from '#core/time/recurrence'
import '#core/time/recurrence-days'
import { calendarOf } from '#core/rules/clock'
import { dateAt } from '#core/time/dates'
import { sayWeekday } from '#core/time/say'
import { useCatalogue } from '~/shared/stores/catalogue'

/** How often something comes: set word by word, or as a recurrence rule of RFC 5545. Shows the next five days. */
const props = defineProps<{ rule: { readonly rule: string; readonly from: string } }>()
const emit = defineEmits<{ set: [rule: { rule: string; from: string }] }>()
const store = useCatalogue()
const plain = reactive<{ every: Every; interval: number; weekdays: Weekday[]; day: number }>({
  every: 'week',
  interval: 1,
  weekdays: ['MO'],
  day: 1,
  ...(readPlain(props.rule.rule) ?? {}),
} as { every: Every; interval: number; weekdays: Weekday[]; day: number })
const asText = ref(readPlain(props.rule.rule) === null)
const text = ref(props.rule.rule)
const from = ref(props.rule.from)
const made = computed(() => (asText.value ? text.value.trim().toUpperCase() : toRule(plain as Plain)))
const wrong = computed(() =>
  /^\d{4}-\d{2}-\d{2}$/.test(from.value) ? wrongRule(made.value, from.value) : 'Choose a start date.',
)
const next = computed(() => {
  if (wrong.value !== null) return []
  const found: string[] = []
  const { zone } = store.catalogue.workspace
  for (let at: number | null = store.facts?.nowMs ?? 0; found.length < 5;) {
    at = nextRecurrence(
      { rule: made.value, from: from.value, minute: 720, offDays: 'keep' },
      at,
      zone,
      calendarOf(store.catalogue),
    )
    if (at === null) break
    found.push(sayWeekday(dateAt(at, zone)))
  }
  return found
})
const toggle = (day: Weekday): void => {
  plain.weekdays = plain.weekdays.includes(day) ? plain.weekdays.filter((one) => one !== day) : [...plain.weekdays, day]
}
/** Between the words and the rule as text, which begins with what the words say. */
function turnOver(): void {
  text.value = made.value
  asText.value = !asText.value
}
</script>

<template>
  <form @submit.prevent="wrong === null && emit('set', { rule: made, from })">
    <template v-if="!asText">
      <p class="flex items-center gap-2">
        Every
        <input
          v-model.number="plain.interval"
          class="entry w-16"
          type="number"
          min="1"
          max="99"
          aria-label="Number"
          @vue:mounted="($event.el as HTMLElement).focus()"
        />
        <select v-model="plain.every" class="entry min-w-0 flex-1" aria-label="Unit">
          <option v-for="one in EVERY" :key="one" :value="one">{{ nounOf(plain.interval, one) }}</option>
        </select>
      </p>
      <p v-if="plain.every === 'week'" class="mt-2 flex flex-wrap gap-1" role="group" aria-label="Weekdays">
        <button
          v-for="day in WEEKDAYS"
          :key="day"
          type="button"
          class="button px-2! py-0.5!"
          :class="plain.weekdays.includes(day) && 'bg-saffron-t'"
          :aria-pressed="plain.weekdays.includes(day)"
          @click="toggle(day)"
        >
          {{ WEEKDAY_WORDS[day].slice(0, 3) }}
        </button>
      </p>
      <p v-else-if="plain.every === 'month'" class="mt-2">
        On day
        <select v-model.number="plain.day" class="entry" aria-label="Day of the month">
          <option v-for="n in 31" :key="n" :value="n">
            {{ n === 31 ? '31 or last day of the month' : n > 28 ? `${n} or last day of the month` : n }}
          </option>
        </select>
      </p>
    </template>
    <label v-else class="quiet"
      >Recurrence rule (RFC 5545)<br /><input
        v-model="text"
        class="entry w-full font-mono"
        placeholder="FREQ=MONTHLY;BYDAY=-1FR"
        @vue:mounted="($event.el as HTMLElement).focus()"
    /></label>
    <label class="quiet mt-2 block">Starting on <input v-model="from" class="entry" type="date" /></label>
    <p v-if="wrong !== null" class="mt-1 text-brick" role="alert">{{ wrong }}</p>
    <p v-else class="quiet mt-1">Next: {{ next.join(', ') || 'No upcoming dates' }}</p>
    <p class="mt-2 flex gap-2">
      <button class="button main" type="submit" :disabled="wrong !== null">Save</button
      ><button class="button" type="button" @click="turnOver">
        {{ asText ? 'Edit step by step' : 'Edit as rule' }}
      </button>
    </p>
  </form>
</template>
