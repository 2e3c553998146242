<script setup lang="ts">
import { sayCall, type CallResult } from '#core/asks/call'
import { sayInstant } from '#core/time/say'
import { attempt, send } from '~/shared/api/api'
import { once } from '~/shared/api/once'
import { useUnsent } from '~/shared/asks/unsent'
import CallForm from '~/shared/asks/CallForm.vue'
import { useLiveQuery, type AnswerOf } from '~/shared/live/useLiveQuery'
import RefLink from '~/shared/record/RefLink.vue'
import { useCatalogue } from '~/shared/stores/catalogue'
import MessagesNav from './MessagesNav.vue'

/** Calls that the dialler would place: here they ring, and somebody says how each went. */
useHead({ title: 'Simulated phone' })
const store = useCatalogue()
const unsent = useUnsent()
const zone = computed(() => store.catalogue.workspace.zone)
const { data, refresh } = await useLiveQuery('/api/v1/simulated-calls', { changedBy: ['sent'] })
type Call = AnswerOf<'/api/v1/simulated-calls'>['calls'][number]
const calls = computed(() => data.value?.calls ?? [])
const ringing = computed(() => calls.value.filter((one) => one.result === null))
const open = ref<string | null>(null)
const chosen = computed((): Call | null => calls.value.find((one) => one.key === open.value) ?? calls.value[0] ?? null)
const end = once(async (result: CallResult): Promise<void> => {
  if (!chosen.value) return
  const { key } = chosen.value
  if (!(await attempt(() => send('POST', '/api/v1/simulated-calls', { key, result })))) return
  unsent.sent(`call ${key}`)
  await refresh()
  open.value = ringing.value[0]?.key ?? key
  await nextTick()
  document.querySelector<HTMLElement>(`[data-simulated-call="${open.value}"]`)?.focus()
})
</script>

<template>
  <div class="screen flex h-full min-h-0 flex-col px-8 pt-4 max-[599px]:px-4">
    <div class="flex flex-none flex-wrap items-baseline gap-x-4 gap-y-1">
      <h1>Simulated phone</h1>
      <MessagesNav current="phone" />
    </div>
    <p class="quiet mt-1 flex-none">
      Calls that your rules place by the dialler ring here and nowhere else. Say how each went, and see what your rules
      do.
    </p>
    <div v-if="calls.length > 0" class="split mt-3 grid min-h-0 flex-1 grid-cols-[380px_minmax(0,1fr)] gap-6">
      <ul class="min-h-0 overflow-auto border-r border-hair pr-2 pb-8" aria-label="Calls" tabindex="0">
        <li v-for="one in calls" :key="one.key">
          <button
            type="button"
            class="w-full rounded-[3px] px-2 py-1.5 text-left"
            :class="one.key === chosen?.key ? 'bg-violet-t' : ''"
            :aria-pressed="one.key === chosen?.key"
            :data-simulated-call="one.key"
            @click="open = one.key"
          >
            <span class="flex justify-between gap-2"
              ><b class="truncate font-medium">{{ one.name }}</b
              ><span class="quiet flex-none">{{ sayInstant(one.atMs, zone) }}</span></span
            >
            <span v-if="one.result" class="block truncate font-serif text-[15px]">{{ sayCall(one.result) }}</span>
            <span v-else class="block font-serif text-[15px] text-violet">Ringing…</span>
            <span class="quiet">{{ one.number }} · try {{ one.attempt }} of {{ one.most }}</span>
          </button>
        </li>
      </ul>
      <section v-if="chosen" class="min-h-0 overflow-auto pb-8" :aria-label="`Call to ${chosen.name}`">
        <h2>
          <RefLink :of="chosen.ref" class="name-link">{{ chosen.name }}</RefLink>
          <span class="quiet ml-2 font-sans text-[14px]">{{ chosen.number }}</span>
        </h2>
        <p class="quiet">
          Rule “{{ chosen.ruleName }}” · <NuxtLink :to="`/journal/${chosen.runId}`" class="word">Show run</NuxtLink>
        </p>
        <p v-if="chosen.script" class="mt-2 max-w-[70ch] font-serif text-[17px] whitespace-pre-line">
          {{ chosen.script }}
        </p>
        <p v-if="chosen.result" class="mt-3 max-w-[70ch] border-l-2 border-ink pl-3">{{ sayCall(chosen.result) }}</p>
        <div v-else class="mt-3 max-w-[520px]">
          <CallForm :key="chosen.key" :of="`call ${chosen.key}`" @done="end" />
        </div>
      </section>
    </div>
    <p v-else class="mt-10 max-w-[60ch] font-serif text-[18px]">
      No calls yet. The step “call the customer” by the dialler brings them here.
    </p>
  </div>
</template>
