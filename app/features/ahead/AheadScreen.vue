<script setup lang="ts">
import { figure, nounOf } from '#core/language/counts'
import { addDays, dateAt } from '#core/time/dates'
import { instantAt } from '#core/time/moments'
import { sayInstant, sayTime, sayWeekday } from '#core/time/say'
import type { AheadLine } from '~~/server/views/ahead'
import type { AheadItem } from '~~/server/engine/ahead'
import { send, attempt } from '~/shared/api/api'
import { useLineKeys } from '~/shared/keys/useLineKeys'
import MarkLegend from '~/shared/run/MarkLegend.vue'
import { useKeys } from '~/shared/keys/useKeys'
import { useQueryChange } from '~/shared/useQueryChange'
import { useCatalogue } from '~/shared/stores/catalogue'
import AheadCalendar from './AheadCalendar.vue'
import AheadGrid from './AheadGrid.vue'
import AheadLoad from './AheadLoad.vue'
import { DAYS } from './days'
import { useNotices } from '~/shared/stores/notices'
import { useLiveQuery } from '~/shared/live/useLiveQuery'
import RefLink from '~/shared/record/RefLink.vue'

/** Everything that will happen later: a grid of owners and days above the list on its line of time. */
useHead({ title: 'Ahead' })
const route = useRoute()
const store = useCatalogue()
const zone = computed(() => store.catalogue.workspace.zone)
const one = (key: string): string | undefined =>
  typeof route.query[key] === 'string' && route.query[key] !== '' ? String(route.query[key]) : undefined
const rule = computed(() => one('rule'))
const owner = computed(() => one('owner'))
const day = computed(() => one('day'))
const look = computed(() => (one('look') === 'calendar' ? 'calendar' : one('look') === 'load' ? 'load' : 'grid'))
const go = useQueryChange()
const CHANGED_BY = ['ahead', 'records', 'rules', 'clock'] as const
const { data: grid, refresh: regrid } = await useLiveQuery('/api/v1/ahead/grid', {
  query: () => ({ days: DAYS, rule: rule.value }),
  changedBy: CHANGED_BY,
})
const period = computed(() =>
  day.value ? { from: instantAt(day.value, 0, zone.value), to: instantAt(addDays(day.value, 1), 0, zone.value) } : {},
)
const {
  data,
  refresh,
  asking: reading,
} = await useLiveQuery('/api/v1/ahead', {
  query: () => ({ ...period.value, rule: rule.value, owner: owner.value, limit: 500 }),
  changedBy: CHANGED_BY,
})
const lines = computed(() => (data.value?.lines ?? []) as readonly AheadLine[])
const days = computed(() => grid.value?.days ?? [])
const chosen = ref<ReadonlySet<string>>(new Set())
watch(lines, (now) => {
  chosen.value = new Set([...chosen.value].filter((key) => now.some((line) => line.key === key)))
})
function toggle(key: string): void {
  const next = new Set(chosen.value)
  if (!next.delete(key)) next.add(key)
  chosen.value = next
}
function toggleAll(): void {
  const all = lines.value.filter((line) => line.item).map((line) => line.key)
  chosen.value = new Set(chosen.value.size > 0 ? [] : all)
}
const items = computed((): AheadItem[] =>
  lines.value.flatMap((line) => (chosen.value.has(line.key) && line.item ? [line.item] : [])),
)
/** The line that has the focus: what keys act on while none is selected. */
const here = ref<string | null>(null)
function selectHere(): void {
  if (chosen.value.size === 0 && lines.value.some((line) => line.key === here.value && line.item))
    chosen.value = new Set([here.value ?? ''])
}
const reason = ref('')
const putOff = ref(false)
const to = reactive({ day: '', time: '9:00' })
const may = computed(() => store.may('build'))
async function act(what: 'end' | 'now' | 'postpone', toMs?: number): Promise<void> {
  const asked = items.value.length
  const done = await attempt(() =>
    send<{ done: number; gone: number }>('POST', '/api/v1/ahead', {
      act: what,
      items: items.value,
      reason: reason.value,
      ...(toMs === undefined ? {} : { toMs }),
    }),
  )
  if (!done) return
  useNotices().tell({
    tone: 'rule',
    title: what === 'end' ? 'Ended' : what === 'now' ? 'Run' : 'Postponed',
    text: `${done.done} of ${asked}.${done.gone > 0 ? ` ${done.gone} no longer existed.` : ''}`,
  })
  chosen.value = new Set()
  reason.value = ''
  putOff.value = false
  await Promise.all([regrid(), refresh()])
}
function postpone(): void {
  const [hour = '9', minute = '0'] = to.time.split(':')
  if (to.day) void act('postpone', instantAt(to.day, Number(hour) * 60 + Number(minute), zone.value))
}
const dayAbove = (i: number): string | null => {
  const before = lines.value[i - 1]
  return before ? (before.dueMs === null ? '' : dateAt(before.dueMs, zone.value)) : null
}
const dayOfLine = (line: AheadLine): string => (line.dueMs === null ? '' : dateAt(line.dueMs, zone.value))
const ruleName = computed(() =>
  rule.value ? (lines.value.find((line) => String(line.ruleId) === rule.value)?.ruleName ?? `Rule ${rule.value}`) : '',
)
const MARKS = [
  ['time', 'Rule runs or continues'],
  ['people', 'Task appears'],
] as const
const list = useTemplateRef<HTMLElement>('list')
useLineKeys(list, '[data-ahead]')
useKeys({
  e: () => {
    selectHere()
    if (may.value && items.value.length > 0) void act('end')
  },
  n: () => {
    selectHere()
    if (may.value && items.value.length > 0) void act('now')
  },
  l: () => {
    selectHere()
    if (may.value && items.value.length > 0) putOff.value = true
  },
})
</script>

