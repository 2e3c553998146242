<script setup lang="ts">
import { sayQueue } from '#core/records/task'
import { figure } from '#core/language/counts'
import { sayDate, sayInstant, sayTime, sayWeekday } from '#core/time/say'
import type { RehearsalView } from '~~/server/worker/rehearsals'
import { useCatalogue } from '~/shared/stores/catalogue'
import type { Rehearsal } from './useRehearsal'
import RefLink from '~/shared/record/RefLink.vue'

/** What would happen, line by line in its order; a task can be read as it would read. */
const { r, view } = defineProps<{ r: Rehearsal; view: RehearsalView }>()
const store = useCatalogue()
const zone = computed(() => store.catalogue.workspace.zone)
const dayAbove = (i: number): string => {
  const before = view.lines[i - 1]
  return before ? r.dayOf(before.atMs) : ''
}
/** The task whose text is read in full. */
const open = ref<string | null>(null)
const turnOver = (key: string): void => {
  open.value = open.value === key ? null : key
}
</script>

<template>
  <ol class="mt-2 min-h-0 flex-1 overflow-auto pb-16" tabindex="0" aria-label="In order of time">
    <li
      v-for="(line, i) in view.lines"
      :key="line.key"
      class="grid grid-cols-[142px_22px_minmax(0,1fr)] gap-x-2 text-[14px] max-[499px]:grid-cols-[92px_22px_minmax(0,1fr)]"
      data-line-of-rehearsal
    >
      <span
        class="pt-1 text-right text-[12.5px] leading-tight whitespace-nowrap text-saffron"
        :title="sayInstant(line.atMs, zone)"
        ><template v-if="dayAbove(i) !== r.dayOf(line.atMs)"
          >{{ sayWeekday(r.dayOf(line.atMs))
          }}<template v-if="r.dayOf(line.atMs).slice(0, 4) !== store.today.slice(0, 4)"
            >&nbsp;{{ r.dayOf(line.atMs).slice(0, 4) }}</template
          >, </template
        >{{ sayTime(line.atMs, zone) }}</span
      >
      <span class="relative"
        ><span class="rail ahead" /><span
          class="mark absolute top-2 left-[5px]"
          :class="line.kind === 'start' ? 'start' : line.state === 'failed' ? 'stop' : line.category"
          aria-hidden="true"
      /></span>
      <span class="min-w-0 py-0.5">
        <template v-if="line.kind === 'start'"
          ><button
            type="button"
            class="name-link font-serif text-[16px]"
            :title="`Show only ${line.recordName}`"
            @click="r.go({ only: r.only ? undefined : String(line.ref.id) })"
          >
            {{ line.recordName }}
          </button>
          <button
            type="button"
            class="name-link font-semibold text-violet"
            :title="`Show ${line.recordName} step by step`"
            data-see-way
            @click="r.way(line.runId)"
          >
            {{ line.ruleName }}
          </button>
          <i class="font-serif text-ink2">Why: {{ line.say }}</i></template
        >
        <template v-else
          ><button
            v-if="line.task"
            type="button"
            class="text-left hover:underline"
            :aria-expanded="open === line.key"
            @click="turnOver(line.key)"
          >
            <span class="mr-1.5 text-[12.5px] font-semibold text-ink2">{{ line.label }}</span>{{
              ` ${line.say}`
            }}</button
          ><span v-else-if="line.label" class="mr-1.5 text-[12.5px] font-semibold text-ink2">{{ line.label }}</span
          ><span
            v-if="!line.task"
            :class="line.state === 'failed' ? 'text-brick' : line.state === 'skipped' ? 'text-ink2' : ''"
            >{{ line.say }}</span
          ><span v-if="dayAbove(i) !== r.dayOf(line.atMs) || view.lines[i - 1]?.runId !== line.runId" class="quiet">
            · {{ line.recordName }}</span
          ></template
        >
        <span v-if="line.task && open === line.key" class="mt-1 block rounded-[3px] bg-paper2 px-3 py-2"
          ><b class="font-serif text-[16px] font-medium">{{ line.task.title }}</b
          ><br /><span class="quiet">
            For {{ line.task.assigneeId ? store.personName(line.task.assigneeId) : sayQueue(line.task.queue) }}, due
            {{ sayDate(line.task.due) }}</span
          ><span v-if="line.task.notes" class="block whitespace-pre-line">{{ line.task.notes }}</span
          ><RefLink :of="line.ref" class="word">Open {{ line.recordName }}</RefLink></span
        >
      </span>
    </li>
    <li v-if="view.lines.length === 0" class="py-12 text-center font-serif text-[18px]">
      {{ r.only || r.day || r.owner ? 'Nothing for this filter.' : 'Nothing would happen in this period.' }}
      <p v-if="!r.only && !r.day && !r.owner && !r.back && r.script.length === 0" class="quiet mt-2 font-sans">
        A rule triggered by a change needs one:
        <button type="button" class="word" @click="r.askAssumed(true)">add an assumption</button>, or
        <button type="button" class="word" @click="r.goThroughPast">replay past changes</button>.
      </p>
    </li>
    <li v-else-if="view.total > view.lines.length" class="quiet py-2 pl-36">
      Showing {{ view.lines.length }} of {{ figure(view.total) }}. Filter by day, owner or record to see more.
    </li>
  </ol>
</template>
