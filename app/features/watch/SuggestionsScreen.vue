<script setup lang="ts">
import { count, figure } from '#core/language/counts'
import { sayInstant } from '#core/time/say'
import { attempt, send } from '~/shared/api/api'
import { goTo } from '~/shared/goTo'
import { once } from '~/shared/api/once'
import { useSpoken } from '~/shared/keys/useSpoken'
import { useLiveQuery, type AnswerOf } from '~/shared/live/useLiveQuery'
import RefLink from '~/shared/record/RefLink.vue'
import { useCatalogue } from '~/shared/stores/catalogue'
import WatchNav from './WatchNav.vue'

/** What people do by hand again and again, with the rule that would do it. */
useHead({ title: 'Suggestions' })
const store = useCatalogue()
const { say } = useSpoken()
const zone = computed(() => store.catalogue.workspace.zone)
const { data, problem, refresh } = await useLiveQuery('/api/v1/suggestions', { changedBy: ['problems', 'rules'] })
type Suggestion = AnswerOf<'/api/v1/suggestions'>['suggestions'][number]
const running = computed(() => data.value?.search?.state === 'running' || data.value?.search?.asked === 'begin')
const open = ref<number | null>(null)
const make = once(
  async (one: Suggestion): Promise<void> => {
    const made = await attempt(() =>
      send<{ ruleId: number | null }>('POST', `/api/v1/suggestions/${one.id}`, { act: 'make' }),
    )
    if (made?.ruleId) await goTo(`/rules/${made.ruleId}`)
  },
  ({ id }) => id,
)
async function dismiss(one: Suggestion): Promise<void> {
  if (!(await attempt(() => send('POST', `/api/v1/suggestions/${one.id}`, { act: 'dismiss' })))) return
  say('It will not be suggested again.')
  await refresh()
}
async function search(act: 'begin' | 'stop'): Promise<void> {
  if (await attempt(() => send('POST', '/api/v1/suggestions', { act }))) await refresh()
}
// How far it has come is read again while it is under way.
let timer: ReturnType<typeof setInterval> | undefined
onMounted(() => {
  timer = setInterval(() => running.value && void refresh(), 1500)
})
onBeforeUnmount(() => clearInterval(timer))
</script>

<template>
  <div class="screen h-full overflow-auto px-8 pt-4 pb-16 max-[599px]:px-4" tabindex="0">
    <div class="flex flex-wrap items-baseline gap-x-4 gap-y-1">
      <h1>Suggestions</h1>
      <WatchNav current="suggestions" />
    </div>
    <p class="quiet max-w-[90ch]">
      What people do by hand again and again after something, found in the history of the last 180 days. Only what
      happened to at least ten records and is hardly chance; what rules do already is left out.
    </p>
    <p class="mt-2 flex flex-wrap items-center gap-3">
      <template v-if="running">
        <span role="status"
          >Searching{{
            data?.search && data.search.total > 0
              ? `: ${figure(data.search.looked)} of ${figure(data.search.total)} changes`
              : ''
          }}…</span
        >
        <button type="button" class="button py-0.5!" @click="search('stop')">Stop</button>
      </template>
      <template v-else>
        <button type="button" class="button py-0.5!" @click="search('begin')">Search now</button>
        <span v-if="data?.search?.endedAt" class="quiet"
          >{{ data.search.state === 'stopped' ? 'Stopped' : 'Searched' }} {{ sayInstant(data.search.endedAt, zone) }},
          {{ figure(data.search.looked) }} changes</span
        >
      </template>
    </p>
    <p v-if="problem" class="mt-4 text-brick" role="alert">Suggestions could not be loaded. Try again.</p>
    <p v-else-if="data?.suggestions.length === 0" class="mt-6 max-w-[64ch] font-serif text-[18px]">
      {{
        data.enough
          ? 'Nothing was found that people do again and again and no rule does.'
          : 'There is too little history to tell. Come back when people have worked with their records for some weeks.'
      }}
    </p>
    <ul v-else class="mt-3 max-w-[980px]">
      <li v-for="one in data?.suggestions ?? []" :key="one.id" class="border-b border-hair py-3" data-suggestion>
        <p class="font-serif text-[19px] leading-snug">{{ one.says }}</p>
        <p class="quiet">
          {{ one.lift < 100 ? `${one.lift.toFixed(1)} times` : 'More than 100 times' }} as often as after anything else.
          As a rule:
          <i class="font-serif"
            >when {{ one.rule.when }}{{ one.rule.onlyIf ? `, only if ${one.rule.onlyIf}` : '' }}: {{ one.rule.then }}</i
          >
        </p>
        <p class="mt-1">
          {{ one.past.rehearsed ? 'Rehearsed over' : 'Counted over' }} the last {{ count(one.past.days, 'day')
          }}<span v-if="!one.past.rehearsed" class="quiet"> (too many changes to rehearse it)</span>: the rule would
          have been right <b class="font-semibold text-moss">{{ count(one.past.right, 'time') }}</b>, done too much
          <b class="font-semibold" :class="one.past.tooMuch > 0 && 'text-brick'">{{
            count(one.past.tooMuch, 'time')
          }}</b>, and missed <b class="font-semibold">{{ count(one.past.missed, 'time') }}</b>.
        </p>
        <p class="mt-2 flex flex-wrap items-center gap-3">
          <button type="button" class="button" @click="make(one)">Make it a rule (off)</button>
          <button type="button" class="button" @click="dismiss(one)">Not again</button>
          <button
            type="button"
            class="word"
            :aria-expanded="open === one.id"
            @click="open = open === one.id ? null : one.id"
          >
            {{ open === one.id ? 'Hide records' : 'Which records' }}
          </button>
        </p>
        <div v-if="open === one.id" class="mt-2 grid grid-cols-2 gap-6 max-[599px]:grid-cols-1">
          <div>
            <h2 class="part">Followed</h2>
            <ul>
              <li v-for="record in one.on" :key="record.ref.id">
                <RefLink :of="record.ref" class="name-link">{{ record.name }}</RefLink>
              </li>
            </ul>
            <p v-if="one.followed > one.on.length" class="quiet">and {{ figure(one.followed - one.on.length) }} more</p>
          </div>
          <div>
            <h2 class="part">Did not follow</h2>
            <ul>
              <li v-for="record in one.not" :key="record.ref.id">
                <RefLink :of="record.ref" class="name-link">{{ record.name }}</RefLink>
              </li>
            </ul>
            <p v-if="one.not.length === 0">None.</p>
          </div>
        </div>
      </li>
    </ul>
  </div>
</template>
