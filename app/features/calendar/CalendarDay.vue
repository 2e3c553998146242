<script setup lang="ts">
import { recordPath } from '~/shared/paths'
import { sayWeekday } from '#core/time/say'

/** The appointments of a day by the hour; those that overlap stand beside one another. */
interface Shown {
  readonly id: number
  readonly name: string
  readonly status: string
  readonly place: string
  readonly contacts: readonly string[]
  readonly owner: string
  readonly time: string
  /** Minutes from midnight. */
  readonly from: number
  readonly to: number
}
const props = defineProps<{ date: string; appointments: readonly Shown[]; hours: readonly number[] }>()
const HOUR = 48
const placed = computed(() => {
  const lanes: number[] = []
  const found = props.appointments.map((one) => {
    const free = lanes.findIndex((end) => end <= one.from)
    const lane = free < 0 ? lanes.length : free
    lanes[lane] = one.to
    return { one, lane }
  })
  return found.map(({ one, lane }) => ({
    one,
    style: {
      top: `${((one.from - (props.hours[0] ?? 0) * 60) / 60) * HOUR}px`,
      height: `${((one.to - one.from) / 60) * HOUR - 2}px`,
      left: `${(lane / lanes.length) * 100}%`,
      width: `${100 / lanes.length}%`,
    },
  }))
})
const isOff = (status: string): boolean => status === 'cancelled' || status === 'missed'
</script>

<template>
  <ol
    class="relative border-l border-hair"
    :aria-label="sayWeekday(date)"
    :style="{
      height: `${hours.length * HOUR}px`,
      backgroundImage: 'linear-gradient(var(--hair) 1px, transparent 1px)',
      backgroundSize: `100% ${HOUR}px`,
    }"
  >
    <li v-for="{ one, style } in placed" :key="one.id" class="absolute p-px" :style="style">
      <NuxtLink
        :to="recordPath({ object: 'appointment', id: one.id })"
        class="block h-full overflow-hidden rounded-[3px] border-l-2 px-1.5 py-0.5 text-[12.5px] leading-[1.25]"
        :class="
          isOff(one.status)
            ? 'border-brick bg-paper2 text-ink2 line-through'
            : one.status === 'attended'
              ? 'border-moss bg-moss-t text-moss'
              : 'border-slate bg-slate-t text-slate'
        "
        :title="`${one.time} ${one.name}, ${one.contacts.join(', ')} (${one.status}; ${one.owner})`"
        ><b class="font-semibold">{{ one.time }} {{ one.name }}</b
        ><span v-if="isOff(one.status)" class="sr-only">, {{ one.status }}</span
        ><span class="block truncate">{{
          [one.contacts.join(', ') || one.place, one.owner].filter(Boolean).join(' · ')
        }}</span></NuxtLink
      >
    </li>
  </ol>
</template>
