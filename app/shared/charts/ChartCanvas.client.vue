<script setup lang="ts">
import { BarChart } from 'echarts/charts'
import { GridComponent, TooltipComponent } from 'echarts/components'
import { use, type EChartsCoreOption } from 'echarts/core'
import { SVGRenderer } from 'echarts/renderers'
import VChart from 'vue-echarts'

// Only the parts that our charts are made of: the whole of it is three times as large.
use([BarChart, GridComponent, TooltipComponent, SVGRenderer])

defineProps<{ option: EChartsCoreOption }>()
</script>

<template>
  <VChart :option="option" autoresize class="h-full w-full" />
</template>
