<script setup lang="ts">
import { count, figure, plural } from '#core/language/counts'
import { sayInstant } from '#core/time/say'
import { attempt, send } from '~/shared/api/api'
import { useLiveQuery } from '~/shared/live/useLiveQuery'
import { useCatalogue } from '~/shared/stores/catalogue'
import FigureList from './FigureList.vue'
import WatchNav from './WatchNav.vue'

/** The first page of who looks after rules: what needs them, what is ahead, and what came of it. */
useHead({ title: 'Overview' })
const store = useCatalogue()
const zone = computed(() => store.catalogue.workspace.zone)
const { data, problem } = await useLiveQuery('/api/v1/overview', {
  changedBy: ['problems', 'results', 'rules', 'clock', 'ahead'],
})
onMounted(() => void attempt(() => send('POST', '/api/v1/overview-visits')))
const sinceSaid = computed(() =>
  data.value?.since.beforeMs == null
    ? 'In the last seven days'
    : `Since you were here on ${sayInstant(data.value.since.beforeMs, zone.value)}`,
)
const sinceRules = computed(() =>
  (data.value?.since.rules ?? []).map(({ id, name, runs, failed }) => ({
    id,
    name,
    to: `/journal?rule=${id}`,
    figure: figure(runs),
    ...(failed > 0 ? { wrong: `${figure(failed)} failed` } : {}),
  })),
)
const aheadRules = computed(() =>
  (data.value?.ahead.rules ?? []).map(({ id, name, today, week }) => ({
    id,
    name,
    to: `/ahead?rule=${id}`,
    figure: `${today > 0 ? `${figure(today)} today, ` : ''}${figure(week)} this week`,
  })),
)
const most = computed(() =>
  (data.value?.most ?? []).map(({ id, name, runs }) => ({
    id,
    name,
    to: `/results/${id}`,
    figure: count(runs, 'run'),
  })),
)
const least = computed(() =>
  (data.value?.least ?? []).map(({ id, name, runs }) => ({
    id,
    name,
    to: `/rules/${id}`,
    figure: runs === 0 ? 'none' : figure(runs),
  })),
)
const drafts = computed(() =>
  (data.value?.drafts ?? []).map(({ id, name, state }) => ({
    id,
    name,
    to: `/rules/${id}`,
    figure: state === 'draft' ? 'draft' : 'unpublished changes',
  })),
)
</script>

<template>
  <div class="screen h-full overflow-auto px-8 pt-4 pb-16 max-[599px]:px-4" tabindex="0">
    <div class="flex flex-wrap items-baseline gap-x-4 gap-y-1">
      <h1>Overview</h1>
      <WatchNav current="overview" />
    </div>
    <p v-if="problem" class="mt-4 text-brick" role="alert">The overview could not be loaded. Try again.</p>
    <div
      v-else-if="data"
      class="mt-4 grid max-w-[1180px] grid-cols-[minmax(0,3fr)_minmax(0,2fr)] gap-x-12 max-[899px]:grid-cols-1"
    >
      <div>
        <section aria-labelledby="needs-title">
          <h2 id="needs-title" class="part">Needs you</h2>
          <p v-if="data.problems.open === 0" class="font-serif text-[18px]">Nothing. Every rule works as it should.</p>
          <ul v-else>
            <li
              v-for="one in data.problems.first"
              :key="one.id"
              class="flex items-baseline gap-2.5 border-b border-hair py-1.5"
            >
              <span class="mark stop flex-none scale-75" aria-hidden="true" />
              <span class="min-w-0 flex-1"
                ><NuxtLink :to="one.path" class="name-link font-medium">{{ one.says }}</NuxtLink>
                <span class="quiet block"
                  >{{ one.title }}{{ one.unit && one.count > 1 ? ` · ${count(one.count, one.unit)}` : '' }} · since
                  {{ sayInstant(one.sinceMs, zone)
                  }}{{ one.personId ? ` · ${store.personName(one.personId)} looks at it` : '' }}</span
                ></span
              >
            </li>
          </ul>
          <p v-if="data.problems.open > data.problems.first.length" class="mt-1">
            <NuxtLink to="/problems" class="word">Show all {{ count(data.problems.open, 'problem') }}</NuxtLink>
          </p>
        </section>

        <section class="mt-6" aria-labelledby="told-title">
          <h2 id="told-title" class="part">What can be told</h2>
          <ul v-if="data.results.length > 0">
            <li v-for="one in data.results" :key="one.id" class="border-b border-hair py-1.5">
              <NuxtLink :to="`/results/${one.id}`" class="name-link font-medium">{{ one.name }}</NuxtLink>
              <p class="max-w-[70ch] font-serif text-[16px]">{{ one.story }}</p>
            </li>
          </ul>
          <p v-else class="max-w-[64ch] font-serif text-[16px]">
            Nothing yet. Give a rule a target on its sheet, and here stands whether records reach it.
          </p>
          <p v-if="data.suggestions > 0" class="mt-2">
            <NuxtLink to="/suggestions" class="word"
              >{{ figure(data.suggestions) }} {{ plural(data.suggestions, 'thing', 'things') }} that people do again and
              again</NuxtLink
            >
          </p>
        </section>

        <section class="mt-6" aria-labelledby="since-title">
          <h2 id="since-title" class="part">{{ sinceSaid }}</h2>
          <p class="font-serif text-[18px]">
            <NuxtLink to="/journal" class="word">{{ count(data.since.runs, 'run') }}</NuxtLink><template
              v-if="data.since.failed > 0"
              >,
              <NuxtLink to="/journal?state=failed" class="word text-brick"
                >{{ figure(data.since.failed) }} failed</NuxtLink
              ></template
            >
          </p>
          <FigureList :items="sinceRules" />
          <p v-if="data.since.more > 0" class="quiet">and {{ count(data.since.more, 'rule') }} more</p>
        </section>
      </div>

      <div>
        <section aria-labelledby="ahead-title">
          <h2 id="ahead-title" class="part">Ahead</h2>
          <p class="font-serif text-[18px]">
            <NuxtLink to="/ahead" class="word">{{ count(data.ahead.today, 'step') }} today</NuxtLink>,
            {{ figure(data.ahead.week) }} within a week
          </p>
          <FigureList :items="aheadRules" />
          <p class="mt-2">
            Tasks:
            <NuxtLink to="/team" class="word" :class="data.ahead.tasks.late > 0 && 'text-brick'"
              >{{ figure(data.ahead.tasks.late) }} late</NuxtLink
            >, {{ figure(data.ahead.tasks.today) }} due today, {{ figure(data.ahead.tasks.week) }} in the next seven
            days
          </p>
        </section>

        <section class="mt-6" aria-labelledby="most-title">
          <h2 id="most-title" class="part">Did most in 30 days</h2>
          <FigureList :items="most" />
          <p v-if="data.most.length === 0" class="font-serif text-[16px]">No rule has run.</p>
        </section>

        <section v-if="data.on > data.most.length" class="mt-6" aria-labelledby="least-title">
          <h2 id="least-title" class="part">Did least in 30 days, of {{ figure(data.on) }} that are on</h2>
          <FigureList :items="least" />
        </section>

        <section v-if="store.may('build')" class="mt-6" aria-labelledby="drafts-title">
          <h2 id="drafts-title" class="part">Drafts and unpublished changes</h2>
          <FigureList v-if="drafts.length > 0" :items="drafts" />
          <p v-else class="font-serif text-[16px]">None.</p>
        </section>
      </div>
    </div>
  </div>
</template>
