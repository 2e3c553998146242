<script setup lang="ts">
import { count } from '#core/language/counts'
import { PRIORITIES, TASK_KIND_WORDS } from '#core/records/task'
import { addDays } from '#core/time/dates'
import { workdaysOf } from '#core/rules/clock'
import { addWorkdays } from '#core/time/calendar'
import { sayDate, sayRelative, sayTime, sayWeekday } from '#core/time/say'
import type { DayTask } from '~~/server/views/day-sheet'
import { send, attempt } from '~/shared/api/api'
import { useKeys } from '~/shared/keys/useKeys'
import { useQueryChange } from '~/shared/useQueryChange'
import { useCatalogue } from '~/shared/stores/catalogue'
import { useNotices } from '~/shared/stores/notices'
import PopOver from '~/shared/words/PopOver.vue'
import OptionList from '~/shared/words/OptionList.vue'
import RecordRail from '~/shared/record/RecordRail.vue'
import { useLiveQuery } from '~/shared/live/useLiveQuery'
import RefLink from '~/shared/record/RefLink.vue'
import { useUnsent, type Unsent } from '~/shared/asks/unsent'
import { onceReady } from '~/shared/onceReady'

const AskForm = onceReady(() => import('~/shared/asks/AskForm.vue'))

useHead({ title: 'Day sheet' })
const route = useRoute()
const put = useQueryChange('push')
const store = useCatalogue()
const notices = useNotices()
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
/** Whether the task is about a record, and one that may be seen. */
const isOpen = (task: DayTask): boolean => task.ref.object !== 'none' && !task.hidden
const { data: beside } = await useLiveQuery('/api/v1/records/:object/:id', {
  params: () => (current.value && isOpen(current.value) ? current.value.ref : null),
  key: 'day-record',
  changedBy: ['tasks', 'records'],
})

const mode = ref<'outcome' | 'answer' | 'later' | 'hand' | null>(null)
/** What has to be answered before it is done. */
const asks = computed(() => current.value?.asks ?? null)
const call = computed(() => (asks.value?.about === 'call' ? asks.value : null))
const ASK_WORDS = { call: 'How it went', approval: 'Decide', questions: 'Answer' } as const
/** What was written about the task so far; it is kept until the server has it. */
const unsent = useUnsent()
const unsentOf = (id: number): Unsent => unsent.of(`task ${id}`)
const last = shallowRef<{ task: DayTask; back: () => Promise<void> } | null>(null)
const calendar = computed(() => workdaysOf(store.catalogue, person.value))
const laters = computed(() =>
  [
    { value: addWorkdays(today.value, 1, calendar.value), label: 'Next working day' },
    { value: addWorkdays(today.value, 2, calendar.value), label: 'In 2 working days' },
    { value: addWorkdays(addDays(today.value, 6), 1, calendar.value), label: 'In 1 week' },
    { value: addWorkdays(addDays(today.value, 27), 1, calendar.value), label: 'In 4 weeks' },
  ].map((option) => ({ ...option, hint: sayWeekday(option.value) })),
)
const people = computed(() =>
  store.catalogue.people
    .filter((one) => one.active && one.role === 'owner' && one.id !== person.value)
    .map((one) => ({
      value: one.id,
      label: one.name,
      hint:
        one.awayFrom && one.awayTo && today.value >= one.awayFrom && today.value <= one.awayTo
          ? `Away until ${sayDate(one.awayTo)}`
          : one.title,
    })),
)

const act = (id: number, body: Record<string, unknown>) => attempt(() => send('POST', `/api/v1/tasks/${id}`, body))
async function did(
  task: DayTask,
  body: Record<string, unknown>,
  title: string,
  back: Record<string, unknown>,
): Promise<void> {
  mode.value = null
  if (!(await act(task.id, body))) return
  if (body.act === 'finish') unsent.sent(`task ${task.id}`)
  const undo = async (): Promise<void> => {
    last.value = null
    await act(task.id, back)
    await refresh()
    currentId.value = task.id
  }
  last.value = { task, back: undo }
  notices.tell({ title, text: task.title, undo: () => void undo() })
  await refresh()
}
function answer(answers: Record<string, unknown>): void {
  if (current.value) void did(current.value, { act: 'finish', answers }, 'Answer saved', { act: 'reopen' })
}
function finish(said = ''): void {
  if (asks.value) {
    mode.value = 'answer'
    return
  }
  if (current.value) void did(current.value, { act: 'finish', outcome: said }, 'Task done', { act: 'reopen' })
}
const later = (due: string): void => {
  if (current.value)
    void did(current.value, { act: 'postpone', due }, `Postponed to ${sayWeekday(due)}`, {
      act: 'postpone',
      due: current.value.due,
    })
}
const hand = (personId: string): void => {
  if (current.value)
    void did(current.value, { act: 'handOver', personId }, `Handed over to ${store.personName(personId)}`, {
      act: 'handOver',
      personId: current.value.assigneeId ?? store.me?.id,
    })
}

