<script setup lang="ts">
import MarkLegend from '~/shared/run/MarkLegend.vue'
import { sayInstant, sayRelative, sayTime, sayWeekday } from '#core/time/say'
import { dateAt } from '#core/time/dates'
import { sayQueue, TASK_KIND_WORDS } from '#core/records/task'
import { OBJECT_WORDS, type RecordRef } from '#core/records/kinds'
import type { RecordPage, TimelineEntry } from '~~/server/views/record'
import { recordPath } from '~/shared/paths'
import { bringRecordBack } from './bringBack'
import { useCatalogue } from '~/shared/stores/catalogue'

/** One rail for past and future: what is ahead above the line of now, what happened below it. */
const props = defineProps<{ page: RecordPage }>()
const emit = defineEmits<{ changed: [] }>()
const store = useCatalogue()
const kindWord = computed(() => OBJECT_WORDS[props.page.ref.object].one)
const zone = computed(() => store.catalogue.workspace.zone)
const day = (atMs: number): string => dateAt(atMs, zone.value)
const ahead = computed(() => [...props.page.ahead].reverse())
/** The latest on top: reading upwards is reading forward in time. */
const coming = computed(() => [...props.page.waiting].reverse())
const until = (dueMs: number | null): string =>
  dueMs === null ? 'No fixed time' : sayRelative(day(dueMs), store.today)
/** Entries that say nothing (only kept fields moved) are left out; the day is written once. */
const KINDS = [
  ['all', 'All'],
  ['change', 'Changes'],
  ['rules', 'By rules'],
  ['tasks', 'Tasks'],
  ['activity', 'Activity'],
  ['link', 'Links'],
] as const
const only = ref<(typeof KINDS)[number][0]>('all')
function wanted(entry: TimelineEntry): boolean {
  switch (only.value) {
    case 'all':
      return true
    case 'change':
      return entry.what === 'change' || entry.what === 'went'
    case 'link':
      return entry.what === 'link'
    case 'activity':
      return entry.what === 'activity'
    case 'tasks':
      return entry.what === 'task' || entry.what === 'done'
    case 'rules':
      return (
        entry.what === 'run' ||
        entry.what === 'task' ||
        ((entry.what === 'change' || entry.what === 'link') && entry.doer.by === 'rule')
      )
  }
}
const past = computed(() =>
  props.page.timeline.filter(
    (entry) => (entry.what !== 'change' || entry.created || entry.changes.length > 0) && wanted(entry),
  ),
)
/** Only kinds that there are are offered. */
const offered = computed(() =>
  KINDS.filter(
    ([key]) =>
      key === 'all' ||
      key === only.value ||
      props.page.timeline.some((entry) => {
        if (key === 'rules')
          return 'doer' in entry ? entry.doer.by === 'rule' : entry.what !== 'done' && entry.what !== 'activity'
        return key === 'tasks' ? entry.what === 'task' : entry.what === key
      }),
  ),
)
const dayAbove = (index: number): string => {
  const before = past.value[index - 1]
  return before ? day(before.atMs) : ''
}
const category = (entry: TimelineEntry): string => {
  switch (entry.what) {
    case 'change':
      return entry.doer.by === 'rule' ? 'data' : entry.doer.by === 'import' ? 'outside' : ''
    case 'task':
      return 'people'
    case 'done':
      return 'people'
    case 'link':
      return entry.doer.by === 'rule' ? 'data' : ''
    case 'activity':
      return 'outside'
    case 'went':
      return 'stop'
    case 'run':
      return entry.state === 'failed' ? 'stop' : 'data'
  }
}
const MARKS = [
  ['', 'Person'],
  ['data', 'Rule'],
  ['outside', 'Import or activity'],
  ['people', 'Task'],
  ['time', 'Ahead'],
  ['stop', 'Failed, deleted or merged'],
] as const
async function bringBack(ref: RecordRef): Promise<void> {
  if (await bringRecordBack(ref)) emit('changed')
}
</script>

