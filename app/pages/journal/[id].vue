<script setup lang="ts">
import { sayInstant, sayTime } from '#core/time/say'
import { OBJECT_WORDS } from '#core/records/kinds'

const route = useRoute()
const store = useCatalogue()
const id = Number(route.params.id)
const { data, error, refresh } = await useFetch(`/api/v1/runs/${id}`, { key: `run-${id}` })
if (error.value || !data.value) throw createError({ statusCode: 404, message: `There is no run ${id}.`, fatal: true })
const run = computed(() => data.value!)
useHead({ title: () => `${run.value.ruleName}, run ${id}` })
const zone = computed(() => store.catalogue.workspace.zone)
const STATE_WORDS = { running: 'running', waiting: 'waiting', done: 'done', stopped: 'stopped', failed: 'failed' } as const
const MODES = { all: 'all of these hold', any: 'any of these holds', none: 'none of these holds' } as const
const undo = shallowRef<{ undone: readonly string[]; left: readonly string[] } | null>(null)
const lookUndo = async (): Promise<void> => { undo.value = await attempt(() => read<{ undone: readonly string[]; left: readonly string[] }>(`/api/v1/runs/${id}/undo`)) }
async function takeBack(): Promise<void> {
  if (!(await attempt(() => send('POST', `/api/v1/runs/${id}/undo`)))) return
  undo.value = null
  await refresh()
}
async function ahead(act: 'now' | 'end', wait: number): Promise<void> {
  await attempt(() => send('POST', '/api/v1/ahead', { act, items: [{ wait }] }))
  await refresh()
}
useLive((message) => {
  if (message.about === 'ahead' && run.value.state === 'waiting') void refresh()
}, () => void refresh())
async function retry(): Promise<void> {
  const answer = await attempt(() => send<{ done: number; failed: number }>('POST', '/api/v1/run-retries', { ids: [id] }))
  if (!answer) return
  await refresh()
  useNotices().tell(answer.done > 0 ? { tone: 'rule', title: 'Done now' } : { tone: 'wrong', title: answer.failed > 0 ? 'It failed again' : 'Its conditions do not hold' })
}
</script>

