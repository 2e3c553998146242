<script setup lang="ts">
import { sayDate, sayWeekday } from '#core/time/say'
import type { AheadGrid } from '~~/server/views/ahead'
import { useCatalogue } from '~/shared/stores/catalogue'
import { SHOWN, useDaysOff } from './days'

/** Owners and days: how much comes to whom, and when. A number leads to what it counts. */
const props = defineProps<{ grid: AheadGrid; owner: string | undefined; day: string | undefined }>()
const emit = defineEmits<{ go: [change: { owner?: string | undefined; day?: string | undefined }] }>()
const store = useCatalogue()
const { isOff } = useDaysOff()
const days = computed(() => props.grid.days.slice(0, SHOWN))
const most = computed(() => Math.max(1, ...props.grid.owners.flatMap((row) => row.counts.slice(0, SHOWN))))
const ownerName = (id: string | null): string => (id === null ? 'No single owner' : store.personName(id))
const chooseOwner = (id: string): void => emit('go', { owner: id === props.owner ? undefined : id })
/** The more there is, the deeper its ground and the bolder its figure. */
const weight = (count: number) => ({
  background: `color-mix(in srgb, var(--saffron-t) ${20 + Math.round((80 * count) / most.value)}%, transparent)`,
  fontWeight: count > most.value / 2 ? 700 : 400,
})
const isChosen = (id: string | null, date: string): boolean => props.day === date && props.owner === (id ?? undefined)
</script>

<template>
  <div class="mt-3 flex-none overflow-x-auto" role="region" aria-label="Owners and days" tabindex="0">
    <table class="w-full table-fixed border-collapse text-[13px] tabular-nums" aria-label="Owners and days">
      <thead>
        <tr>
          <th class="w-[190px] text-left font-normal text-ink2">Owner</th>
          <th
            v-for="date in days"
            :key="date"
            scope="col"
            class="pb-1 text-center font-normal text-ink2"
            :class="isOff(date) && 'italic'"
            :title="sayDate(date)"
          >
            {{ sayWeekday(date).slice(0, 3) }}<br />{{ Number(date.slice(8)) }}
          </th>
        </tr>
      </thead>
      <tbody>
        <tr v-for="row in grid.owners" :key="row.id ?? ''" class="border-t border-hair">
          <th scope="row" class="truncate py-1 text-left font-normal">
            <button v-if="row.id" type="button" class="name-link" @click="chooseOwner(row.id)">
              {{ ownerName(row.id) }}
            </button>
            <span v-else class="quiet">{{ ownerName(row.id) }}</span>
          </th>
          <td
            v-for="(date, i) in days"
            :key="date"
            class="p-0.5 text-center"
            :class="isOff(date, row.id) && 'bg-paper2'"
          >
            <button
              v-if="row.counts[i]"
              type="button"
              class="w-full rounded-[3px] py-0.5 text-saffron hover:outline"
              :class="isChosen(row.id, date) && 'outline-2'"
              :style="weight(row.counts[i] ?? 0)"
              :aria-label="`${row.counts[i]} for ${ownerName(row.id)} on ${sayDate(date)}`"
              @click="emit('go', { day: date, owner: row.id ?? undefined })"
            >
              {{ row.counts[i] }}
            </button>
          </td>
        </tr>
      </tbody>
    </table>
  </div>
</template>
