<script setup lang="ts">
import { count, figure, percent } from '#core/language/counts'
import type { Breakdown } from '#core/results/figures'
import type { ListedFigure } from '#core/results/figure-names'
import { onceReady } from '~/shared/onceReady'
import { orFail, useLiveQuery } from '~/shared/live/useLiveQuery'
import IntervalBar from './IntervalBar.vue'
import SplitTable from './SplitTable.vue'

const TargetChart = onceReady(() => import('./TargetChart.vue'))
const FigureRecords = onceReady(() => import('./FigureRecords.vue'))

/** What one rule came to: its target first, then what became of what it made. */
const id = Number(useRoute().params.id)
const { data: results } = await orFail(
  useLiveQuery('/api/v1/rules/:id/results', { params: { id }, changedBy: ['results', 'rules'] }),
  `Rule ${id} does not exist.`,
)
useHead({ title: () => `Results of ${results.value.name}` })
interface Asked {
  readonly figure: ListedFigure
  readonly alone?: boolean
  readonly of?: string
  readonly by?: Breakdown
  readonly value?: string
  readonly words?: string
}
const asked = ref<Asked | null>(null)
const show = (name: ListedFigure, more: Omit<Asked, 'figure'> = {}): void =>
  void (asked.value = { figure: name, ...more })
/** What a figure of a table counts. */
const showBy = (by: Breakdown, name: ListedFigure, value: string, words: string): void =>
  show(name, { by, value, words })
const TASK_COLUMNS = [
  { key: 'tasksMade', label: 'Created' },
  { key: 'tasksDone', label: 'Done' },
  { key: 'tasksLate', label: 'Late' },
  { key: 'tasksPostponed', label: 'Postponed' },
  { key: 'tasksWithdrawn', label: 'Withdrawn' },
] as const
const MESSAGE_COLUMNS = [
  { key: 'sent', label: 'Sent' },
  { key: 'answered', label: 'Answered' },
  { key: 'bounced', label: 'Bounced' },
  { key: 'failed', label: 'Not sent' },
  { key: 'optedOut', label: 'Opted out' },
] as const
const MONTH_COLUMNS = [{ key: 'runs', label: 'Runs' }] as const
const taskFigures = computed((): readonly (readonly [ListedFigure, string, number])[] => {
  const { made, done, late, postponed, withdrawn } = results.value.tasks
  return [
    ['tasksMade', 'created', made],
    ['tasksDone', 'done', done],
    ['tasksLate', 'of them late', late],
    ['tasksPostponed', 'postponed', postponed],
    ['tasksWithdrawn', 'withdrawn', withdrawn],
  ]
})
const messageFigures = computed((): readonly (readonly [ListedFigure, string, number])[] => {
  const { sent, answered, bounced, failed, optedOut } = results.value.messages
  return [
    ['sent', 'sent', sent],
    ['answered', 'answered', answered],
    ['bounced', 'bounced', bounced],
    ['failed', 'not sent', failed],
    ['optedOut', 'opted out', optedOut],
  ]
})
const hours = (n: number): string =>
  n < 48 ? count(Math.max(1, Math.round(n)), 'hour') : count(Math.round(n / 24), 'day')
const calls = computed(() => results.value.calls.filter((one) => one.count > 0))
const mostCalls = computed(() => Math.max(1, ...calls.value.map((one) => one.count)))
</script>

