<script setup lang="ts">
import { capital } from '#core/language/nouns'
import { stateTone, STATE_WORDS } from '~/shared/run/tones'
import { sayInstant, sayTime } from '#core/time/say'
import { OBJECT_WORDS } from '#core/records/kinds'
import { read, send, attempt } from '~/shared/api/api'
import { once } from '~/shared/api/once'
import { useCatalogue } from '~/shared/stores/catalogue'
import { useNotices } from '~/shared/stores/notices'
import RunSheet from '~/shared/run/RunSheet.vue'
import { useLiveQuery, orFail } from '~/shared/live/useLiveQuery'
import RefLink from '~/shared/record/RefLink.vue'
import { nested } from '~/shared/run/nested'
import ChainList from './ChainList.vue'

const route = useRoute()
const store = useCatalogue()
const id = Number(route.params.id)
const { data: run, refresh } = await orFail(
  useLiveQuery('/api/v1/runs/:id', { params: { id }, changedBy: ['ahead', 'sent'] }),
  `Run ${id} does not exist.`,
)
useHead({ title: () => `${run.value.ruleName}, run ${id}` })
const zone = computed(() => store.catalogue.workspace.zone)
const undo = shallowRef<{ undone: readonly string[]; left: readonly string[] } | null>(null)
const lookUndo = async (): Promise<void> => {
  undo.value = await attempt(() =>
    read<{ undone: readonly string[]; left: readonly string[] }>(`/api/v1/runs/${id}/undo`),
  )
}
const takeBack = once(async (): Promise<void> => {
  if (!(await attempt(() => send('POST', `/api/v1/runs/${id}/undo`)))) return
  undo.value = null
  await refresh()
})
async function ahead(act: 'now' | 'end', wait: number): Promise<void> {
  await attempt(() => send('POST', '/api/v1/ahead', { act, items: [{ wait }] }))
  await refresh()
}
const retry = once(async (): Promise<void> => {
  const answer = await attempt(() =>
    send<{ done: number; failed: number }>('POST', '/api/v1/run-retries', { ids: [id] }),
  )
  if (!answer) return
  await refresh()
  useNotices().tell(
    answer.done > 0
      ? { tone: 'rule', title: 'Run completed' }
      : { tone: 'wrong', title: answer.failed > 0 ? 'Run failed again' : 'Conditions are no longer true' },
  )
})
/** What a change led to stands within it, and so does what a run changed. */
const chain = computed(() => nested(run.value.chain, ({ depth, what }) => depth * 2 + (what === 'run' ? 1 : 0)))
</script>

