<script setup lang="ts">
import { count } from '#core/language/counts'
import { Popover, PopoverButton, PopoverPanel } from '@headlessui/vue'
import { instantAt } from '#core/time/moments'
import { addDays, dateAt } from '#core/time/dates'
import { sayInstant } from '#core/time/say'
import { read, send, attempt } from '~/shared/api/api'
import { useLive } from '~/shared/live/useLive'
import { useCatalogue } from '~/shared/stores/catalogue'

/**
 * The clock of a demo workspace, which can be turned forward: everything that falls due on the way is done in its
 * order.
 */
const props = defineProps<{ nowMs: number; said: string; place: string }>()
const store = useCatalogue()
const zone = computed(() => store.catalogue.workspace.zone)
interface ClockFacts {
  nowMs: number
  aheadMs: number
  nextMs: number | null
}
const facts = shallowRef<ClockFacts | null>(null)
const day = ref('')
const turning = ref(false)
async function look(): Promise<void> {
  // What somebody chose stays, however the clock goes meanwhile, as long as it is still to come.
  const today = dateAt(props.nowMs, zone.value)
  if (day.value <= today) day.value = addDays(today, 7)
  facts.value = await attempt(() => read<ClockFacts>('/api/v1/clock'))
}
async function turn(toMs: number): Promise<void> {
  turning.value = true
  if (!(await attempt(() => send('POST', '/api/v1/clock', { toMs })))) turning.value = false
}
useLive((message) => {
  if (message.about !== 'clock') return
  turning.value = false
  if (facts.value) void look()
})
const HOUR = 3_600_000
const ahead = computed(() => {
  const hours = Math.round((facts.value?.aheadMs ?? 0) / HOUR)
  return hours === 0
    ? 'It shows the real time.'
    : `It is ${hours >= 48 ? count(Math.round(hours / 24), 'day') : count(hours, 'hour')} ahead of the real time.`
})
</script>

<template>
  <Popover class="relative">
    <PopoverButton
      class="rounded-[3px] border-b border-dashed border-saffron px-1 font-semibold text-saffron hover:bg-saffron-t"
      :title="`Demo clock (${zone}): can be moved forward`"
      data-clock
      @click="look"
      ><time
        ><span class="max-[499px]:hidden">{{ said.split(', ')[0] }}, </span>{{ said.split(', ')[1] }}</time
      >
      <span class="font-normal max-[1340px]:hidden">{{ place }}</span></PopoverButton
    >
    <PopoverPanel
      focus
      role="dialog"
      aria-label="Demo clock"
      class="pop absolute right-0 z-40 mt-1 w-80 p-3 whitespace-normal text-ink focus:outline-none"
    >
      <p class="font-serif text-[16px]">Demo clock</p>
      <p class="quiet" aria-live="polite">
        {{ turning ? 'Moving forward. Running what is due…' : ahead }} When you move it forward, everything due on the
        way runs. It can’t be moved back.
      </p>
      <template v-if="store.may('build')">
        <div class="mt-2 flex flex-wrap gap-2">
          <button
            type="button"
            class="button"
            :disabled="turning || facts?.nextMs == null"
            :title="facts?.nextMs ? sayInstant(facts.nextMs, zone) : undefined"
            @click="facts?.nextMs && turn(Math.max(facts.nextMs, nowMs + 1000))"
          >
            Next event
          </button>
          <button type="button" class="button" :disabled="turning" @click="turn(nowMs + HOUR)">+1 hour</button>
          <button type="button" class="button" :disabled="turning" data-turn-day @click="turn(nowMs + 24 * HOUR)">
            +1 day
          </button>
        </div>
        <form class="mt-2 flex items-center gap-2" @submit.prevent="turn(instantAt(day, 720, zone))">
          <label class="quiet"
            >Forward to 12:00 on
            <input v-model="day" class="entry" type="date" required :min="addDays(dateAt(nowMs, zone), 1)" /></label
          ><button type="submit" class="button" :disabled="turning">Move clock</button>
        </form>
        <p v-if="facts?.nextMs" class="quiet mt-2">Next event: {{ sayInstant(facts.nextMs, zone) }}</p>
        <p v-else-if="facts" class="quiet mt-2">Nothing is scheduled.</p>
      </template>
      <p v-else class="quiet mt-2">Only specialists can move the clock.</p>
    </PopoverPanel>
  </Popover>
</template>