<template>
  <div class="screen h-full overflow-auto px-8 pt-4 pb-16 max-[599px]:px-4" tabindex="0">
    <p class="quiet"><NuxtLink to="/results" class="word">Results</NuxtLink></p>
    <div class="flex flex-wrap items-baseline gap-x-4 gap-y-1">
      <h1>{{ results.name }}</h1>
      <NuxtLink :to="`/rules/${id}`" class="word">Rule</NuxtLink>
      <NuxtLink :to="`/journal?rule=${id}`" class="word">Journal</NuxtLink>
      <a :href="`/api/v1/rules/${id}/results/file`" class="word" download>Download figures (CSV)</a>
    </div>
    <p class="quiet">
      {{ count(results.runs.runs, 'run')
      }}<template v-if="results.runs.failed > 0"
        >,
        <NuxtLink :to="`/journal?rule=${id}&state=failed`" class="word"
          >{{ figure(results.runs.failed) }} failed</NuxtLink
        ></template
      ><template v-if="results.runs.waiting > 0">, {{ figure(results.runs.waiting) }} waiting</template
      ><template v-if="results.runs.undone > 0">, {{ figure(results.runs.undone) }} undone</template
      ><template v-if="results.runs.alone > 0">; {{ figure(results.runs.alone) }} left alone to compare</template>
    </p>

    <section v-if="results.goal" class="mt-5 max-w-[980px]" aria-labelledby="target-title">
      <h2 id="target-title" class="part">Target</h2>
      <p class="font-serif text-[18px]">{{ results.goal.says }}</p>
      <p class="quiet">{{ results.goal.how }}</p>
      <p class="mt-3 max-w-[72ch] font-serif text-[20px] leading-snug" data-story>{{ results.goal.story }}</p>
      <dl
        class="mt-3 grid max-w-[760px] grid-cols-[150px_130px_1fr] items-center gap-x-4 gap-y-1.5 max-[599px]:grid-cols-2"
      >
        <template v-if="results.goal.done.of > 0">
          <dt>With the rule</dt>
          <dd class="tabular-nums">
            <button type="button" class="word" @click="show('reached')">{{ figure(results.goal.done.reached) }}</button>
            of
            <button type="button" class="word" @click="show('through')">{{ figure(results.goal.done.of) }}</button>
          </dd>
          <dd class="max-[599px]:col-span-2"><IntervalBar :share="results.goal.done" /></dd>
        </template>
        <template v-if="results.goal.alone && results.goal.alone.of > 0">
          <dt>Left alone</dt>
          <dd class="tabular-nums">
            <button type="button" class="word" @click="show('reached', { alone: true, words: 'left alone' })">
              {{ figure(results.goal.alone.reached) }}
            </button>
            of
            <button type="button" class="word" @click="show('through', { alone: true, words: 'left alone' })">
              {{ figure(results.goal.alone.of) }}
            </button>
          </dd>
          <dd class="max-[599px]:col-span-2"><IntervalBar :share="results.goal.alone" beside /></dd>
        </template>
      </dl>
      <p class="quiet mt-2 flex flex-wrap gap-x-4">
        <button
          v-if="results.goal.done.of > results.goal.done.reached"
          type="button"
          class="word"
          @click="show('missed')"
        >
          {{ figure(results.goal.done.of - results.goal.done.reached) }} did not reach it
        </button>
        <button v-if="results.goal.within.of > 0" type="button" class="word" @click="show('within')">
          {{ figure(results.goal.within.of) }} still within their {{ count(results.goal.days, 'day') }}</button
        ><span v-if="results.goal.within.reached > 0"
          >{{ figure(results.goal.within.reached) }} of them reached it already</span
        >
        <button v-if="results.goal.already > 0" type="button" class="word" @click="show('already')">
          {{ figure(results.goal.already) }} met it before and are not counted
        </button>
      </p>
      <TargetChart v-if="results.goal.done.of > 0" :curve="results.goal.curve" class="mt-4 max-w-[820px]" />
      <div
        v-for="split in results.goal.by"
        :key="split.by"
        class="mt-4 max-w-[760px] overflow-x-auto"
        tabindex="0"
        role="region"
        :aria-label="split.title"
      >
        <table class="list" :aria-label="split.title">
          <thead>
            <tr>
              <th scope="col" class="w-64">{{ split.title }}</th>
              <th scope="col" class="w-36 text-right!">Reached</th>
              <th scope="col"><span class="sr-only">95% interval</span></th>
            </tr>
          </thead>
          <tbody>
            <tr v-for="line in split.lines" :key="line.key">
              <th scope="row" class="text-left font-normal">{{ line.label }}</th>
              <td class="text-right tabular-nums">
                <button
                  v-if="line.reached > 0"
                  type="button"
                  class="word"
                  :aria-label="`${figure(line.reached)} reached, ${line.label}`"
                  @click="showBy(split.by, 'reached', line.key, line.label)"
                >
                  {{ figure(line.reached) }}</button><template v-else>0</template> of
                <button
                  type="button"
                  class="word"
                  :aria-label="`${figure(line.of)} measured, ${line.label}`"
                  @click="showBy(split.by, 'through', line.key, line.label)"
                >
                  {{ figure(line.of) }}
                </button>
                <span class="quiet">{{ percent(line.reached / line.of) }}</span>
              </td>
              <td><IntervalBar :share="line" /></td>
            </tr>
          </tbody>
        </table>
      </div>
    </section>
    <p v-else class="mt-5 max-w-[72ch] font-serif text-[18px]">
      This rule has no target, so no one can tell whether it did any good.
      <NuxtLink v-if="results.object !== 'none'" :to="`/rules/${id}`" class="word">Add one on the rule sheet</NuxtLink>
    </p>

    <section v-if="results.tasks.made > 0" class="mt-7 max-w-[980px]" aria-labelledby="tasks-title">
      <h2 id="tasks-title" class="part">Tasks</h2>
      <p class="flex flex-wrap gap-x-4 font-serif text-[18px]">
        <template v-for="[name, label, n] in taskFigures" :key="name"
          ><span v-if="n > 0 || name === 'tasksDone'"
            ><button v-if="n > 0" type="button" class="word" @click="show(name)">{{ figure(n) }}</button
            ><template v-else>0</template> {{ label }}</span
          ></template
        ><span v-if="results.tasks.hours !== null">on average after {{ hours(results.tasks.hours) }}</span>
      </p>
      <SplitTable
        v-if="results.tasks.byOwner.length > 1"
        title="By person"
        :columns="TASK_COLUMNS"
        :lines="results.tasks.byOwner"
        opens
        @open="(...of) => showBy('owner', ...of)"
      />
    </section>

    <section
      v-if="results.messages.sent + results.messages.failed > 0"
      class="mt-7 max-w-[980px]"
      aria-labelledby="messages-title"
    >
      <h2 id="messages-title" class="part">Messages</h2>
      <p class="flex flex-wrap gap-x-4 font-serif text-[18px]">
        <template v-for="[name, label, n] in messageFigures" :key="name"
          ><span v-if="n > 0"
            ><button type="button" class="word" @click="show(name)">{{ figure(n) }}</button> {{ label }}</span
          ></template
        >
      </p>
      <p v-if="results.messages.answered > 0" class="quiet">
        Answers:
        <template v-for="(kind, i) in results.messages.kinds.filter((one) => one.count > 0)" :key="kind.id"
          >{{ i > 0 ? ', ' : ''
          }}<button type="button" class="word" @click="show('answer', { of: kind.id, words: kind.label })">
            {{ figure(kind.count) }} {{ kind.label }}
          </button></template
        >
      </p>
      <SplitTable
        title="By report label"
        :columns="MESSAGE_COLUMNS"
        :lines="results.messages.byLabel"
        opens
        @open="(...of) => showBy('label', ...of)"
      />
      <SplitTable
        title="By template"
        :columns="MESSAGE_COLUMNS"
        :lines="results.messages.byTemplate"
        opens
        @open="(...of) => showBy('template', ...of)"
      />
    </section>

    <section v-if="calls.length > 0" class="mt-7 max-w-[760px]" aria-labelledby="calls-title">
      <h2 id="calls-title" class="part">Calls</h2>
      <ul>
        <li v-for="one in calls" :key="one.id" class="flex items-center gap-3 py-0.5">
          <span class="w-40">{{ one.label }}</span><button
            type="button"
            class="word w-10 text-right tabular-nums"
            :aria-label="`${figure(one.count)} ${one.label}`"
            @click="show('call', { of: one.id, words: one.label })"
          >
            {{ figure(one.count) }}</button
          ><span
            class="h-2.5 bg-slate opacity-60"
            :style="{ width: `${(one.count / mostCalls) * 260}px` }"
            aria-hidden="true"
          />
        </li>
      </ul>
    </section>

    <section class="mt-7 max-w-[760px]" aria-labelledby="runs-title">
      <h2 id="runs-title" class="part">Runs</h2>
      <SplitTable
        title="Runs by month"
        :columns="MONTH_COLUMNS"
        :lines="results.runsBy.month"
        opens
        @open="(...of) => showBy('month', ...of)"
      />
      <SplitTable
        v-if="results.runsBy.version.length > 1"
        title="Runs by version"
        :columns="MONTH_COLUMNS"
        :lines="results.runsBy.version"
        opens
        @open="(...of) => showBy('version', ...of)"
      />
      <p v-if="results.runs.runs === 0" class="font-serif text-[18px]">It has not run yet.</p>
    </section>
    <FigureRecords v-if="asked" :rule-id="id" v-bind="asked" @close="asked = null" />
  </div>
</template>