<template>
  <div class="screen flex h-full min-h-0 flex-col px-8 pt-4">
    <div class="flex flex-none flex-wrap items-baseline gap-x-4 gap-y-1">
      <h1>Ahead</h1>
      <nav aria-label="View" class="flex gap-3 font-serif text-[16px] max-[499px]:hidden">
        <button
          v-for="[key, label] in [
            ['grid', 'Grid'],
            ['calendar', 'Calendar'],
            ['load', 'Workload'],
          ] as const"
          :key="key"
          type="button"
          :class="look === key ? 'border-b-2 border-ink font-medium' : 'text-ink2 italic hover:text-ink'"
          :aria-pressed="look === key"
          @click="go({ look: key === 'grid' ? undefined : key })"
        >
          {{ label }}
        </button>
      </nav>
      <p class="quiet" aria-live="polite">
        {{ figure(grid?.total ?? 0) }}{{ grid?.more ? ' and more' : '' }} in the next {{ DAYS }} days
      </p>
      <p v-if="rule || owner || day" class="ml-auto flex flex-wrap gap-2">
        <button v-if="rule" type="button" class="button py-0.5!" @click="go({ rule: undefined })">
          {{ ruleName }} ×
        </button>
        <button v-if="owner" type="button" class="button py-0.5!" @click="go({ owner: undefined })">
          {{ store.personName(owner) }} ×
        </button>
        <button v-if="day" type="button" class="button py-0.5!" @click="go({ day: undefined })">
          {{ sayWeekday(day) }} ×
        </button>
      </p>
    </div>

    <AheadGrid
      v-if="grid && look === 'grid' && grid.owners.length > 0"
      class="max-[499px]:hidden"
      :grid="grid"
      :owner="owner"
      :day="day"
      @go="go"
    />
    <AheadCalendar
      v-else-if="grid && look === 'calendar'"
      class="max-[499px]:hidden"
      :grid="grid"
      :day="day"
      @go="go"
    />
    <AheadLoad v-else-if="grid && look === 'load'" class="max-[499px]:hidden" :grid="grid" />

    <div
      v-if="may && lines.length > 0"
      class="mt-3 flex flex-none flex-wrap items-center gap-2 border-b border-ink2 pb-2 text-[13.5px]"
      role="group"
      aria-label="Actions for selected items"
    >
      <button type="button" class="button py-0.5!" @click="toggleAll">
        {{ chosen.size > 0 ? 'Clear selection' : 'Select all' }}
      </button>
      <span class="quiet" aria-live="polite">{{ items.length }} selected</span>
      <template v-if="items.length > 0">
        <button type="button" class="button" data-end @click="act('end')">End <kbd>E</kbd></button>
        <button type="button" class="button" data-put-off @click="putOff = !putOff">Postpone <kbd>L</kbd></button>
        <button type="button" class="button" data-now @click="act('now')">Run now <kbd>N</kbd></button>
        <input
          v-model="reason"
          class="entry w-64"
          maxlength="500"
          placeholder="Reason (optional, shown in the Journal)"
          aria-label="Reason"
        />
        <form v-if="putOff" class="flex items-center gap-2" @submit.prevent="postpone">
          <label class="quiet"
            >to
            <input
              v-model="to.day"
              class="entry"
              type="date"
              required
              :min="days[0]"
              @vue:mounted="($event.el as HTMLElement).focus()" /></label
          ><input v-model="to.time" class="entry w-16" pattern="\d{1,2}(:\d{2})?" aria-label="Time" /><button
            type="submit"
            class="button main"
          >
            Postpone
          </button>
        </form>
      </template>
    </div>
    <MarkLegend v-if="lines.length > 0" :marks="MARKS" class="mt-2" />
    <ol
      ref="list"
      class="fills min-h-0 flex-1 overflow-auto pt-2 pb-16"
      aria-label="Upcoming, soonest first"
      tabindex="0"
      :aria-busy="reading"
    >
      <li
        v-for="(line, i) in lines"
        :key="line.key"
        class="grid grid-cols-[24px_112px_22px_minmax(0,1fr)] gap-x-2 text-[14px] max-[499px]:grid-cols-[24px_74px_18px_minmax(0,1fr)] max-[499px]:gap-x-1"
        data-ahead
        @focusin="here = line.key"
      >
        <span class="pt-1.5 text-center"
          ><input
            v-if="may && line.item"
            type="checkbox"
            :checked="chosen.has(line.key)"
            :aria-label="`Select ${line.recordName}, rule “${line.ruleName}”`"
            @change="toggle(line.key)"
        /></span>
        <span
          class="pt-1 text-right text-[12.5px] leading-tight whitespace-nowrap text-saffron max-[499px]:whitespace-normal"
          :title="line.dueMs === null ? undefined : sayInstant(line.dueMs, zone)"
          ><template v-if="dayAbove(i) !== dayOfLine(line)"
            >{{ line.dueMs === null ? 'No fixed time' : sayWeekday(dayOfLine(line))
            }}<template v-if="line.dueMs !== null">, </template></template
          ><template v-if="line.dueMs !== null">{{ sayTime(line.dueMs, zone) }}</template></span
        >
        <span class="relative"
          ><span class="rail ahead" /><span
            class="mark absolute top-2 left-[5px]"
            :class="line.kind === 'task' ? 'people' : 'time'"
            aria-hidden="true"
        /></span>
        <span class="min-w-0 py-1">
          <template v-if="line.ref"
            ><RefLink :of="line.ref" class="name-link font-serif text-[16px]">{{ line.recordName }}</RefLink
            ><span v-if="line.ownerId" class="quiet"> · {{ store.personName(line.ownerId) }}</span></template
          >
          <span v-else-if="line.count === null" class="font-serif text-[16px]">{{ line.recordName }}</span>
          <template v-else
            ><span class="font-serif text-[16px]">{{
              `${figure(line.count)} matching ${nounOf(line.count, 'record')}`
            }}</span
            ><span class="quiet"> · {{ line.recordName }}</span></template
          >
          <span class="block truncate max-sm:line-clamp-3 max-sm:whitespace-normal" :title="line.what"
            ><NuxtLink
              :to="line.runId === null ? `/rules/${line.ruleId}` : `/journal/${line.runId}`"
              class="name-link font-semibold text-violet"
              >{{ line.ruleName }}</NuxtLink
            >
            {{ line.what
            }}<span
              v-if="(line.kind === 'start' || line.kind === 'again') && (line.ref || line.count !== null)"
              class="quiet"
              >, if it still meets the conditions</span
            ><span v-if="line.moved" class="text-saffron"> · {{ line.moved }}</span></span
          >
        </span>
      </li>
      <li v-if="lines.length === 0" class="py-16 text-center">
        <p class="font-serif text-[20px]">
          {{ rule || owner || day ? 'Nothing for this filter.' : 'Nothing is scheduled.' }}
        </p>
        <p v-if="!rule && !owner && !day && store.may('build')" class="quiet mt-2">
          Rules with a date, a schedule or a wait show up here.
          <NuxtLink to="/rules" class="word">Create a rule</NuxtLink>
        </p>
      </li>
      <li v-if="(data?.total ?? 0) > lines.length" class="quiet py-2 pl-36">
        Showing {{ lines.length }} of {{ figure(data?.total ?? 0) }}{{ data?.more ? '+' : '' }}. Filter by owner or day
        to see more.
      </li>
    </ol>
  </div>
</template>