const inQueue = computed(() => current.value?.assigneeId === null)
/** Takes the chosen task from the queue, or the first that lies there. */
function pull(): void {
  const task = inQueue.value ? current.value : queued.value[0]
  if (!task) return
  currentId.value = task.id
  void did(task, { act: 'pull' }, 'Task is now yours', { act: 'return' })
}
const putBack = (): void => {
  if (current.value) void did(current.value, { act: 'return' }, 'Returned to queue', { act: 'pull' })
}

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
const may = computed(() => store.may('work'))
useKeys({
  ArrowDown: () => go(1),
  ArrowUp: () => go(-1),
  p: () => {
    if (may.value) pull()
  },
  b: () => {
    if (may.value && current.value?.queue && !inQueue.value) putBack()
  },
  d: () => {
    if (may.value && !inQueue.value) finish()
  },
  o: () => {
    if (may.value && current.value && !inQueue.value) mode.value = asks.value ? 'answer' : 'outcome'
  },
  l: () => {
    if (may.value && current.value) mode.value = 'later'
  },
  h: () => {
    if (may.value && current.value) mode.value = 'hand'
  },
  u: () => {
    if (last.value) void last.value.back()
  },
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
        <ul>
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
                >{{ TASK_KIND_WORDS[task.taskKind]
                }}<b v-if="task.priority === PRIORITIES[2]" class="text-brick"> · High priority</b> ·
                {{ sayRelative(task.due, today) }}</span
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
    <section class="flex min-h-0 flex-col bg-paper2" aria-label="Task details">
      <template v-if="current">
        <div class="flex-none border-b border-hair px-6 pt-4 pb-3">
          <p class="font-serif text-[21px] leading-snug">{{ current.title }}</p>
          <p v-if="current.notes" class="mt-1 whitespace-pre-line">{{ current.notes }}</p>
          <p v-if="call" class="mt-2 flex flex-wrap items-baseline gap-x-4">
            <a class="word font-serif text-[18px]" :href="`tel:${call.number}`" data-call>{{ call.number }}</a>
            <span v-if="call.most > 1" class="quiet"
              >Try {{ call.attempt }} of {{ call.most
              }}<template v-if="call.notBeforeMs !== null && call.notBeforeMs > (store.facts?.nowMs ?? 0)"
                >, not before {{ sayTime(call.notBeforeMs, store.catalogue.workspace.zone) }}</template
              ></span
            >
          </p>
          <dl
            v-if="asks && asks.about !== 'call' && asks.facts.length > 0"
            class="mt-2 grid grid-cols-[auto_1fr] gap-x-3"
          >
            <template v-for="fact in asks.facts" :key="fact.label"
              ><dt class="text-ink2">{{ fact.label }}</dt>
              <dd>{{ fact.value }}</dd></template
            >
          </dl>
          <p class="mt-1.5">
            <i class="font-serif text-[15px] text-ink2"
              >{{ current.hidden ? '' : `Why: ${current.because} ` }}(rule “{{ current.ruleName }}”)</i
            >
            <NuxtLink v-if="!current.hidden" :to="`/journal/${current.runId}`" class="quiet word">Show run</NuxtLink>
          </p>
          <p v-for="one in current.acts" :key="one.atMs + one.text" class="quiet">{{ one.text }}</p>
          <div v-if="may" class="mt-3 flex flex-wrap gap-2">
            <button v-if="inQueue" type="button" class="button main" @click="pull">Take task <kbd>P</kbd></button>
            <button
              v-if="!inQueue"
              type="button"
              class="button main"
              :data-word="asks ? 'task/answer' : undefined"
              @click="finish()"
            >
              {{ asks ? `${ASK_WORDS[asks.about]}…` : 'Done' }} <kbd>D</kbd>
            </button>
            <button
              v-if="!inQueue && !asks"
              type="button"
              class="button"
              data-word="task/outcome"
              @click="mode = 'outcome'"
            >
              Done with outcome <kbd>O</kbd>
            </button>
            <button type="button" class="button" data-word="task/later" @click="mode = 'later'">
              Postpone <kbd>L</kbd>
            </button>
            <button type="button" class="button" data-word="task/hand" @click="mode = 'hand'">
              Hand over <kbd>H</kbd>
            </button>
            <button v-if="current.queue && !inQueue" type="button" class="button" @click="putBack">
              Return to queue <kbd>B</kbd>
            </button>
          </div>
          <PopOver v-if="mode === 'outcome'" anchor="[data-word='task/outcome']" label="Outcome" @close="mode = null">
            <form @submit.prevent="finish(unsentOf(current.id).notes)">
              <input
                v-model="unsentOf(current.id).notes"
                class="entry w-full"
                maxlength="1000"
                placeholder="What was the outcome?"
                aria-label="Outcome"
                @vue:mounted="($event.el as HTMLElement).focus()"
              /><button class="button mt-2" type="submit">Mark as done</button>
            </form>
          </PopOver>
          <PopOver
            v-else-if="mode === 'answer' && asks"
            anchor="[data-word='task/answer']"
            :label="ASK_WORDS[asks.about]"
            wide
            @close="mode = null"
            ><AskForm :key="current.id" :of="`task ${current.id}`" :asks="asks" @answer="answer"
          /></PopOver>
          <PopOver v-else-if="mode === 'later'" anchor="[data-word='task/later']" label="Postpone" @close="mode = null"
            ><OptionList :options="laters" label="Postpone to" @pick="later"
          /></PopOver>
          <PopOver v-else-if="mode === 'hand'" anchor="[data-word='task/hand']" label="Hand over" @close="mode = null"
            ><OptionList :options="people" label="Hand over to" @pick="hand"
          /></PopOver>
        </div>
        <div class="min-h-0 flex-1 overflow-auto px-6 pt-3 pb-12" tabindex="0" role="region" aria-label="Record">
          <p v-if="current.hidden" class="quiet">
            It is about a record that you can’t see: it belongs to someone outside your team.
          </p>
          <p v-else class="flex items-baseline gap-3">
            <RefLink :of="current.ref" class="name-link font-serif text-[18px] font-medium">{{
              current.recordName
            }}</RefLink><RefLink v-for="one in current.beside" :key="one.name" :of="one.ref" class="quiet word">{{
              one.name
            }}</RefLink>
          </p>
          <div class="mt-2 -ml-2"><RecordRail v-if="beside && isOpen(current)" :page="beside" /></div>
        </div>
      </template>
      <p v-else class="quiet m-auto">Select a task to see its record.</p>
    </section>
  </div>
</template>
