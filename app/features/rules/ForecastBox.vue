<script setup lang="ts">
import { count, countOrNone, figure, plural } from '#core/language/counts'
import { addDays, dateAt } from '#core/time/dates'
import { sayDate } from '#core/time/say'
import { useCatalogue } from '~/shared/stores/catalogue'
import type { ForecastShown } from './useForecast'
import RefLink from '~/shared/record/RefLink.vue'

/** What the next thirty days bring once the rule is on: how much, on which days, to whom, and what is too much. */
const props = defineProps<{
  forecast: ForecastShown | null
  running: boolean
  progress: number
  trouble: string
}>()
const store = useCatalogue()
const days = computed(() => {
  const { forecast } = props
  if (!forecast) return []
  const starts = new Map<string, number>(forecast.byDay.map(([day, n]) => [String(day), Number(n)]))
  const first = dateAt(forecast.fromMs, store.catalogue.workspace.zone)
  const last = dateAt(forecast.toMs, store.catalogue.workspace.zone)
  const found: { readonly day: string; readonly n: number }[] = []
  for (let day = first; day <= last; day = addDays(day, 1)) found.push({ day, n: starts.get(day) ?? 0 })
  return found
})
const most = computed(() => Math.max(1, ...days.value.map(({ n }) => n)))
/** Starts of one record each say nothing that the number of records does not. */
const often = computed(() => (props.forecast?.most ?? []).filter(({ starts }) => starts > 1).slice(0, 3))
const busiest = computed(() => days.value.reduce((best, day) => (day.n > best.n ? day : best), { day: '', n: 0 }))
</script>

<template>
  <section class="mt-3 border-t border-hair pt-2" aria-label="Forecast" data-forecast aria-live="polite">
    <h3 class="flex items-baseline gap-2 font-semibold">
      The next 30 days
      <span v-if="running" class="quiet font-normal">Calculating… {{ Math.round(progress * 100) }} %</span>
    </h3>
    <p v-if="trouble" class="text-brick">{{ trouble }}</p>
    <div v-else-if="forecast" :class="running && 'opacity-50'">
      <p data-forecast-sum>
        <template v-if="forecast.starts === 0"
          >It won’t run by itself<template v-if="forecast.tasks + forecast.notices + forecast.emails > 0"
            >, but runs that are waiting continue</template
          >.</template
        >
        <template v-else
          ><b>{{ count(forecast.starts, 'run') }}</b
          ><template v-if="forecast.object !== 'none'"> for {{ count(forecast.records, forecast.object) }}</template
          >.</template
        >
        <template v-if="forecast.starts > 0 || forecast.tasks + forecast.notices + forecast.emails > 0">
          {{ countOrNone(forecast.tasks, 'task') }}, {{ count(forecast.emails, 'email') }},
          {{ count(forecast.notices, 'notification') }}.</template
        ><template v-if="forecast.keptOut > 0"> Conditions stop {{ figure(forecast.keptOut) }} more.</template>
      </p>
      <template v-if="forecast.starts > 0">
        <div class="mt-2 flex h-10 items-end gap-px" aria-hidden="true">
          <span
            v-for="one in days"
            :key="one.day"
            class="min-w-0 flex-1 bg-violet"
            :class="one.n === 0 && 'opacity-20'"
            :style="{ height: `${one.n === 0 ? 4 : Math.max(10, (one.n / most) * 100)}%` }"
            :title="`${sayDate(one.day)}: ${one.n}`"
          />
        </div>
        <p class="quiet flex justify-between">
          <span>today</span><span>most on {{ sayDate(busiest.day) }}: {{ figure(busiest.n) }}</span
          ><span>{{ sayDate(days.at(-1)?.day ?? '') }}</span>
        </p>
      </template>
      <p v-if="forecast.people.length > 0" class="mt-1">
        <template v-for="(one, i) in forecast.people.slice(0, 3)" :key="one.id"
          ><template v-if="i">; </template>{{ store.personName(one.id) }}:
          <template v-if="one.tasks > 0">{{ count(one.tasks, 'task') }}</template><template
            v-if="one.tasks > 0 && one.notices > 0"
            >, </template
          ><template v-if="one.notices > 0">{{ count(one.notices, 'notification') }}</template></template
        ><template v-if="forecast.people.length > 3">
          and {{ forecast.people.length - 3 }} more
          {{ plural(forecast.people.length - 3, 'person', 'people') }}</template
        >
      </p>
      <p v-if="often.length > 0 && forecast?.object !== 'none'" class="quiet">
        Most often for
        <template v-for="(one, i) in often" :key="`${one.ref.object} ${one.ref.id}`"
          ><template v-if="i">, </template
          ><RefLink :of="one.ref" class="word" target="_blank">{{ one.name }}</RefLink> ({{
            count(one.starts, 'time')
          }})</template
        >
      </p>
      <p v-if="forecast.cut" class="text-saffron">The forecast ended early: {{ forecast.cut }}.</p>
      <ul v-if="forecast.limits.length > 0" class="mt-2 rounded-[3px] bg-saffron-t px-2 py-1 text-saffron" data-limits>
        <li v-for="one in forecast.limits" :key="one.text">{{ one.text }}</li>
      </ul>
    </div>
  </section>
</template>
