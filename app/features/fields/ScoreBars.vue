<script setup lang="ts">
import type { ScorePreview } from '~~/server/engine/scorecards'
import type { Band } from '#core/scoring/card'

/** How many records have how many points: what they have now in outline, what they would have filled; the bands beneath. */
const props = defineProps<{ preview: ScorePreview; bands: readonly Band[] }>()
const W = 480
const H = 150
const most = computed(() => Math.max(1, ...props.preview.after, ...(props.preview.before ?? [])))
const width = computed(() => W / Math.max(1, props.preview.after.length))
/** Few among many would vanish: heights grow with the square root, and the numbers stand beneath. */
const height = (count: number): number => (count === 0 ? 0 : Math.max(2, Math.sqrt(count / most.value) * H))
const to = computed(() => props.preview.from + props.preview.step * props.preview.after.length)
const x = (points: number): number =>
  Math.max(0, Math.min(W, ((points - props.preview.from) / (to.value - props.preview.from)) * W))
const zones = computed(() =>
  props.bands.map((band, i) => ({
    band,
    from: i === 0 ? 0 : x(band.from),
    to: i + 1 < props.bands.length ? x(props.bands[i + 1]?.from ?? 0) : W,
  })),
)
const said = computed(() =>
  props.preview.bands
    .map((band) => `${band.name}: ${band.before === null ? '' : `${band.before} before, `}${band.after} now`)
    .join('; '),
)
</script>

<template>
  <figure class="mt-3" data-distribution>
    <svg
      :viewBox="`0 -4 ${W} ${H + 42}`"
      class="w-full"
      role="img"
      :aria-label="`How many have how many points. ${said}`"
    >
      <g v-for="(zone, i) in zones" :key="zone.band.id">
        <rect
          :x="zone.from"
          :width="Math.max(0, zone.to - zone.from)"
          :y="H + 4"
          height="18"
          :fill="`color-mix(in srgb, var(--violet) ${10 + Math.round((70 * i) / Math.max(1, zones.length - 1))}%, var(--paper))`"
        />
        <text
          v-if="zone.to - zone.from > 34"
          :x="(zone.from + zone.to) / 2"
          :y="H + 17"
          text-anchor="middle"
          class="zone"
          :fill="i > 0 && i === zones.length - 1 ? 'var(--on-violet)' : 'var(--ink)'"
        >
          {{ zone.band.name }}
        </text>
      </g>
      <rect
        v-for="(count, i) in preview.after"
        :key="`a${i}`"
        :x="i * width + 1"
        :width="Math.max(1, width - 2)"
        :y="H - height(count)"
        :height="height(count)"
        fill="var(--violet)"
        opacity="0.75"
      >
        <title>
          {{ preview.from + i * preview.step }} to {{ preview.from + (i + 1) * preview.step }} points: {{ count
          }}{{ preview.before ? `, before ${preview.before[i]}` : '' }}
        </title>
      </rect>
      <template v-if="preview.before">
        <rect
          v-for="(count, i) in preview.before"
          :key="`b${i}`"
          :x="i * width + 1"
          :width="Math.max(1, width - 2)"
          :y="H - height(count)"
          :height="height(count)"
          fill="none"
          stroke="var(--ink)"
          stroke-width="1.2"
        />
      </template>
      <line x1="0" :x2="W" :y1="H" :y2="H" stroke="var(--ink2)" />
      <text x="0" :y="H + 36" class="scale">{{ preview.from }}</text>
      <text :x="W" :y="H + 36" text-anchor="end" class="scale">{{ Math.round(to * 10) / 10 }} points</text>
    </svg>
    <figcaption class="quiet">
      <template v-if="preview.before">Filled: as it is written here. Outlined: as it is now.</template
      ><template v-else>As it is written here.</template> Heights grow by the root.
    </figcaption>
  </figure>
</template>

<style scoped>
.zone {
  font: 500 12px var(--font-sans);
}
.scale {
  font: 12px var(--font-sans);
  fill: var(--ink2);
}
</style>
