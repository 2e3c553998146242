<script setup lang="ts">
import { count } from '#core/language/counts'
import { sayWeekday } from '#core/time/say'
import type { RehearsalView } from '~~/server/worker/rehearsals'
import type { Rehearsal } from './useRehearsal'

/** What to look at first, what differs from the version that runs, and how much by day, person and kind. */
const { r, view } = defineProps<{ r: Rehearsal; view: RehearsalView }>()
const most = computed(() => Math.max(1, ...view.byDay.map(([, n]) => n)))
const KINDS: Readonly<Record<string, string>> = {
  createTask: 'tasks',
  taskAndWait: 'tasks to wait for',
  changeLabels: 'Label changes',
  setField: 'Field changes',
  moveStage: 'Stage changes',
  notify: 'Notifications',
  assignOwner: 'Owner changes',
  createRecord: 'Records created',
  qualify: 'qualified',
  decide: 'decided',
  linkMatch: 'linked',
  unlink: 'unlinked',
  stop: 'stopped',
}
const WARNING_TONES: Readonly<Record<string, string>> = {
  never: 'bg-slate-t text-slate',
  failed: 'bg-brick-t text-brick',
  cut: 'bg-brick-t text-brick',
}
</script>

<template>
  <div>
    <template v-if="view.warnings.length > 0"
      ><h2 class="text-[17px]!">Review these</h2>
      <ul class="mt-1 mb-4 space-y-1.5">
        <li
          v-for="warning in view.warnings"
          :key="warning.text"
          class="rounded-[3px] px-2.5 py-1.5"
          :class="WARNING_TONES[warning.kind] ?? 'bg-saffron-t text-saffron'"
          data-warning
        >
          {{ warning.text }}
          <button v-if="warning.ref" type="button" class="word" @click="r.go({ only: String(warning.ref.id) })">
            Show
          </button>
        </li>
      </ul></template
    >
    <template v-if="view.compared">
      <h2 class="text-[17px]!">Compared with the published version</h2>
      <p class="mt-1" data-compared>
        {{ view.compared.same }} the same · {{ view.compared.onlyLeft }} only in the published version ·
        {{ view.compared.onlyRight }} only in the draft · {{ view.compared.different }} different
      </p>
      <details
        v-for="one in view.compared.records.slice(0, 60)"
        :key="`${one.ref.object}${one.ref.id}`"
        class="border-b border-hair py-1"
      >
        <summary class="cursor-pointer">
          <b class="font-medium">{{ one.recordName }}</b>
          <span class="quiet">{{
            one.how === 'left'
              ? 'only in the published version'
              : one.how === 'right'
                ? 'only in the draft'
                : 'different'
          }}</span>
        </summary>
        <div class="grid grid-cols-2 gap-3 py-1 text-[13px]">
          <div>
            <p class="quiet">Published version</p>
            <p v-for="(line, i) in one.left" :key="i">{{ line }}</p>
            <p v-if="one.left.length === 0" class="quiet">Nothing</p>
          </div>
          <div>
            <p class="quiet">Draft</p>
            <p v-for="(line, i) in one.right" :key="i">{{ line }}</p>
            <p v-if="one.right.length === 0" class="quiet">Nothing</p>
          </div>
        </div>
      </details>
    </template>
    <h2 class="mt-3 text-[17px]!">By day</h2>
    <p v-if="view.byDay.length === 0" class="quiet">Nothing on any day.</p>
    <ul class="mt-1">
      <li
        v-for="[on, n] in view.byDay.slice(0, 60)"
        :key="on"
        class="grid grid-cols-[96px_minmax(0,1fr)_40px] items-center gap-2 text-[13px] tabular-nums"
      >
        <button type="button" class="name-link text-left" @click="r.go({ day: r.day === on ? undefined : on })">
          {{ sayWeekday(on) }}</button><span
          class="h-2.5 bg-saffron"
          :style="{ width: `${(100 * n) / most}%` }"
          aria-hidden="true"
        /><span class="text-right">{{ n }}</span>
      </li>
    </ul>
    <h2 class="mt-4 text-[17px]!">By person</h2>
    <ul>
      <li v-for="[who_, n] in view.byOwner" :key="who_" class="flex justify-between text-[13px]">
        <button
          v-if="!who_.startsWith('queue of')"
          type="button"
          class="name-link"
          @click="r.go({ owner: r.owner === who_ ? undefined : who_ })"
        >
          {{ r.ownerWord(who_) }}</button><span v-else>{{ who_ }}</span
        ><span class="tabular-nums">{{ count(n, 'task') }}</span>
      </li>
    </ul>
    <h2 class="mt-4 text-[17px]!">By action</h2>
    <ul>
      <li v-for="[kind, n] in view.byKind" :key="kind" class="flex justify-between text-[13px]">
        <span>{{ KINDS[kind] ?? kind }}</span><span class="tabular-nums">{{ n }}</span>
      </li>
    </ul>
  </div>
</template>
