<script setup lang="ts">
import { count } from '#core/language/counts'
import { PRIORITIES, TASK_KIND_WORDS } from '#core/records/task'
import { sayDate, sayRelative, sayTime, sayWeekday } from '#core/time/say'
import { useKeys } from '~/shared/keys/useKeys'
import { useQueryChange } from '~/shared/useQueryChange'
import { useCatalogue } from '~/shared/stores/catalogue'
import { useLiveQuery } from '~/shared/live/useLiveQuery'
import RefLink from '~/shared/record/RefLink.vue'
import TaskDetails from './TaskDetails.vue'
import { isAboutSeen, useTaskActs } from './taskActs'

useHead({ title: 'Day sheet' })
const route = useRoute()
const put = useQueryChange('push')
const store = useCatalogue()
const person = computed(() => (typeof route.query.person === 'string' ? route.query.person : (store.me?.id ?? '')))
const { data, refresh } = await useLiveQuery('/api/v1/day-sheet', {
  query: () => ({ person: person.value }),
  changedBy: ['tasks', 'records'],
})
const queued = computed(() => data.value?.queue?.tasks ?? [])
const tasks = computed(() => [...(data.value?.open ?? []), ...queued.value])
const today = computed(() => data.value?.today ?? store.today)
const groups = computed(() =>
  [
    { name: 'Overdue', tasks: tasks.value.filter((task) => task.assigneeId !== null && task.due < today.value) },
    { name: 'Today', tasks: tasks.value.filter((task) => task.assigneeId !== null && task.due === today.value) },
    { name: 'Upcoming', tasks: tasks.value.filter((task) => task.assigneeId !== null && task.due > today.value) },
    { name: `${data.value?.queue?.team ?? ''} queue`, tasks: queued.value },
  ].filter((group) => group.tasks.length > 0),
)

const currentId = ref<number | null>(tasks.value[0]?.id ?? null)
const current = computed(() => tasks.value.find((task) => task.id === currentId.value) ?? null)
watch(tasks, (now, before) => {
  if (now.some((task) => task.id === currentId.value)) return
  // The one that was done leaves its place to the next.
  const at = Math.max(
    0,
    before.findIndex((task) => task.id === currentId.value),
  )
  currentId.value = (now[at] ?? now.at(-1))?.id ?? null
  if (import.meta.server) return
  const held = document.activeElement
  if (held === document.body || held?.closest('[data-task]')) void nextTick(() => focusTask(currentId.value))
})
const { data: beside } = await useLiveQuery('/api/v1/records/:object/:id', {
  params: () => (current.value && isAboutSeen(current.value) ? current.value.ref : null),
  key: 'day-record',
  changedBy: ['tasks', 'records'],
})

const acts = useTaskActs({ person, today, queued, current, currentId, refresh })

/** The task that is acted on is the one that has the focus. */
function focusTask(id: number | null): void {
  document.querySelector<HTMLElement>(`[data-task="${id}"] > button`)?.focus()
}
function go(by: 1 | -1): void {
  const at = tasks.value.findIndex((task) => task.id === currentId.value)
  const next = tasks.value[Math.min(tasks.value.length - 1, Math.max(0, at + by))]
  if (!next) return
  currentId.value = next.id
  void nextTick(() => focusTask(next.id))
}
useKeys({
  ArrowDown: () => go(1),
  ArrowUp: () => go(-1),
  p: acts.pull,
  b: acts.putBack,
  d: () => acts.finish(),
  o: acts.outcome,
  l: () => acts.open('later'),
  h: () => acts.open('hand'),
  u: acts.undo,
})
/** An owner looks at the team's days, everybody else at all. */
const visiblePeople = computed(() =>
  store.catalogue.people.filter(
    (one) =>
      one.active &&
      (store.me?.role !== 'owner' || one.id === store.me.id || (one.team !== '' && one.team === store.me.team)),
  ),
)
const others = computed(() =>
  (data.value?.counts ?? [])
    .filter((one) => one.open > 0)
    .map((one) => ({ ...one, name: store.personName(one.personId) }))
    .sort((a, b) => b.open - a.open),
)
</script>

