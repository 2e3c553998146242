<script setup lang="ts">
import { percent } from '#core/language/counts'

/** A share on a line from nothing to all, with the stretch in which the true one lies. */
const props = defineProps<{
  share: {
    readonly reached: number
    readonly of: number
    readonly interval: { readonly low: number; readonly high: number }
  }
  /** Drawn paler: it is there to compare. */ beside?: boolean
}>()
const at = (n: number): string => `${Math.round(n * 1000) / 10}%`
const middle = computed(() => (props.share.of === 0 ? 0 : props.share.reached / props.share.of))
const said = computed(() => `${percent(props.share.interval.low)} to ${percent(props.share.interval.high)}`)
</script>

<template>
  <span class="relative inline-block h-3 w-full min-w-24 align-middle" :title="`With 95% confidence ${said}`">
    <span class="absolute top-[5.5px] right-0 left-0 h-px bg-hair" aria-hidden="true" />
    <template v-if="share.of > 0">
      <span
        class="absolute top-[3px] h-1.5"
        :class="beside ? 'bg-ink2 opacity-40' : 'bg-violet opacity-40'"
        :style="{ left: at(share.interval.low), width: at(share.interval.high - share.interval.low) }"
        aria-hidden="true"
      />
      <span
        class="absolute top-0 h-3 w-[3px] -translate-x-1/2"
        :class="beside ? 'bg-ink2' : 'bg-violet'"
        :style="{ left: at(middle) }"
        aria-hidden="true"
      />
    </template>
    <span class="sr-only">{{ said }}</span>
  </span>
</template>
