<script setup lang="ts">
import { addDays } from '#core/time/dates'
import { sayDate, sayWeekday } from '#core/time/say'
import type { AheadGrid } from '~~/server/views/ahead'
import { useDaysOff } from './days'

/** The same by weeks: how much comes each day, over everybody. */
const props = defineProps<{ grid: AheadGrid; day: string | undefined }>()
const emit = defineEmits<{ go: [change: { day: string | undefined }] }>()
const WEEKS = 5
const { isOff } = useDaysOff()
const days = computed(() => props.grid.days)
/** From the Monday before the first day. */
const weeks = computed(() => {
  const [first] = days.value
  if (first === undefined) return []
  const monday = addDays(first, 1 - (new Date(`${first}T12:00:00Z`).getUTCDay() || 7))
  return Array.from({ length: WEEKS }, (_, week) => Array.from({ length: 7 }, (_, d) => addDays(monday, week * 7 + d)))
})
const counts = computed(
  () =>
    new Map(days.value.map((date, i) => [date, props.grid.owners.reduce((sum, row) => sum + (row.counts[i] ?? 0), 0)])),
)
const dayWord = (date: string): string =>
  Number(date.slice(8)) === 1 || date === days.value[0] ? sayWeekday(date).slice(4) : String(Number(date.slice(8)))
const choose = (date: string): void => emit('go', { day: props.day === date ? undefined : date })
</script>

<template>
  <table class="mt-3 w-full flex-none table-fixed border-collapse text-[13px] tabular-nums" aria-label="Calendar">
    <thead>
      <tr>
        <th
          v-for="name in ['Mon', 'Tue', 'Wed', 'Thu', 'Fri', 'Sat', 'Sun']"
          :key="name"
          scope="col"
          class="pb-1 text-left font-normal text-ink2"
        >
          {{ name }}
        </th>
      </tr>
    </thead>
    <tbody>
      <tr v-for="week in weeks" :key="week[0]">
        <td
          v-for="date in week"
          :key="date"
          class="h-[44px] border border-hair p-1 align-top"
          :class="[isOff(date) && 'bg-paper2', date === days[0] && 'border-t-2! border-t-saffron!']"
        >
          <span class="float-right text-[12px] text-ink2">{{ dayWord(date) }}</span>
          <button
            v-if="counts.get(date)"
            type="button"
            class="rounded-[3px] bg-saffron-t px-1.5 font-semibold text-saffron hover:outline"
            :class="day === date && 'outline-2'"
            :aria-label="`${counts.get(date)} on ${sayDate(date)}`"
            @click="choose(date)"
          >
            {{ counts.get(date) }}
          </button>
        </td>
      </tr>
    </tbody>
  </table>
</template>
