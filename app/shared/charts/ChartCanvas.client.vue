<script setup lang="ts">
import { BarChart, LineChart } from 'echarts/charts'
import { GridComponent, TooltipComponent } from 'echarts/components'
import { use, type EChartsCoreOption } from 'echarts/core'
import { SVGRenderer } from 'echarts/renderers'
import VChart from 'vue-echarts'

// Only the parts that our charts are made of: the whole of it is three times as large.
use([BarChart, LineChart, GridComponent, TooltipComponent, SVGRenderer])

const props = defineProps<{ option: EChartsCoreOption }>()
// Bars that grow say nothing; what stands there is there at once.
const still = computed(() => ({ ...props.option, animation: false }))
</script>

<template>
  <VChart :option="still" autoresize class="h-full w-full" />
</template>
