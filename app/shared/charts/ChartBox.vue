<script setup lang="ts">
import type { EChartsCoreOption } from 'echarts/core'
import { useTokens, type Tokens } from './useTokens'

/**
 * A chart with its table behind it: the chart is a picture for those who see, the table (the slot) has the same figures
 * for those who do not, and for whoever wants to read them. Drawn in the colours of the theme, and loaded when shown.
 */
const props = defineProps<{
  /** What it shows, in one sentence. */
  label: string
  /** The option of the chart, in the tokens of the theme that is on. */
  option: (tokens: Tokens) => EChartsCoreOption
  /** Its height in pixels. */
  height: number
}>()
const ChartCanvas = defineAsyncComponent(() => import('./ChartCanvas.client.vue'))
const tokens = useTokens()
const drawn = computed(() => (tokens.value ? props.option(tokens.value) : null))
const asTable = ref(false)
</script>

<template>
  <div data-chart>
    <div v-show="!asTable" role="img" :aria-label="label" :style="{ height: `${height}px` }">
      <ChartCanvas v-if="drawn" :option="drawn" />
    </div>
    <div :class="asTable ? 'overflow-x-auto' : 'sr-only'" role="region" :aria-label="`${label}: the figures`">
      <slot />
    </div>
    <p class="text-right">
      <button
        type="button"
        class="quiet underline underline-offset-2"
        :aria-pressed="asTable"
        @click="asTable = !asTable"
      >
        {{ asTable ? 'As a chart' : 'As a table' }}
      </button>
    </p>
  </div>
</template>
