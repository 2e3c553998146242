<script setup lang="ts">
import { count, figure } from '#core/language/counts'
import { sayDate, sayDay } from '#core/time/say'
import { attempt, send } from '~/shared/api/api'
import { once } from '~/shared/api/once'
import { useSpoken } from '~/shared/keys/useSpoken'
import { useLiveQuery, type AnswerOf } from '~/shared/live/useLiveQuery'
import RefLink from '~/shared/record/RefLink.vue'
import { useCatalogue } from '~/shared/stores/catalogue'
import WatchNav from './WatchNav.vue'

/** Who has how much to do, what is late, who is away; several tasks are handed over at once. */
useHead({ title: 'Team' })
const store = useCatalogue()
const { say } = useSpoken()
const { data, problem, refresh } = await useLiveQuery('/api/v1/team', { changedBy: ['tasks', 'clock', 'catalogue'] })
const chosen = ref<ReadonlySet<number>>(new Set())
const to = ref('')
const editable = computed(() => store.may('work'))
const most = computed(() =>
  Math.max(1, ...(data.value?.people ?? []).map(({ load }) => load.late + load.today + load.soon)),
)
const width = (n: number): string => `${(n / most.value) * 100}%`
/** So many late tasks of a person stand there at first. */
const FEW = 6
const unfolded = ref<ReadonlySet<string>>(new Set())
const unfold = (id: string): void => void (unfolded.value = new Set([...unfolded.value, id]))
type Member = AnswerOf<'/api/v1/team'>['people'][number]
const shownOf = ({ id, late }: Member): Member['late'] => (unfolded.value.has(id) ? late : late.slice(0, FEW))
function toggle(id: number): void {
  const next = new Set(chosen.value)
  if (!next.delete(id)) next.add(id)
  chosen.value = next
}
function toggleAll(ids: readonly number[]): void {
  const all = ids.every((id) => chosen.value.has(id))
  chosen.value = new Set([...[...chosen.value].filter((id) => !ids.includes(id)), ...(all ? [] : ids)])
}
const handOver = once(async (): Promise<void> => {
  const answer = await attempt(() =>
    send<{ handedOver: number }>('POST', '/api/v1/task-hand-overs', { ids: [...chosen.value], person: to.value }),
  )
  if (!answer) return
  say(`${count(answer.handedOver, 'task')} handed over to ${store.personName(to.value)}.`)
  chosen.value = new Set()
  await refresh()
})
</script>

<template>
  <div class="screen h-full overflow-auto px-8 pt-4 pb-24 max-[599px]:px-4" tabindex="0">
    <div class="flex flex-wrap items-baseline gap-x-4 gap-y-1">
      <h1>Team</h1>
      <WatchNav current="team" />
    </div>
    <p v-if="problem" class="mt-4 text-brick" role="alert">The team could not be loaded. Try again.</p>
    <p v-else-if="data?.people.length === 0" class="mt-6 font-serif text-[18px]">No one has tasks yet.</p>
    <div class="mt-3 grid grid-cols-[repeat(auto-fill,minmax(330px,1fr))] gap-x-10 gap-y-6">
      <section
        v-for="person in data?.people ?? []"
        :key="person.id"
        :aria-labelledby="`team-${person.id}`"
        data-team-person
      >
        <h2 :id="`team-${person.id}`" class="flex items-baseline justify-between gap-3">
          <NuxtLink :to="`/day-sheet?person=${person.id}`" class="name-link">{{ person.name }}</NuxtLink>
          <span class="quiet font-sans font-normal">{{ person.team }}</span>
        </h2>
        <p v-if="person.away" class="text-saffron">
          Away until {{ sayDate(person.away.to)
          }}{{ person.away.deputyId ? `, ${store.personName(person.away.deputyId)} stands in` : '' }}
        </p>
        <p class="quiet">
          <span :class="person.load.late > 0 && 'font-semibold text-brick'">{{ figure(person.load.late) }} late</span>,
          {{ figure(person.load.today) }} today, {{ figure(person.load.soon) }} in the next seven days; did
          {{ figure(person.load.done) }} in the last seven
        </p>
        <p class="mt-1 flex h-2" aria-hidden="true">
          <span class="bg-brick" :style="{ width: width(person.load.late) }" />
          <span class="bg-moss" :style="{ width: width(person.load.today) }" />
          <span class="bg-moss opacity-40" :style="{ width: width(person.load.soon) }" />
        </p>
        <ul v-if="person.late.length > 0" class="mt-1">
          <li v-if="editable && person.late.length > 1" class="pt-1 pb-2">
            <label class="quiet flex items-center gap-2"
              ><input
                type="checkbox"
                :checked="person.late.every((task) => chosen.has(task.id))"
                @change="toggleAll(person.late.map((task) => task.id))"
              />All late tasks of {{ person.name }}</label
            >
          </li>
          <li v-for="task in shownOf(person)" :key="task.id" class="flex items-baseline gap-2 py-0.5">
            <input
              v-if="editable"
              type="checkbox"
              class="translate-y-0.5"
              :checked="chosen.has(task.id)"
              :aria-label="`Choose: ${task.title}`"
              @change="toggle(task.id)"
            />
            <span class="min-w-0 flex-1">
              <span class="block truncate" :title="task.title">{{ task.title }}</span>
              <span class="quiet block truncate"
                >due {{ sayDay(task.due, data?.today ?? task.due) }} ·
                <RefLink v-if="task.recordName" :of="task.ref" class="name-link">{{ task.recordName }}</RefLink> ·
                <i class="font-serif">{{ task.ruleName }}</i></span
              >
            </span>
          </li>
          <li v-if="person.late.length > shownOf(person).length">
            <button type="button" class="word" @click="unfold(person.id)">
              Show {{ figure(person.late.length - shownOf(person).length) }} more
            </button>
          </li>
          <li v-else-if="person.load.late > person.late.length" class="quiet">
            and {{ figure(person.load.late - person.late.length) }} more
          </li>
        </ul>
      </section>
    </div>
    <form
      v-if="chosen.size > 0"
      class="pop fixed bottom-4 left-1/2 z-30 flex max-w-[calc(100vw-2rem)] -translate-x-1/2 flex-wrap items-center gap-3 px-4 py-2.5"
      data-hand-over
      @submit.prevent="handOver"
    >
      <span class="font-semibold">{{ count(chosen.size, 'task') }}</span>
      <select v-model="to" class="entry" aria-label="Hand over to" required>
        <option value="" disabled>Hand over to…</option>
        <option v-for="person in data?.people ?? []" :key="person.id" :value="person.id">
          {{ person.name }}{{ person.away ? ' (away)' : '' }}
        </option>
      </select>
      <button type="submit" class="button">Hand over</button>
      <button type="button" class="word" @click="chosen = new Set()">Cancel</button>
    </form>
  </div>
</template>
