<script setup lang="ts">
import { sayTime } from '#core/time/say'
import type { DayTask } from '~~/server/views/day-sheet'
import type { RecordPage } from '~~/server/views/record'
import { useUnsent, type Unsent } from '~/shared/asks/unsent'
import { onceReady } from '~/shared/onceReady'
import RecordRail from '~/shared/record/RecordRail.vue'
import RefLink from '~/shared/record/RefLink.vue'
import { useCatalogue } from '~/shared/stores/catalogue'
import OptionList from '~/shared/words/OptionList.vue'
import PopOver from '~/shared/words/PopOver.vue'
import { isAboutSeen, type TaskActs } from './taskActs'

/** One task with what can be done with it, and its record beneath. */
const props = defineProps<{ task: DayTask | null; acts: TaskActs; beside: RecordPage | null }>()
const AskForm = onceReady(() => import('~/shared/asks/AskForm.vue'))
const ASK_WORDS = { call: 'How it went', approval: 'Decide', questions: 'Answer' } as const

const store = useCatalogue()
const call = computed(() => (props.acts.asks?.about === 'call' ? props.acts.asks : null))
/** What was written about the task so far; it is kept until the server has it. */
const unsent = useUnsent()
const unsentOf = (id: number): Unsent => unsent.of(`task ${id}`)
</script>

<template>
  <section class="flex min-h-0 flex-col bg-paper2" aria-label="Task details">
    <template v-if="task">
      <div class="flex-none border-b border-hair px-6 pt-4 pb-3">
        <h2 class="text-[21px]! leading-snug font-normal!">{{ task.title }}</h2>
        <p v-if="task.notes" class="mt-1 whitespace-pre-line">{{ task.notes }}</p>
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
          v-if="acts.asks && acts.asks.about !== 'call' && acts.asks.facts.length > 0"
          class="mt-2 grid grid-cols-[auto_1fr] gap-x-3"
        >
          <template v-for="fact in acts.asks.facts" :key="fact.label"
            ><dt class="text-ink2">{{ fact.label }}</dt>
            <dd>{{ fact.value }}</dd></template
          >
        </dl>
        <p class="mt-1.5">
          <i class="font-serif text-[15px] text-ink2"
            >{{ task.hidden ? '' : `Why: ${task.because} ` }}(rule “{{ task.ruleName }}”)</i
          >
          <NuxtLink v-if="!task.hidden" :to="`/journal/${task.runId}`" class="quiet word">Show run</NuxtLink>
        </p>
        <p v-for="one in task.acts" :key="one.atMs + one.text" class="quiet">{{ one.text }}</p>
        <div v-if="acts.may" class="mt-3 flex flex-wrap gap-2">
          <button v-if="acts.inQueue" type="button" class="button main" @click="acts.pull">
            Take task <kbd>P</kbd>
          </button>
          <button
            v-if="!acts.inQueue"
            type="button"
            class="button main"
            :data-word="acts.asks ? 'task/answer' : undefined"
            @click="acts.finish()"
          >
            {{ acts.asks ? `${ASK_WORDS[acts.asks.about]}…` : 'Done' }} <kbd>D</kbd>
          </button>
          <button
            v-if="!acts.inQueue && !acts.asks"
            type="button"
            class="button"
            data-word="task/outcome"
            @click="acts.outcome"
          >
            Done with outcome <kbd>O</kbd>
          </button>
          <button type="button" class="button" data-word="task/later" @click="acts.open('later')">
            Postpone <kbd>L</kbd>
          </button>
          <button type="button" class="button" data-word="task/hand" @click="acts.open('hand')">
            Hand over <kbd>H</kbd>
          </button>
          <button v-if="task.queue && !acts.inQueue" type="button" class="button" @click="acts.putBack">
            Return to queue <kbd>B</kbd>
          </button>
        </div>
        <PopOver v-if="acts.mode === 'outcome'" anchor="[data-word='task/outcome']" label="Outcome" @close="acts.close">
          <form @submit.prevent="acts.finish(unsentOf(task.id).notes)">
            <input
              v-model="unsentOf(task.id).notes"
              class="entry w-full"
              maxlength="1000"
              placeholder="What was the outcome?"
              aria-label="Outcome"
              @vue:mounted="($event.el as HTMLElement).focus()"
            /><button class="button mt-2" type="submit">Mark as done</button>
          </form>
        </PopOver>
        <PopOver
          v-else-if="acts.mode === 'answer' && acts.asks"
          anchor="[data-word='task/answer']"
          :label="ASK_WORDS[acts.asks.about]"
          wide
          @close="acts.close"
          ><AskForm :key="task.id" :of="`task ${task.id}`" :asks="acts.asks" @answer="acts.answer"
        /></PopOver>
        <PopOver
          v-else-if="acts.mode === 'later'"
          anchor="[data-word='task/later']"
          label="Postpone"
          @close="acts.close"
          ><OptionList :options="acts.laters" label="Postpone to" @pick="acts.later"
        /></PopOver>
        <PopOver v-else-if="acts.mode === 'hand'" anchor="[data-word='task/hand']" label="Hand over" @close="acts.close"
          ><OptionList :options="acts.people" label="Hand over to" @pick="acts.hand"
        /></PopOver>
      </div>
      <div class="min-h-0 flex-1 overflow-auto px-6 pt-3 pb-12" tabindex="0" role="region" aria-label="Record">
        <p v-if="task.hidden" class="quiet">
          It is about a record that you can’t see: it belongs to someone outside your team.
        </p>
        <p v-else class="flex items-baseline gap-3">
          <RefLink :of="task.ref" class="name-link font-serif text-[18px] font-medium">{{
            task.recordName
          }}</RefLink><RefLink v-for="one in task.beside" :key="one.name" :of="one.ref" class="quiet word">{{
            one.name
          }}</RefLink>
        </p>
        <div class="mt-2 -ml-2"><RecordRail v-if="beside && isAboutSeen(task)" :page="beside" /></div>
      </div>
    </template>
    <p v-else class="quiet m-auto">Select a task to see its record.</p>
  </section>
</template>
