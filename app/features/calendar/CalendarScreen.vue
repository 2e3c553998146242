<script setup lang="ts">
import { readTextFile } from '#core/formats/text-file'
import { count } from '#core/language/counts'
import { addDays, dateAt, isDate, localMinute, startOfDate, weekday } from '#core/time/dates'
import { sayDate, sayTime, sayWeekday } from '#core/time/say'
import { attempt, send } from '~/shared/api/api'
import { objectPath } from '~/shared/paths'
import { useQueryChange } from '~/shared/useQueryChange'
import { useCatalogue } from '~/shared/stores/catalogue'
import { useLiveQuery } from '~/shared/live/useLiveQuery'
import CalendarDay from './CalendarDay.vue'

/** Appointments of a week or a day: one's own, or everybody's that one may see. */
useHead({ title: 'Calendar' })
const store = useCatalogue()
const route = useRoute()
const zone = computed(() => store.catalogue.person(store.me?.id ?? '')?.zone ?? store.catalogue.workspace.zone)
type Query = typeof route.query
const spanOf = (query: Query) => (query.span === 'day' ? 'day' : 'week')
/** The first day that is shown: the one that the address names, or the Monday of its week. */
function firstOf(query: Query): string {
  const day = typeof query.day === 'string' && isDate(query.day) ? query.day : store.today
  return spanOf(query) === 'day' ? day : addDays(day, 1 - weekday(day))
}
const span = computed(() => spanOf(route.query))
const whose = computed(() => (typeof route.query.whose === 'string' ? route.query.whose : 'all'))
const from = computed(() => firstOf(route.query))
const days = computed(() => Array.from({ length: span.value === 'day' ? 1 : 7 }, (_, i) => addDays(from.value, i)))
const { data, refresh } = await useLiveQuery('/api/v1/calendar', {
  query: computed(() => ({
    from: startOfDate(from.value, zone.value),
    to: startOfDate(addDays(from.value, days.value.length), zone.value) - 1,
  })),
  changedBy: ['records'],
})
const shown = computed(() =>
  (data.value?.appointments ?? []).filter(
    (one) => whose.value === 'all' || one.ownerId === (whose.value === 'mine' ? store.me?.id : whose.value),
  ),
)
const minuteOf = (atMs: number): number => {
  const local = localMinute(atMs, zone.value)
  return Number(local.slice(11, 13)) * 60 + Number(local.slice(14, 16))
}
const onDay = (date: string) =>
  shown.value
    .filter((one) => dateAt(one.startMs, zone.value) === date)
    .map((one) => ({
      ...one,
      from: minuteOf(one.startMs),
      to: dateAt(one.endMs, zone.value) === date ? Math.max(minuteOf(one.endMs), minuteOf(one.startMs) + 20) : 1440,
      time: sayTime(one.startMs, zone.value),
      owner: store.personName(one.ownerId ?? ''),
    }))
/** Office hours, and what lies outside of them. */
const hours = computed(() => {
  const { opensAt, closesAt } = store.catalogue.workspace
  const all = days.value.flatMap(onDay)
  const first = Math.floor(Math.min(opensAt, ...all.map((one) => one.from)) / 60)
  const last = Math.ceil(Math.max(closesAt, ...all.map((one) => one.to)) / 60)
  return Array.from({ length: last - first }, (_, i) => first + i)
})
const people = computed(() => {
  const ids = new Set((data.value?.appointments ?? []).flatMap((one) => one.ownerId ?? []))
  return [...ids].map((id) => ({ id, name: store.personName(id) })).sort((a, b) => a.name.localeCompare(b.name, 'en'))
})
/** Appointments of another calendar become one's own. */
interface Taken {
  readonly added: number
  readonly changed: number
  readonly same: number
  readonly passed: number
}
const taken = shallowRef<Taken | null>(null)
async function take(event: Event): Promise<void> {
  const input = event.target as HTMLInputElement
  const [file] = input.files ?? []
  if (!file) return
  const { text } = readTextFile(new Uint8Array(await file.arrayBuffer()))
  input.value = ''
  taken.value = await attempt(() => send<Taken>('POST', '/api/v1/calendar/files', { text }))
  await refresh()
}
const go = useQueryChange('push')
const step = (by: number) => go((query) => ({ day: addDays(firstOf(query), by * (spanOf(query) === 'day' ? 1 : 7)) }))
</script>

<template>
  <div class="h-full overflow-auto px-8 pt-4 pb-12 max-[599px]:px-4" tabindex="0">
    <div class="flex flex-wrap items-center gap-x-3 gap-y-1">
      <h1>Calendar</h1>
      <span class="text-[17px]">{{
        span === 'day' ? sayDate(from) : `${sayWeekday(from)} to ${sayWeekday(days.at(-1)!)}`
      }}</span>
      <button type="button" class="button" :aria-label="`Previous ${span}`" @click="step(-1)">Earlier</button>
      <button type="button" class="button" @click="go({ day: store.today })">Today</button>
      <button type="button" class="button" :aria-label="`Next ${span}`" @click="step(1)">Later</button>
      <label v-if="store.may('work')" class="button ml-auto cursor-pointer focus-within:outline-2"
        >Import .ics…<input type="file" class="sr-only" accept=".ics,text/calendar" @change="take"
      /></label>
      <label class="flex items-center gap-2"
        >Show
        <select class="entry" :value="span" @change="go({ span: ($event.target as HTMLSelectElement).value })">
          <option value="week">a week</option>
          <option value="day">a day</option>
        </select></label
      >
      <label class="flex items-center gap-2"
        >of
        <select class="entry" :value="whose" @change="go({ whose: ($event.target as HTMLSelectElement).value })">
          <option value="all">Everyone</option>
          <option value="mine">me</option>
          <option v-for="one in people" :key="one.id" :value="one.id">{{ one.name }}</option>
        </select></label
      >
    </div>
    <p v-if="taken" class="mt-2" role="status" data-taken>
      {{ count(taken.added, 'appointment') }} added, {{ taken.changed }} changed, {{ taken.same }} as before<template
        v-if="taken.passed"
        >; {{ count(taken.passed, 'entry') }} without a time left out</template
      >.
    </p>
    <p v-if="shown.length === 0" class="quiet mt-2" role="status">
      No appointments {{ span === 'day' ? 'on this day' : 'in this week' }}.
      <NuxtLink :to="`/records/${objectPath('appointment')}`" class="word">All appointments</NuxtLink>
    </p>
    <div
      class="mt-3 grid gap-px"
      :style="{ gridTemplateColumns: `44px repeat(${days.length}, minmax(${span === 'day' ? 0 : 118}px, 1fr))` }"
    >
      <div />
      <h2
        v-for="date in days"
        :key="date"
        class="text-[14px]!"
        :class="date === store.today ? 'text-saffron' : 'text-ink2'"
      >
        {{ sayWeekday(date) }}
      </h2>
      <div class="relative" aria-hidden="true" :style="{ height: `${hours.length * 48}px` }">
        <span
          v-for="(hour, i) in hours"
          :key="hour"
          class="quiet absolute right-1 -translate-y-1/2 text-[12px]"
          :style="{ top: `${i * 48}px` }"
          >{{ hour }}:00</span
        >
      </div>
      <CalendarDay v-for="date in days" :key="date" :date="date" :appointments="onDay(date)" :hours="hours" />
    </div>
  </div>
</template>