<template>
  <div class="split grid h-full grid-cols-[minmax(0,3fr)_minmax(0,2fr)]">
    <section class="min-h-0 overflow-auto border-r border-hair px-7 pt-4 pb-12" aria-label="Run" tabindex="0">
      <p class="quiet">
        <template v-if="store.may('readRules')"
          ><NuxtLink to="/journal" class="name-link">Journal</NuxtLink> · Run {{ id }} ·
          <NuxtLink :to="`/rules/${run.ruleId}`" class="name-link">Rule version {{ run.version }}</NuxtLink></template
        ><template v-else>Run {{ id }} · Rule version {{ run.version }}</template>
      </p>
      <h1 class="mt-0.5">{{ run.ruleName }}</h1>
      <p class="mt-1.5 mb-4 flex flex-wrap items-center gap-3 text-[13.5px]">
        <span class="rounded-sm border px-2 py-px font-semibold" :class="stateTone(run.state)">{{
          STATE_WORDS[run.state]
        }}</span>
        <RefLink :of="run.ref" class="word">{{ run.recordName }}</RefLink><span
          v-if="run.ref.object !== 'none'"
          class="quiet"
          >{{ OBJECT_WORDS[run.ref.object].one }}</span
        ><span class="quiet">{{ sayInstant(run.atMs, zone) }}</span>
      </p>
      <p v-if="run.state === 'failed' && store.may('build')" class="mb-3 flex items-baseline gap-3">
        <button type="button" class="button main" data-retry @click="retry">Retry from failed step</button
        ><span class="quiet">Completed steps are not repeated.</span>
      </p>
      <p v-if="run.undone" class="mb-3 rounded-[3px] bg-saffron-t px-3 py-2 text-saffron" data-undone>
        Undone by {{ run.undone.person }}, {{ sayInstant(run.undone.atMs, zone) }}.
      </p>
      <p
        v-else-if="
          store.may('build') && (run.state === 'done' || run.state === 'failed' || run.state === 'waiting') && !undo
        "
        class="mb-3"
      >
        <button type="button" class="button" data-undo @click="lookUndo">Undo run…</button>
      </p>
      <p
        v-for="one in run.waits"
        :key="one.id"
        class="mb-3 flex flex-wrap items-baseline gap-3 rounded-[3px] bg-saffron-t px-3 py-2 text-saffron"
        data-wait
      >
        <span><span class="mark time mr-2" aria-hidden="true" />{{ capital(one.say) }}.</span
        ><template v-if="store.may('build')"
          ><button type="button" class="button py-0.5!" @click="ahead('now', one.id)">Continue now</button
          ><button type="button" class="button py-0.5!" @click="ahead('end', one.id)">End run</button></template
        >
      </p>
      <section v-if="undo" class="mb-3 rounded-[3px] bg-paper2 px-3 py-2" aria-label="Undo this run">
        <template v-if="undo.undone.length > 0"
          ><p class="font-semibold">Will be undone</p>
          <ul>
            <li v-for="line in undo.undone" :key="line">{{ line }}</li>
          </ul></template
        >
        <p v-else>Nothing can be undone.</p>
        <template v-if="undo.left.length > 0"
          ><p class="mt-1 font-semibold text-saffron">Will stay</p>
          <ul>
            <li v-for="line in undo.left" :key="line">{{ line }}</li>
          </ul></template
        >
        <p class="mt-2 flex gap-2">
          <button
            v-if="undo.undone.length > 0"
            type="button"
            class="button main"
            data-take-back
            @vue:mounted="($event.el as HTMLElement).focus()"
            @click="takeBack"
          >
            Undo run</button
          ><button type="button" class="button" @click="undo = null">Cancel</button>
        </p>
      </section>
      <p
        v-if="run.stop"
        class="mb-3 rounded-[3px] px-3 py-2"
        :class="run.state === 'stopped' ? 'bg-paper2' : 'bg-brick-t text-brick'"
      >
        <span class="mark stop mr-2" aria-hidden="true" />{{ STATE_WORDS[run.state] }}: {{ run.stop }}.
      </p>
      <RunSheet
        :triggers="run.triggers"
        :because="run.because"
        :doer="run.doer?.name ?? null"
        :mode="run.mode"
        :seen="run.seen"
        :state="run.state"
        :lines="run.steps"
      />
      <p v-for="message in run.messages" :key="message.subject + message.recipient" class="mt-2 text-[13.5px]">
        <span class="mark outside mr-2" aria-hidden="true" />Email to {{ message.recipient }}, “{{ message.subject }}”:
        {{
          message.state === 'delivered'
            ? `delivered ${sayTime(message.deliveredAt ?? 0, zone)} (simulated)`
            : message.state === 'pending'
              ? 'waiting to be sent'
              : 'not delivered'
        }}
      </p>
    </section>
    <aside class="min-h-0 overflow-auto bg-paper2 px-6 pt-5 pb-12" aria-label="Full chain" tabindex="0">
      <h2>Full chain</h2>
      <p class="quiet mt-1 mb-3">The change that started it and everything rules did as a result.</p>
      <ChainList :entries="chain" :shown="id" />
      <p v-for="note in run.notes" :key="note" class="quiet mt-2">{{ note }}</p>
    </aside>
  </div>
</template>