<template>
  <div class="grid h-full grid-cols-[minmax(0,3fr)_minmax(0,2fr)]">
    <section class="min-h-0 overflow-auto border-r border-hair px-7 pt-4 pb-12" aria-label="The run" tabindex="0">
      <p class="quiet"><template v-if="store.may('readRules')"><NuxtLink to="/journal" class="name-link">Journal</NuxtLink> · run {{ id }} · <NuxtLink :to="`/rules/${run.ruleId}`" class="name-link">version {{ run.version }} of the rule</NuxtLink></template><template v-else>run {{ id }} · version {{ run.version }} of the rule</template></p>
      <h1 class="mt-0.5">{{ run.ruleName }}</h1>
      <p class="mt-1.5 mb-4 flex flex-wrap items-center gap-3 text-[13.5px]">
        <span class="rounded-sm border px-2 py-px font-semibold" :class="run.state === 'done' ? 'border-moss text-moss' : run.state === 'failed' ? 'border-brick text-brick' : run.state === 'waiting' ? 'border-saffron text-saffron' : 'border-ink2 text-ink2'">{{ STATE_WORDS[run.state] }}</span>
        <NuxtLink :to="recordPath(run.ref)" class="word">{{ run.recordName }}</NuxtLink><span class="quiet">{{ OBJECT_WORDS[run.ref.object].one }}</span><span class="quiet">{{ sayInstant(run.atMs, zone) }}</span>
      </p>
      <p v-if="run.state === 'failed' && store.may('build')" class="mb-3 flex items-baseline gap-3"><button type="button" class="button main" data-retry @click="retry">Try again from where it failed</button><span class="quiet">What was done stays and is not done again.</span></p>
      <p v-if="run.undone" class="mb-3 rounded-[3px] bg-saffron-t px-3 py-2 text-saffron" data-undone>Taken back by {{ run.undone.person }}, {{ sayInstant(run.undone.atMs, zone) }}.</p>
      <p v-else-if="store.may('build') && (run.state === 'done' || run.state === 'failed' || run.state === 'waiting') && !undo" class="mb-3"><button type="button" class="button" data-undo @click="lookUndo">Take it back …</button></p>
      <p v-for="one in run.waits" :key="one.id" class="mb-3 flex flex-wrap items-baseline gap-3 rounded-[3px] bg-saffron-t px-3 py-2 text-saffron" data-wait><span><span class="mark time mr-2" aria-hidden="true" />It {{ one.say }}.</span><template v-if="store.may('build')"><button type="button" class="button py-0.5!" @click="ahead('now', one.id)">Go on now</button><button type="button" class="button py-0.5!" @click="ahead('end', one.id)">End it</button></template></p>
      <section v-if="undo" class="mb-3 rounded-[3px] bg-paper2 px-3 py-2" aria-label="Taking it back">
        <template v-if="undo.undone.length > 0"><p class="font-semibold">What goes back</p><ul><li v-for="line in undo.undone" :key="line">{{ line }}</li></ul></template><p v-else>Nothing can be taken back.</p>
        <template v-if="undo.left.length > 0"><p class="mt-1 font-semibold text-saffron">What stays</p><ul><li v-for="line in undo.left" :key="line">{{ line }}</li></ul></template>
        <p class="mt-2 flex gap-2"><button v-if="undo.undone.length > 0" type="button" class="button main" data-take-back @vue:mounted="($event.el as HTMLElement).focus()" @click="takeBack">Take it back</button><button type="button" class="button" @click="undo = null">Not now</button></p>
      </section>
      <p v-if="run.stop" class="mb-3 rounded-[3px] px-3 py-2" :class="run.state === 'stopped' ? 'bg-paper2' : 'bg-brick-t text-brick'"><span class="mark stop mr-2" aria-hidden="true" />It {{ run.state }}: {{ run.stop }}.</p>
      <div class="grid grid-cols-[22px_minmax(0,1fr)] gap-x-3">
        <div class="relative"><span class="rail top-3" /><span class="mark start absolute top-2 left-[5px]" aria-hidden="true" /></div>
        <div><p class="part">When</p><p v-for="(trigger, i) in run.triggers" :key="trigger" class="font-serif text-[18px]">{{ i ? 'or ' : '' }}{{ trigger }}</p><p class="pb-2 text-[14px]"><b class="font-semibold">{{ run.because }}</b> <span v-if="run.doer && !run.because.includes(run.doer.name)" class="quiet">by {{ run.doer.name }}</span></p></div>
        <div class="relative"><span class="rail" /></div>
        <div>
          <p class="part">Only if <span v-if="run.seen.length > 1" class="font-sans text-[13px] not-italic">{{ MODES[run.mode] }}</span></p>
          <p v-if="run.seen.length === 0" class="pb-2 font-serif text-[18px] text-ink2">{{ run.state === 'stopped' ? 'not asked' : 'always' }}</p>
          <p v-for="one in run.seen" :key="one.id" class="flex items-baseline justify-between gap-4 py-0.5"><span class="font-serif text-[18px]" :class="!one.holds && 'text-brick'">{{ one.text }}</span><span class="text-[13px] whitespace-nowrap" :class="one.holds ? 'text-moss' : 'text-brick'">it was {{ one.value }} · {{ one.holds ? 'holds' : 'does not hold' }}</span></p>
        </div>
        <div class="relative"><span class="rail" /></div><p class="part pt-1">Then</p>
        <template v-for="(step, i) in run.steps" :key="`${step.id}-${i}`">
          <div class="relative"><span class="rail" :class="i === run.steps.length - 1 && 'last'" /><span v-if="step.hue !== null" class="mark absolute top-2 left-[5px]" :class="step.state === 'failed' ? 'stop' : step.state === 'done' ? step.hue : ''" aria-hidden="true" /></div>
          <div v-if="step.hue === null" :style="{ paddingLeft: `${step.depth * 18}px` }" class="flex min-w-0 items-baseline gap-2 pb-1" :class="step.state === null && 'text-ink2'"><span class="flex-none text-[13px] font-semibold text-ink2">{{ step.label }}</span><span class="min-w-0 truncate font-serif text-[17px] italic" :title="step.sentence">{{ step.sentence }}</span><span class="flex-none text-[13px]" :class="step.state === 'done' ? 'text-moss' : 'text-ink2'">{{ step.result }}</span></div>
          <div v-else class="pb-2" :style="{ paddingLeft: `${step.depth * 18}px` }" :class="step.state === null && 'text-ink2'"><p class="font-serif text-[18px]"><span class="mr-2 font-sans text-[13px] font-semibold text-ink2">{{ step.label }}</span>{{ step.sentence }}<NuxtLink v-if="step.on" :to="recordPath(step.on.ref)" class="name-link ml-2 font-sans text-[14px] font-semibold">{{ step.on.name }}</NuxtLink></p><p class="ml-5 text-[14px]" :class="step.state === 'failed' ? 'text-brick' : step.state === 'done' ? '' : 'text-ink2'"><b v-if="step.state === 'done'" class="font-semibold">{{ run.steps[i + 1]?.hue === null ? 'Because ' : 'Wrote ' }}</b>{{ step.result }}</p></div>
        </template>
      </div>
      <p v-for="message in run.messages" :key="message.subject + message.recipient" class="mt-2 text-[13.5px]"><span class="mark outside mr-2" aria-hidden="true" />Mail to {{ message.recipient }}, “{{ message.subject }}”: {{ message.state === 'delivered' ? `delivered ${sayTime(message.deliveredAt ?? 0, zone)} to the simulated mailbox` : message.state === 'pending' ? 'waiting to go out' : 'given up' }}</p>
    </section>
    <aside class="min-h-0 overflow-auto bg-paper2 px-6 pt-5 pb-12" aria-label="The chain" tabindex="0">
      <h2>The whole chain</h2>
      <p class="quiet mt-1 mb-3">The change that began it, and everything rules did because of it.</p>
      <ol>
        <li v-for="entry in run.chain" :key="entry.what + entry.id" class="flex items-baseline gap-2 border-b border-hair py-1 text-[13.5px]" :style="{ paddingLeft: `${entry.depth * 18 + (entry.what === 'run' ? 10 : 0)}px` }" :class="entry.what === 'run' && entry.id === id && 'bg-violet-t'">
          <span class="mark flex-none translate-y-px scale-75" :class="entry.what === 'change' ? 'start' : entry.state === 'failed' || (entry.state === 'stopped' && entry.text.includes('cut:')) ? 'stop' : 'data'" aria-hidden="true" />
          <span class="min-w-0"><NuxtLink v-if="entry.what === 'run' && entry.id !== id" :to="`/journal/${entry.id}`" class="name-link">{{ entry.text }}</NuxtLink><template v-else>{{ entry.text }}</template><NuxtLink v-if="entry.recordName" :to="recordPath(entry.ref)" class="quiet name-link"> {{ entry.recordName }}</NuxtLink></span>
        </li>
      </ol>
    </aside>
  </div>
</template>

<style scoped>
.rail { position: absolute; left: 10px; top: 0; bottom: 0; width: 2px; background: var(--ink); }
.rail.last { bottom: auto; height: 14px; }
</style>
