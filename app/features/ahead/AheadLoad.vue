<script setup lang="ts">
import { count } from '#core/language/counts'
import type { EChartsCoreOption } from 'echarts/core'
import { sayDate, sayWeekday } from '#core/time/say'
import type { AheadGrid } from '~~/server/views/ahead'
import ChartBox from '~/shared/charts/ChartBox.vue'
import type { Tokens } from '~/shared/charts/useTokens'
import { useLiveQuery } from '~/shared/live/useLiveQuery'
import { useCatalogue } from '~/shared/stores/catalogue'
import { SHOWN, useDaysOff } from './days'

/** What people have to do already, and what rules will add to it, by day. */
const props = defineProps<{ grid: AheadGrid }>()
const store = useCatalogue()
const { isOff, isAway } = useDaysOff()
/** The tasks that rules will make: what runs now, rehearsed. */
const { data: foretold, problem } = useLiveQuery('/api/v1/ahead/load', {
  query: { days: SHOWN },
  changedBy: ['ahead', 'records', 'rules', 'clock'],
  browserOnly: true,
  lazy: true,
})
const days = computed(() => props.grid.days.slice(0, SHOWN))
const rows = computed(() => {
  const { tasks } = props.grid
  const made = foretold.value?.owners ?? []
  const ids = [...new Set([...tasks, ...made].map((row) => row.id))]
  const counts = (of: readonly { readonly id: string; readonly counts: readonly number[] }[], id: string) =>
    days.value.map((_, i) => of.find((row) => row.id === id)?.counts[i] ?? 0)
  return ids
    .map((id) => ({ id, name: store.personName(id), open: counts(tasks, id), byRules: counts(made, id) }))
    .sort((a, b) => a.name.localeCompare(b.name, 'en'))
})
const most = computed(() =>
  Math.max(1, ...rows.value.flatMap((row) => row.open.map((n, i) => n + (row.byRules[i] ?? 0)))),
)

const ROW = 46
const HEAD = 22
const height = computed(() => HEAD + rows.value.length * ROW + 4)
const said = computed(() => {
  const total = (of: 'open' | 'byRules') => rows.value.reduce((sum, row) => sum + row[of].reduce((a, b) => a + b, 0), 0)
  return `Tasks of ${count(rows.value.length, 'person')} over ${count(SHOWN, 'day')}: ${total('open')} open, ${total('byRules')} from rules`
})
const hint = (id: string, date: string): string => (isAway(id, date) ? ', away' : isOff(date, id) ? ', day off' : '')

/** One strip a person, all to one scale: those who will have too much stand out. */
function option(tokens: Tokens): EChartsCoreOption {
  const text = { color: tokens.ink2, fontFamily: tokens.font, fontSize: 12 }
  const strip = (i: number) => ({ top: HEAD + i * ROW, height: ROW - 8, left: 150, right: 8 })
  const series = rows.value.flatMap((row, i) => {
    const base = { type: 'bar', stack: row.id, xAxisIndex: i, yAxisIndex: i, barWidth: '58%' }
    return [
      {
        ...base,
        name: 'open',
        data: row.open,
        itemStyle: { color: tokens.moss },
      },
      {
        ...base,
        name: 'by rules',
        data: row.byRules,
        itemStyle: { color: tokens.saffron },
        label: {
          ...text,
          show: true,
          position: 'top',
          distance: 1,
          formatter: ({ dataIndex }: { dataIndex: number }) =>
            String((row.open[dataIndex] ?? 0) + (row.byRules[dataIndex] ?? 0) || ''),
        },
      },
    ]
  })
  return {
    textStyle: text,
    grid: rows.value.map((_, i) => strip(i)),
    xAxis: rows.value.map((_, i) => ({
      gridIndex: i,
      type: 'category',
      data: days.value.map((date) => sayWeekday(date).slice(0, 6)),
      position: i === 0 ? 'top' : 'bottom',
      axisLabel: { ...text, show: i === 0, interval: 0 },
      axisTick: { show: false },
      // Days off lie on a darker ground.
      splitArea: {
        show: true,
        areaStyle: {
          color: days.value.map((date) =>
            isOff(date, rows.value[i]?.id ?? null) || isAway(rows.value[i]?.id ?? '', date)
              ? tokens.paper2
              : 'transparent',
          ),
        },
      },
      axisLine: { show: true, onZero: true, lineStyle: { color: tokens.hair } },
    })),
    yAxis: rows.value.map((row, i) => ({
      gridIndex: i,
      type: 'value',
      max: most.value * 1.35,
      name: row.name,
      nameLocation: 'middle',
      nameGap: 140,
      nameRotate: 0,
      nameTextStyle: { ...text, color: tokens.ink, align: 'left', width: 136, overflow: 'truncate' },
      axisLabel: { show: false },
      splitLine: { show: false },
    })),
    tooltip: {
      trigger: 'item',
      backgroundColor: tokens.raised,
      borderColor: tokens.hair,
      textStyle: { ...text, color: tokens.ink },
      formatter: ({ seriesIndex, dataIndex }: { seriesIndex: number; dataIndex: number }) => {
        const row = rows.value[Math.floor(seriesIndex / 2)]
        const date = days.value[dataIndex]
        if (!row || date === undefined) return ''
        return `${sayDate(date)}: ${row.open[dataIndex]} open, ${row.byRules[dataIndex]} from rules${hint(row.id, date)}`
      },
    },
    series,
  }
}
</script>

<template>
  <div class="mt-3 flex-none overflow-y-auto" role="region" aria-label="Workload" tabindex="0">
    <p class="quiet mb-1">
      <span class="mr-1 inline-block h-2.5 w-2.5 bg-moss" aria-hidden="true" />
      Open tasks by due date
      <span class="mr-1 ml-2 inline-block h-2.5 w-2.5 bg-saffron" aria-hidden="true" />
      Tasks rules will create<span v-if="problem" class="text-brick"> (could not be calculated)</span
      ><span v-else-if="!foretold"> (calculating…)</span>
    </p>
    <ChartBox :label="said" :option="option" :height="height">
      <table class="w-full border-collapse text-[13px] tabular-nums" aria-label="Workload">
        <thead>
          <tr>
            <th scope="col" class="text-left font-normal text-ink2">Owner</th>
            <th v-for="date in days" :key="date" scope="col" class="font-normal text-ink2">
              {{ sayWeekday(date).slice(0, 6) }}
            </th>
          </tr>
        </thead>
        <tbody>
          <tr v-for="row in rows" :key="row.id" class="border-t border-hair">
            <th scope="row" class="text-left font-normal">{{ row.name }}</th>
            <td v-for="(date, i) in days" :key="date" class="text-center">
              {{ row.open[i] }} open, {{ row.byRules[i] }} from rules{{ hint(row.id, date) }}
            </td>
          </tr>
        </tbody>
      </table>
    </ChartBox>
  </div>
</template>