<template>
  <div>
    <div role="group" aria-label="Filter timeline" class="mb-1 flex justify-end gap-3 text-[13px]">
      <button
        v-for="[key, label] in offered"
        :key="key"
        type="button"
        :aria-pressed="only === key"
        :class="only === key ? 'border-b border-ink font-medium' : 'text-ink2 hover:text-ink'"
        @click="only = key"
      >
        {{ label }}
      </button>
    </div>
    <ol
      class="grid grid-cols-[116px_22px_minmax(0,1fr)] gap-x-2 text-[14px] max-[499px]:grid-cols-[78px_22px_minmax(0,1fr)]"
      aria-label="Timeline, latest first"
    >
      <li v-for="line in coming" :key="line.key" class="contents">
        <span
          class="pt-1 text-right text-[12.5px] whitespace-nowrap text-saffron"
          :title="line.dueMs === null ? undefined : sayInstant(line.dueMs, zone)"
          >{{ until(line.dueMs) }}</span
        >
        <span class="relative"
          ><span class="rail ahead" /><span class="mark time absolute top-2 left-[5px]" aria-hidden="true"
        /></span>
        <span class="py-1"
          ><NuxtLink
            :to="line.runId === null ? `/rules/${line.ruleId}` : `/journal/${line.runId}`"
            class="name-link font-semibold text-violet"
            >{{ line.ruleName }}</NuxtLink
          >
          <span class="font-serif text-[16px]">{{ line.what }}</span><span
            v-if="line.kind !== 'wait' && line.kind !== 'task'"
            class="quiet"
            >, if it still meets the conditions</span
          ><span v-if="line.moved" class="quiet"> · {{ line.moved }}</span></span
        >
      </li>
      <template v-for="task in ahead" :key="`a${task.id}`">
        <li class="contents">
          <span
            class="pt-1 text-right text-[12.5px] whitespace-nowrap"
            :class="task.due < store.today ? 'text-brick' : 'text-saffron'"
            >{{ sayRelative(task.due, store.today) }}</span
          >
          <span class="relative"
            ><span class="rail ahead" /><span class="mark people absolute top-2 left-[5px]" aria-hidden="true"
          /></span>
          <span class="py-1"
            ><span class="font-serif text-[16px]">{{ task.title }}</span>
            <span class="quiet"
              >{{ TASK_KIND_WORDS[task.taskKind] }} for
              {{ task.assigneeId === null ? sayQueue(task.queue) : store.personName(task.assigneeId) }}, open</span
            ><br /><i class="font-serif text-ink2">Why: {{ task.because }}</i>
            <NuxtLink :to="`/journal/${task.runId}`" class="quiet name-link">Show run</NuxtLink></span
          >
        </li>
      </template>
      <li class="contents">
        <span class="pt-0.5 text-right text-[12.5px] font-semibold text-saffron">Now</span
        ><span class="relative"
          ><span class="rail" /><span class="absolute top-[10px] right-0 left-0 h-[2px] bg-saffron" /></span
        ><span class="mt-[10px] h-[2px] bg-saffron opacity-40" />
      </li>
      <li v-if="ahead.length + coming.length === 0" class="contents">
        <span /><span class="relative"><span class="rail" /></span><span class="quiet pb-1">Nothing scheduled.</span>
      </li>
      <li v-for="(entry, i) in past" :key="entry.key" class="contents">
        <span class="pt-1 text-right text-[12.5px] leading-tight whitespace-nowrap text-ink2"
          ><template v-if="dayAbove(i) !== day(entry.atMs)">{{ sayWeekday(day(entry.atMs)) }}, </template
          >{{ sayTime(entry.atMs, zone) }}</span
        >
        <span class="relative"
          ><span class="rail" :class="i === past.length - 1 && 'last'" /><span
            class="mark absolute top-2 left-[5px]"
            :class="[category(entry), entry.what === 'done' && 'bg-moss!']"
            aria-hidden="true"
        /></span>
        <span class="py-1">
          <template v-if="entry.what === 'change'">
            <NuxtLink
              v-if="entry.doer.runId"
              :to="`/journal/${entry.doer.runId}`"
              class="name-link font-semibold text-violet"
              >{{ entry.doer.name }}</NuxtLink
            >
            <NuxtLink
              v-else-if="entry.doer.importId && store.may('build')"
              :to="`/data/${entry.doer.importId}`"
              class="name-link font-semibold text-slate"
              >{{ entry.doer.name }}</NuxtLink
            >
            <span v-else-if="entry.doer.by === 'derived'" class="text-ink2">{{
              entry.doer.name === page.values.name ? 'recalculated' : `recalculated because of ${entry.doer.name}`
            }}</span>
            <b v-else class="font-semibold">{{ entry.doer.name }}</b>
            <template v-if="entry.created"> created {{ entry.of ?? `this ${kindWord}` }}</template>
            <template v-else
              ><template v-if="entry.of">, on {{ entry.of }}:</template
              ><span v-for="change in entry.changes" :key="change.label" class="mr-2"
                >{{ ' ' }}{{ change.label.toLowerCase() }}: <s class="text-ink2 decoration-hair">{{ change.old }}</s> →
                {{ change.new }}</span
              ></template
            >
          </template>
          <template v-else-if="entry.what === 'task'"
            ><NuxtLink :to="`/journal/${entry.task.runId}`" class="name-link font-semibold text-violet">{{
              entry.ruleName
            }}</NuxtLink>
            created a task for
            {{ entry.task.assigneeId === null ? sayQueue(entry.task.queue) : store.personName(entry.task.assigneeId) }}:
            “{{ entry.task.title }}”<span v-if="entry.undone" class="font-semibold" data-undone
              >, undone by {{ entry.undone.person }}, {{ sayInstant(entry.undone.atMs, zone) }}</span
            ><br /><i class="font-serif text-ink2">Why: {{ entry.task.because }}</i></template
          >
          <template v-else-if="entry.what === 'link'"
            ><NuxtLink
              v-if="entry.doer.runId"
              :to="`/journal/${entry.doer.runId}`"
              class="name-link font-semibold text-violet"
              >{{ entry.doer.name }}</NuxtLink
            ><b v-else class="font-semibold">{{ entry.doer.name }}</b>
            {{ entry.act === 'linked' ? 'linked to' : 'removed the link to' }}
            <NuxtLink :to="recordPath(entry.other)" class="name-link">{{ entry.name }}</NuxtLink></template
          >
          <template v-else-if="entry.what === 'went'">
            <b class="font-semibold">{{ entry.doer.name }}</b>
            <template v-if="entry.of && entry.kind === 'merged'">
              merged {{ entry.of.name }} into this {{ kindWord }}
              <button
                v-if="entry.of.canBringBack && store.may('work')"
                type="button"
                class="word"
                @click="bringBack(entry.of.ref)"
              >
                Undo
              </button></template
            >
            <template v-else-if="entry.of">
              {{ entry.kind === 'deleted' ? 'deleted' : 'restored' }} {{ entry.of.name }}</template
            >
            <template v-else>{{
              entry.kind === 'restored'
                ? ` restored this ${kindWord}`
                : entry.kind === 'deleted'
                  ? ` deleted this ${kindWord}`
                  : ` merged this ${kindWord} into another`
            }}</template>
          </template>
          <template v-else-if="entry.what === 'activity'"
            ><span class="text-slate">{{ store.catalogue.activities.words(entry.kind).did }}</span
            ><template v-if="entry.about">: {{ entry.about }}</template></template
          >
          <template v-else-if="entry.what === 'done'"
            ><b class="font-semibold">{{ entry.person }}</b> completed “{{ entry.task.title }}”<template
              v-if="entry.task.outcome"
              >: {{ entry.task.outcome }}</template
            ></template
          >
          <template v-else
            ><NuxtLink
              :to="`/journal/${entry.run.id}`"
              class="name-link font-semibold"
              :class="entry.state === 'failed' ? 'text-brick' : 'text-violet'"
              >{{ entry.run.ruleName }}</NuxtLink
            >
            {{ entry.state }}: {{ entry.text }}</template
          >
        </span>
      </li>
      <li v-if="past.length === 0" class="contents">
        <span /><span class="relative"><span class="rail last" /></span><span class="quiet">Nothing to show.</span>
      </li>
    </ol>
    <p v-if="page.note" class="quiet mt-2 text-right text-[13px]">{{ page.note }}</p>
    <MarkLegend :marks="MARKS" class="mt-6" />
  </div>
</template>
