<script setup lang="ts">
import type { EChartsCoreOption } from 'echarts/core'
import type { Band } from '#core/scoring/card'
import type { ScorePreview } from '~~/server/engine/scorecards'
import ChartBox from '~/shared/charts/ChartBox.vue'
import type { Tokens } from '~/shared/charts/useTokens'

/**
 * How many records have how many points: what they have now in outline, what they would have filled; the bands beneath.
 */
const props = defineProps<{ preview: ScorePreview; bands: readonly Band[] }>()
const bins = computed(() =>
  props.preview.after.map((after, i) => ({
    from: props.preview.from + i * props.preview.step,
    to: props.preview.from + (i + 1) * props.preview.step,
    after,
    before: props.preview.before?.[i] ?? null,
  })),
)
const from = computed(() => props.preview.from)
const to = computed(() => props.preview.from + props.preview.step * props.preview.after.length)
/** Where some points stand along the scale, in percent. */
const at = (points: number): number =>
  Math.max(0, Math.min(100, (100 * (points - from.value)) / (to.value - from.value || 1)))
const zones = computed(() =>
  props.bands.map((band, i) => {
    const [start, next] = [i === 0 ? 0 : at(band.from), props.bands[i + 1]]
    const strength = 10 + Math.round((70 * i) / Math.max(1, props.bands.length - 1))
    return {
      band,
      last: i > 0 && !next,
      style: {
        width: `${Math.max(0, (next ? at(next.from) : 100) - start)}%`,
        background: `color-mix(in srgb, var(--violet) ${strength}%, var(--paper))`,
      },
    }
  }),
)
const said = computed(() => {
  const bands = props.preview.bands.map(
    (band) => `${band.name}: ${band.before === null ? '' : `${band.before} before, `}${band.after} after`,
  )
  return `Distribution of points. ${bands.join('; ')}`
})

/** Few among many would vanish: heights grow with the square root, and the figures stand in the hint and the table. */
const height = (count: number): number => Math.sqrt(count)
function option(tokens: Tokens): EChartsCoreOption {
  const text = { color: tokens.ink2, fontFamily: tokens.font, fontSize: 12 }
  const bars = { type: 'bar', barWidth: '92%', barGap: '-100%' }
  return {
    textStyle: text,
    grid: { left: 0, right: 0, top: 6, bottom: 1 },
    xAxis: {
      type: 'category',
      data: bins.value.map((bin) => String(bin.from)),
      axisLabel: { show: false },
      axisTick: { show: false },
      axisLine: { lineStyle: { color: tokens.ink2 } },
    },
    yAxis: { type: 'value', axisLabel: { show: false }, splitLine: { show: false } },
    tooltip: {
      trigger: 'axis',
      axisPointer: { type: 'none' },
      backgroundColor: tokens.raised,
      borderColor: tokens.hair,
      textStyle: { ...text, color: tokens.ink },
      formatter: (shown: readonly { readonly dataIndex: number }[]) => {
        const bin = bins.value[shown[0]?.dataIndex ?? -1]
        if (!bin) return ''
        return `${bin.from}–${bin.to} points: ${bin.after}${bin.before === null ? '' : `, ${bin.before} before`}`
      },
    },
    series: [
      { ...bars, data: bins.value.map((bin) => height(bin.after)), itemStyle: { color: tokens.violet, opacity: 0.75 } },
      ...(props.preview.before
        ? [
            {
              ...bars,
              data: bins.value.map((bin) => height(bin.before ?? 0)),
              itemStyle: { color: 'transparent', borderColor: tokens.ink, borderWidth: 1.2 },
            },
          ]
        : []),
    ],
  }
}
</script>

<template>
  <figure class="mt-3" data-distribution>
    <ChartBox :label="said" :option="option" :height="150">
      <table class="w-full text-[13px] tabular-nums" :aria-label="said">
        <thead>
          <tr>
            <th scope="col" class="text-left font-normal text-ink2">Points</th>
            <th v-if="preview.before" scope="col" class="text-right font-normal text-ink2">Now</th>
            <th scope="col" class="text-right font-normal text-ink2">With your changes</th>
          </tr>
        </thead>
        <tbody>
          <tr v-for="bin in bins" :key="bin.from" class="border-t border-hair">
            <th scope="row" class="text-left font-normal">{{ bin.from }}–{{ bin.to }}</th>
            <td v-if="preview.before" class="text-right">{{ bin.before }}</td>
            <td class="text-right">{{ bin.after }}</td>
          </tr>
        </tbody>
      </table>
    </ChartBox>
    <div class="flex h-[18px] text-[12px] font-medium" aria-hidden="true">
      <span
        v-for="zone in zones"
        :key="zone.band.id"
        class="overflow-hidden text-center whitespace-nowrap"
        :class="zone.last && 'text-on-violet'"
        :style="zone.style"
        >{{ zone.band.name }}</span
      >
    </div>
    <p class="flex justify-between text-[12px] text-ink2" aria-hidden="true">
      <span>{{ from }}</span><span>{{ Math.round(to * 10) / 10 }} points</span>
    </p>
    <figcaption class="quiet">
      <template v-if="preview.before">Filled: with your changes. Outline: now.</template
      ><template v-else>With your changes.</template> Bar heights use a square-root scale.
    </figcaption>
  </figure>
</template>
