<script setup lang="ts">
import { count, percent } from '#core/language/counts'
import type { EChartsCoreOption } from 'echarts/core'
import ChartBox from '~/shared/charts/ChartBox.vue'
import type { Tokens } from '~/shared/charts/useTokens'

/** How many have reached the target after so many days; beside it those that were left alone. */
const props = defineProps<{
  curve: readonly { readonly day: number; readonly done: number; readonly alone: number | null }[]
}>()
const compared = computed(() => props.curve.some((one) => one.alone !== null))
const last = computed(() => props.curve.at(-1))
const said = computed(
  () =>
    `Share that reached the target, by days after the run: ${percent(last.value?.done ?? 0)} after ${count(last.value?.day ?? 0, 'day')}${
      compared.value ? `, ${percent(last.value?.alone ?? 0)} of those left alone` : ''
    }`,
)
function option(tokens: Tokens): EChartsCoreOption {
  const text = { color: tokens.ink2, fontFamily: tokens.font, fontSize: 12 }
  const line = (name: string, data: readonly number[], color: string, dashed: boolean) => ({
    name,
    type: 'line',
    step: 'end',
    symbol: 'none',
    data,
    lineStyle: { color, width: 2, type: dashed ? 'dashed' : 'solid' },
    endLabel: { ...text, show: true, color, formatter: name },
  })
  return {
    textStyle: text,
    animation: false,
    grid: { left: 44, right: 120, top: 12, bottom: 28 },
    xAxis: {
      type: 'category',
      data: props.curve.map(({ day }) => day),
      name: 'days',
      nameLocation: 'end',
      nameTextStyle: text,
      axisLabel: text,
      axisTick: { show: false },
      axisLine: { lineStyle: { color: tokens.hair } },
    },
    yAxis: {
      type: 'value',
      min: 0,
      axisLabel: { ...text, formatter: (n: number) => `${Math.round(n * 100)}%` },
      splitLine: { lineStyle: { color: tokens.hair } },
    },
    tooltip: {
      trigger: 'axis',
      backgroundColor: tokens.raised,
      borderColor: tokens.hair,
      textStyle: { ...text, color: tokens.ink },
      valueFormatter: (n: number) => percent(n),
    },
    series: [
      line(
        'with the rule',
        props.curve.map(({ done }) => done),
        tokens.violet,
        false,
      ),
      ...(compared.value
        ? [
            line(
              'left alone',
              props.curve.map(({ alone }) => alone ?? 0),
              tokens.ink2,
              true,
            ),
          ]
        : []),
    ],
  }
}
</script>

<template>
  <ChartBox :label="said" :option="option" :height="220">
    <table class="list w-auto" :aria-label="said">
      <thead>
        <tr>
          <th scope="col">Days after the run</th>
          <th scope="col" class="text-right">With the rule</th>
          <th v-if="compared" scope="col" class="text-right">Left alone</th>
        </tr>
      </thead>
      <tbody>
        <tr v-for="one in curve" :key="one.day">
          <th scope="row" class="text-left font-normal">{{ one.day }}</th>
          <td class="text-right tabular-nums">{{ percent(one.done) }}</td>
          <td v-if="compared" class="text-right tabular-nums">{{ percent(one.alone ?? 0) }}</td>
        </tr>
      </tbody>
    </table>
  </ChartBox>
</template>
