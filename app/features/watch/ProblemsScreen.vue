<script setup lang="ts">
import { count, countOrNone, figure } from '#core/language/counts'
import { sayInstant } from '#core/time/say'
import { attempt, send } from '~/shared/api/api'
import { useSpoken } from '~/shared/keys/useSpoken'
import { useLiveQuery, type AnswerOf } from '~/shared/live/useLiveQuery'
import RefLink from '~/shared/record/RefLink.vue'
import { useCatalogue } from '~/shared/stores/catalogue'
import { useNotices } from '~/shared/stores/notices'
import WatchNav from './WatchNav.vue'

/** What needs somebody, grouped by cause; what is fixed goes by itself. */
useHead({ title: 'Problems' })
const store = useCatalogue()
const { say } = useSpoken()
const zone = computed(() => store.catalogue.workspace.zone)
const editable = computed(() => store.may('build'))
const { data, problem, refresh } = await useLiveQuery('/api/v1/problems', {
  changedBy: ['problems', 'run', 'clock'],
})
type Problem = AnswerOf<'/api/v1/problems'>['kinds'][number]['problems'][number]
const ACCEPT_DAYS = [1, 7, 30, 90] as const
const people = computed(() => store.catalogue.people.filter((one) => one.active && one.role !== 'viewer'))
const trying = ref<number | null>(null)
async function act(one: Problem, body: object): Promise<{ tried: number; done: number } | null> {
  const answer = await attempt(() => send<{ tried: number; done: number }>('POST', `/api/v1/problems/${one.id}`, body))
  await refresh()
  return answer ?? null
}
async function again(one: Problem): Promise<void> {
  trying.value = one.id
  const answer = await act(one, { act: 'again' })
  trying.value = null
  if (answer)
    useNotices().tell({
      tone: answer.done < answer.tried ? 'wrong' : 'rule',
      title: `${figure(answer.done)} of ${figure(answer.tried)} work now`,
      text: answer.done < answer.tried ? 'The others failed again: fix the cause first.' : '',
    })
}
async function assign(one: Problem, personId: string): Promise<void> {
  await act(one, { act: 'assign', person: personId === '' ? null : personId })
  say(personId === '' ? 'No one looks at it.' : `${store.personName(personId)} looks at it.`)
}
async function accept(one: Problem, days: string): Promise<void> {
  if (days === '') return
  await act(one, { act: 'accept', days: Number(days) })
  say('Accepted.')
}
</script>

<template>
  <div class="screen h-full overflow-auto px-8 pt-4 pb-16 max-[599px]:px-4" tabindex="0">
    <div class="flex flex-wrap items-baseline gap-x-4 gap-y-1">
      <h1>Problems</h1>
      <WatchNav current="problems" />
    </div>
    <p class="quiet">
      {{ countOrNone(data?.open ?? 0, 'problem') }}. Checked every minute; what is fixed disappears by itself. How you
      are notified is in <NuxtLink to="/account" class="word">your account</NuxtLink>.
    </p>
    <p v-if="problem" class="mt-4 text-brick" role="alert">Problems could not be loaded. Try again.</p>
    <p v-else-if="data?.kinds.length === 0" class="mt-6 font-serif text-[18px]">
      Nothing needs you. Failed runs, undelivered messages, records without an owner and the like come here by
      themselves.
    </p>
    <section
      v-for="kind in data?.kinds ?? []"
      :key="kind.kind"
      class="mt-5 max-w-[1080px]"
      :aria-labelledby="`kind-${kind.kind}`"
      :data-problem-kind="kind.kind"
    >
      <h2 :id="`kind-${kind.kind}`" class="part">{{ kind.title }}</h2>
      <p class="quiet">{{ kind.fix }}</p>
      <ul class="mt-1">
        <li
          v-for="one in kind.problems"
          :key="one.id"
          class="flex flex-wrap items-baseline gap-x-4 gap-y-1 border-b border-hair py-1.5"
          :class="one.acceptedUntil !== null && 'opacity-70'"
          data-problem
        >
          <span class="mark stop -mr-2 scale-75" aria-hidden="true" />
          <span class="min-w-[260px] flex-1">
            <NuxtLink :to="one.path" class="name-link block min-h-6 font-medium">{{ one.says }}</NuxtLink>
            <span class="quiet block leading-6">
              {{ kind.unit && one.count > 1 ? `${count(one.count, kind.unit)} · ` : '' }}since
              {{ sayInstant(one.sinceMs, zone) }}
              <template v-if="one.ref && one.recordName">
                · {{ one.count > 1 ? 'last' : 'for' }}
                <RefLink :of="one.ref" class="name-link">{{ one.recordName }}</RefLink></template
              >
              <template v-if="one.acceptedUntil !== null">
                · accepted until {{ sayInstant(one.acceptedUntil, zone)
                }}{{ one.acceptedBy ? ` by ${store.personName(one.acceptedBy)}` : '' }}</template
              >
            </span>
          </span>
          <span v-if="editable" class="flex flex-wrap items-center gap-2">
            <button
              v-if="kind.again"
              type="button"
              class="button py-0.5!"
              :disabled="trying === one.id"
              @click="again(one)"
            >
              {{ trying === one.id ? 'Trying…' : one.count > 1 ? 'Try all again' : 'Try again' }}
            </button>
            <select
              class="entry w-40 py-0.5!"
              :value="one.personId ?? ''"
              :aria-label="`Who looks at: ${one.says}`"
              @change="assign(one, ($event.target as HTMLSelectElement).value)"
            >
              <option value="">No one looks at it</option>
              <option v-for="person in people" :key="person.id" :value="person.id">{{ person.name }}</option>
            </select>
            <button
              v-if="one.acceptedUntil !== null"
              type="button"
              class="button py-0.5!"
              @click="act(one, { act: 'accept', days: null })"
            >
              Show again
            </button>
            <select
              v-else
              class="entry w-36 py-0.5!"
              value=""
              :aria-label="`Accept: ${one.says}`"
              @change="accept(one, ($event.target as HTMLSelectElement).value)"
            >
              <option value="">Accept for…</option>
              <option v-for="days in ACCEPT_DAYS" :key="days" :value="days">{{ count(days, 'day') }}</option>
            </select>
          </span>
          <span v-else-if="one.personId" class="quiet">{{ store.personName(one.personId) }} looks at it</span>
        </li>
      </ul>
    </section>
  </div>
</template>