<template>
  <div class="split grid h-full grid-cols-[minmax(0,1.15fr)_minmax(0,1fr)]">
    <section class="min-h-0 overflow-auto border-r border-hair px-7 pt-4 pb-24" aria-label="Tasks" tabindex="0">
      <div class="flex flex-wrap items-baseline gap-x-4 gap-y-1">
        <h1>{{ person === store.me?.id ? 'Day sheet' : `${store.personName(person)}’s day sheet` }}</h1>
        <p class="quiet">
          {{ sayWeekday(today) }} · {{ count(tasks.length - queued.length, 'openTask') }},
          {{ data?.doneToday.length ?? 0 }} done today
        </p>
        <select
          class="entry ml-auto"
          aria-label="Person"
          :value="person"
          @change="put({ person: ($event.target as HTMLSelectElement).value })"
        >
          <option v-for="one in visiblePeople" :key="one.id" :value="one.id">
            {{ one.name }}{{ one.id === store.me?.id ? ' (you)' : '' }}
          </option>
        </select>
      </div>
      <template v-for="group in groups" :key="group.name">
        <h2 class="mt-4 mb-1 border-b border-ink2 text-[16px]!" :class="group.name === 'Overdue' && 'text-brick'">
          {{ group.name }} <span class="font-sans text-[12px] text-ink2">{{ group.tasks.length }}</span>
        </h2>
        <ul :aria-label="group.name">
          <li
            v-for="task in group.tasks"
            :key="task.id"
            :data-task="task.id"
            class="border-b border-hair"
            :class="task.id === currentId && 'bg-violet-t'"
          >
            <button
              type="button"
              class="grid w-full grid-cols-[16px_1fr_auto] items-baseline gap-x-2 px-1.5 py-1.5 text-left max-[639px]:grid-cols-[16px_minmax(0,1fr)]"
              :aria-current="task.id === currentId ? 'true' : undefined"
              :tabindex="task.id === currentId ? 0 : -1"
              @focus="currentId = task.id"
              @click="currentId = task.id"
            >
              <span class="mark people" aria-hidden="true" />
              <span class="truncate font-serif text-[17px] leading-tight max-[639px]:whitespace-normal">{{
                task.title
              }}</span>
              <span
                class="text-[12.5px] whitespace-nowrap max-[639px]:col-start-2"
                :class="task.due < today ? 'text-brick' : 'text-ink2'"
                :title="sayDate(task.due)"
                ><span class="sr-only">, </span>{{ TASK_KIND_WORDS[task.taskKind]
                }}<b v-if="task.priority === PRIORITIES[2]" class="text-brick"> · High priority</b> ·
                <span class="sr-only">due </span>{{ sayRelative(task.due, today) }}<span class="sr-only">. </span></span
              >
              <i class="col-start-2 col-end-4 truncate font-serif text-[14px] text-ink2"
                >{{ task.hidden ? 'Record you can’t see' : `${task.recordName} · Why: ${task.because}` }} (rule “{{
                  task.ruleName
                }}”)</i
              >
            </button>
          </li>
        </ul>
      </template>
      <div v-if="tasks.length === 0" class="mt-20 text-center">
        <p class="font-serif text-[20px]">
          {{ person === store.me?.id ? 'No open tasks.' : `${store.personName(person)} has no open tasks.` }}
        </p>
        <p v-if="others.length" class="quiet mt-2">
          Open tasks of others:
          <template v-for="(one, i) in others.slice(0, 4)" :key="one.personId"
            ><template v-if="i">, </template
            ><NuxtLink :to="`/day-sheet?person=${one.personId}`" class="word">{{ one.name }}</NuxtLink> ({{
              one.open
            }})</template
          >.
        </p>
        <p v-else class="quiet mt-2">
          Tasks are created by <NuxtLink v-if="store.may('readRules')" to="/rules" class="word">rules</NuxtLink
          ><template v-else>rules</template>.
        </p>
      </div>
      <template v-if="data?.followed.length">
        <h2 class="mt-5 mb-1 border-b border-hair text-[16px]! text-ink2">
          Followed <span class="font-sans text-[12px]">{{ data.followed.length }}</span>
        </h2>
        <ul data-followed>
          <li v-for="task in data.followed" :key="task.id" class="border-b border-hair py-1">
            <span v-if="task.hidden" class="font-serif text-[16px]">{{ task.title }}</span>
            <RefLink v-else :of="task.ref" class="name-link font-serif text-[16px]">{{ task.title }}</RefLink>
            <span class="quiet"
              >{{ task.assigneeId === null ? `${task.queue} queue` : store.personName(task.assigneeId) }},
              {{ sayRelative(task.due, today) }} · {{ task.hidden ? 'record you can’t see' : task.recordName }}</span
            >
          </li>
        </ul>
      </template>
      <template v-if="data?.doneToday.length">
        <h2 class="mt-5 mb-1 border-b border-hair text-[16px]! text-ink2">Done today</h2>
        <p v-for="task in data.doneToday" :key="task.id" class="quiet py-0.5">
          {{ sayTime(task.doneAt ?? 0, store.catalogue.workspace.zone) }} {{ task.title
          }}<template v-if="task.outcome">: {{ task.outcome }}</template>
        </p>
      </template>
    </section>
    <TaskDetails :task="current" :acts="acts" :beside="beside ?? null" />
  </div>
</template>
