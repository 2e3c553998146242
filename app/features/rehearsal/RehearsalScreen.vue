<script setup lang="ts">
import { nounOf } from '#core/language/counts'
import { sayDate, sayWeekday } from '#core/time/say'
import { useKeys } from '~/shared/keys/useKeys'
import { useLiveQuery } from '~/shared/live/useLiveQuery'
import { useCatalogue } from '~/shared/stores/catalogue'
import RehearsalAsk from './RehearsalAsk.vue'
import RehearsalCase from './RehearsalCase.vue'
import RehearsalLines from './RehearsalLines.vue'
import RehearsalSums from './RehearsalSums.vue'
import RehearsedRun from './RehearsedRun.vue'
import { useRehearsal } from './useRehearsal'

/**
 * Rules on a copy of the records, with a clock that jumps: what they would do, when, and to whom. Nothing is written.
 */
useHead({ title: 'Rehearsal' })
const store = useCatalogue()
const { data: all } = await useLiveQuery('/api/v1/rules')
const r = useRehearsal(() => all.value?.rules ?? [])
useKeys({
  r: () => {
    if (r.state !== 'running') void r.begin()
  },
})
</script>

<template>
  <div class="screen flex h-full min-h-0 flex-col px-8 pt-4">
    <div class="flex flex-none flex-wrap items-baseline gap-x-4 gap-y-1">
      <h1>Rehearsal</h1>
      <p class="quiet">
        Runs rules on a copy of your records with a fast-forward clock. Nothing is changed and nothing is sent.
      </p>
      <NuxtLink to="/cases" class="button ml-auto">Test cases</NuxtLink>
    </div>
    <RehearsalAsk :r="r" />
    <p v-if="r.state === 'failed'" class="mt-4 rounded-[3px] bg-brick-t px-3 py-2 text-brick" role="alert">
      Rehearsal failed: {{ r.trouble }}
    </p>
    <p v-else-if="!r.view && r.state === 'running'" class="mt-16 text-center font-serif text-[20px]" aria-live="polite">
      Rehearsing the {{ r.back ? 'last' : 'next' }} {{ r.days }} days…
    </p>
    <p v-else-if="!r.view" class="mt-16 text-center font-serif text-[20px]">
      {{ r.picked.length === 0 ? 'Choose a rule to rehearse.' : 'Press R to start.' }}
    </p>
    <div v-if="r.view" class="split grid min-h-0 flex-1 grid-cols-[minmax(0,1.7fr)_minmax(0,1fr)] gap-8 pt-3">
      <section class="flex min-h-0 flex-col" aria-label="Result">
        <p class="flex flex-none flex-wrap gap-6 text-[13px] text-ink2" aria-live="polite" data-rehearsed>
          <span
            v-for="[n, label] in [
              ...(r.object === 'none'
                ? []
                : [[r.view.counts.records, nounOf(r.view.counts.records, r.object)] as const]),
              [r.view.counts.tasks, nounOf(r.view.counts.tasks, 'task')],
              [r.view.counts.sends, nounOf(r.view.counts.sends, 'email')],
              [r.view.counts.notices, nounOf(r.view.counts.notices, 'notification')],
              [r.view.keptOut, 'stopped by conditions'],
            ] as const"
            :key="label"
            ><b class="block font-serif text-[22px] leading-none font-medium text-ink">{{ n.toLocaleString('en') }}</b
            >{{ label }}</span
          >
          <span class="ml-auto self-end"
            >{{ sayDate(r.dayOf(r.view.fromMs)) }} – {{ sayDate(r.dayOf(r.view.endMs))
            }}<template v-if="r.state === 'stopped'"> · Stopped early</template
            ><template v-else-if="r.view.cut"> · Stopped: {{ r.view.cut }}</template></span
          >
        </p>
        <p v-if="r.only || r.day || r.owner" class="mt-2 flex flex-none gap-2">
          <button v-if="r.only" type="button" class="button py-0.5!" @click="r.go({ only: undefined })">
            {{ r.view.lines[0]?.recordName ?? '1 record' }} ×</button
          ><button v-if="r.day" type="button" class="button py-0.5!" @click="r.go({ day: undefined })">
            {{ sayWeekday(r.day) }} ×</button
          ><button v-if="r.owner" type="button" class="button py-0.5!" @click="r.go({ owner: undefined })">
            {{ r.ownerWord(r.owner) }} ×
          </button>
        </p>
        <RehearsalLines :r="r" :view="r.view" />
      </section>
      <aside
        v-if="r.sheet"
        class="min-h-0 overflow-auto bg-paper2 px-5 pt-3 pb-12"
        aria-label="Record, step by step"
        tabindex="0"
      >
        <RehearsedRun :sheet="r.sheet" @close="r.sheet = null" @next="r.wayOf" />
      </aside>
      <aside v-else class="min-h-0 overflow-auto bg-paper2 px-5 pt-3 pb-12" aria-label="Summary" tabindex="0">
        <RehearsalCase v-if="!r.back && r.taking.length > 0 && store.may('build')" :r="r" />
        <RehearsalSums :r="r" :view="r.view" />
      </aside>
    </div>
  </div>
</template>
