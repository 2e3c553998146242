<script setup lang="ts">
import { OBJECT_WORDS, OBJECTS, type ObjectKind } from '#core/records/kinds'
import { foldText } from '#core/fields/value'
import { sayInstant } from '#core/time/say'

useHead({ title: 'Rules' })
const store = useCatalogue()
const route = useRoute()
const { data, refresh } = await useFetch('/api/v1/rules', { key: 'rules' })
const calmly = useCalm(() => refresh())
useLive((message) => {
  if (message.about === 'rules' || message.about === 'run') calmly()
}, calmly)

const words = ref('')
const state = ref<'' | 'on' | 'off' | 'draft' | 'archived'>('')
const lines = computed(() => (data.value?.rules ?? []).filter((rule) => {
  if (state.value === '' ? rule.state === 'archived' : rule.state !== state.value) return false
  const text = foldText(`${rule.name} ${rule.when} ${rule.onlyIf} ${rule.then.join(' ')} ${rule.changedBy}`)
  return foldText(words.value).split(' ').every((word) => text.includes(word))
}))

const naming = ref(route.query.new === '1')
const name = ref('')
const object = ref<ObjectKind>('deal')
async function begin(): Promise<void> {
  const made = await attempt(() => send<{ id: number }>('POST', '/api/v1/rules', { name: name.value.trim() || 'New rule', object: object.value }))
  if (made) await navigateTo(`/rules/${made.id}`)
}
async function bring(event: Event): Promise<void> {
  const input = event.target as HTMLInputElement
  const text = await input.files?.[0]?.text()
  input.value = ''
  if (text === undefined) return
  const made = await attempt(() => send<{ id: number }>('POST', '/api/v1/rules/files', { text }))
  if (made) await navigateTo(`/rules/${made.id}`)
}
async function toggle(id: number, now: string): Promise<void> {
  await attempt(() => send('POST', `/api/v1/rules/${id}/state`, { state: now === 'on' ? 'off' : 'on' }))
  await refresh()
}
const peak = (pulse: readonly number[]): number => Math.max(1, ...pulse)
useKeys({ n: () => { if (store.may('build')) naming.value = true } })
</script>

<template>
  <div class="h-full overflow-auto px-8 pt-5 pb-12">
    <div class="flex items-baseline gap-4">
      <h1>Rules</h1>
      <p class="quiet">{{ lines.length }} shown, {{ (data?.rules ?? []).filter((rule) => rule.state === 'on').length }} on</p>
      <input v-model="words" class="entry ml-auto w-64" type="search" placeholder="Words in the sentence" aria-label="Words in the sentence">
      <select v-model="state" class="entry" aria-label="State"><option value="">in use</option><option value="on">on</option><option value="off">off</option><option value="draft">drafts</option><option value="archived">archived</option></select>
      <NuxtLink to="/preflight" class="button">Preflight</NuxtLink>
      <label v-if="store.may('build')" class="button cursor-pointer focus-within:outline-2">From a file<input type="file" class="sr-only" accept=".yaml,.yml,.json" @change="bring"></label>
      <button v-if="store.may('build')" type="button" class="button main" @click="naming = true">Write a rule <kbd>N</kbd></button>
    </div>
    <form v-if="naming" class="mt-4 flex items-center gap-2 rounded-[3px] bg-paper2 p-3" @submit.prevent="begin" @keydown.escape="naming = false">
      <label class="font-serif text-[17px]" for="rule-name">A rule for</label>
      <select v-model="object" class="entry" aria-label="Kind of record"><option v-for="one in OBJECTS" :key="one" :value="one">{{ OBJECT_WORDS[one].many }}</option></select>
      <span class="font-serif text-[17px]">called</span>
      <input id="rule-name" v-model="name" class="entry flex-1" maxlength="200" placeholder="Quote nobody answered" aria-label="Name" @vue:mounted="($event.el as HTMLElement).focus()">
      <button class="button main" type="submit">Begin</button><button class="button" type="button" @click="naming = false">Not now</button>
      <span class="quiet">New rules are off.</span>
    </form>
    <table v-if="lines.length" class="ledger mt-4 table-fixed">
      <thead><tr><th class="w-[92px]">State</th><th>Rule</th><th class="w-[140px]">Last 30 days</th><th class="num w-[76px]">Runs</th><th class="w-[160px]">Last hand</th></tr></thead>
      <tbody>
        <tr v-for="rule in lines" :key="rule.id">
          <td class="pt-2!">
            <button v-if="store.may('build') && (rule.state === 'on' || rule.state === 'off')" type="button" role="switch" :aria-checked="rule.state === 'on'" :aria-label="`${rule.name} is ${rule.state}`" class="rounded-sm border px-2 py-px text-[12.5px] font-semibold" :class="rule.state === 'on' ? 'border-moss bg-moss-t text-moss' : 'border-ink2 text-ink2'" @click="toggle(rule.id, rule.state)">{{ rule.state }}</button>
            <span v-else class="rounded-sm border border-dashed border-ink2 px-2 py-px text-[12.5px] font-semibold text-ink2">{{ rule.state }}</span>
          </td>
          <td class="py-1.5!">
            <NuxtLink :to="`/rules/${rule.id}`" class="name-link font-serif text-[17px] leading-tight font-medium">{{ rule.name }}</NuxtLink>
            <span v-if="rule.problems" class="ml-2 rounded-[3px] bg-brick-t px-1.5 text-[12px] text-brick">{{ rule.problems }} still to do</span>
            <span v-if="rule.unpublished" class="ml-2 rounded-[3px] bg-saffron-t px-1.5 text-[12px] text-saffron">edited, not published</span>
            <p class="line-clamp-2 max-w-[820px] font-serif text-[14.5px] leading-snug text-ink2"><i>When</i> {{ rule.when || '…' }}<template v-if="rule.onlyIf">, <i>only if</i> {{ rule.onlyIf }}</template>, <i>then</i> {{ rule.then.join('; ') || '…' }}</p>
          </td>
          <td class="pt-2!"><svg :width="120" height="20" role="img" :aria-label="`${rule.runs} runs in 30 days`"><rect v-for="(n, i) in rule.pulse" :key="i" :x="i * 4" :y="n ? 19 - 17 * n / peak(rule.pulse) : 18" width="3" :height="n ? 1 + 17 * n / peak(rule.pulse) : 1" :fill="n ? 'var(--violet)' : 'var(--hair)'" /></svg></td>
          <td class="num pt-2!"><NuxtLink :to="`/journal?rule=${rule.id}`" class="name-link">{{ rule.runs }}</NuxtLink><span v-if="rule.failed" class="block text-[12px] text-brick">{{ rule.failed }} failed</span></td>
          <td class="quiet pt-2!">{{ rule.changedBy }}<br>{{ sayInstant(rule.changedAt, store.catalogue.workspace.zone) }}</td>
        </tr>
      </tbody>
    </table>
    <div v-else class="mt-16 text-center">
      <p class="font-serif text-[20px]">{{ data?.rules.length ? 'No rule fits.' : 'There are no rules yet.' }}</p>
      <p class="quiet mt-1">{{ data?.rules.length ? 'Take a word away, or choose another state.' : 'Write one: say when it starts, on which records, and what it does.' }}</p>
    </div>
  </div>
</template>
