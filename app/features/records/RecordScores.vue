<script setup lang="ts">
import { count } from '#core/language/counts'
import { sayInstant } from '#core/time/say'
import type { ScoreShown } from '~~/server/engine/scorecards'
import { useCatalogue } from '~/shared/stores/catalogue'

/** The scores of a record, each with its reasons. */
defineProps<{ scores: readonly ScoreShown[] }>()
const store = useCatalogue()
const zone = computed(() => store.catalogue.workspace.zone)
const signed = (points: number): string => (points > 0 ? `+${points}` : String(points))
</script>

<template>
  <section v-if="scores.length > 0" aria-label="Scores" class="mb-3" data-scores>
    <details v-for="score in scores" :key="score.card.id" class="border-b border-hair py-1.5">
      <summary class="flex cursor-pointer items-baseline gap-2">
        <span class="text-ink2">{{ score.card.name }}</span><b class="font-serif text-[20px] font-medium text-violet">{{
          score.points
        }}</b
        ><span v-if="score.band" class="rounded-[3px] bg-violet-t px-1.5 text-[12.5px] font-semibold text-violet">{{
          score.band
        }}</span
        ><span class="quiet ml-auto">Show reasons</span>
      </summary>
      <ol class="mt-1">
        <li
          v-for="line in score.lines"
          :key="line.id"
          class="grid grid-cols-[44px_minmax(0,1fr)] gap-2 py-0.5 text-[13px]"
          :class="line.points === 0 && 'text-ink2'"
        >
          <b
            class="text-right font-semibold"
            :class="line.points > 0 ? 'text-moss' : line.points < 0 ? 'text-brick' : ''"
            >{{ line.points === 0 ? '0' : signed(line.points) }}</b
          >
          <span
            >{{ line.text
            }}<span v-if="line.lastMs !== null" class="quiet"
              >: {{ count(line.times, 'time') }}, last {{ sayInstant(line.lastMs, zone)
              }}<template v-if="line.capped"> (limit reached)</template></span
            ><span v-else-if="line.points === 0" class="quiet">: not true</span></span
          >
        </li>
      </ol>
      <p class="mt-1 text-[13px]">
        <NuxtLink v-if="store.may('readRules')" :to="`/scorecards?card=${score.card.id}`" class="word"
          >Open scorecard</NuxtLink
        >
      </p>
    </details>
  </section>
</template>
