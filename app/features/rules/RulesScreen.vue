<script setup lang="ts">
import { capital } from '#core/language/nouns'
import { count } from '#core/language/counts'
import { OBJECT_WORDS, RULE_OBJECTS, type ObjectKind } from '#core/records/kinds'
import { useVirtualizer } from '@tanstack/vue-virtual'
import { watchDebounced } from '@vueuse/core'
import { sayInstant } from '#core/time/say'
import { send, attempt } from '~/shared/api/api'
import { goTo } from '~/shared/goTo'
import { once } from '~/shared/api/once'
import { useKeys } from '~/shared/keys/useKeys'
import { useCatalogue } from '~/shared/stores/catalogue'
import { useLiveQuery } from '~/shared/live/useLiveQuery'
import { useQueryChange } from '~/shared/useQueryChange'
import RuleFilters from './RuleFilters.vue'
import { meetsFilter, RULE_FILTERS, type RuleFilter, type RuleFilterName } from './ruleFilter'
import { vTyped } from '~/shared/keys/typed'

useHead({ title: 'Rules' })
const store = useCatalogue()
const route = useRoute()
// A thousand rules are a long page: it comes at once, and they follow.
const { data, refresh } = useLiveQuery('/api/v1/rules', {
  key: 'rules-in-full',
  lazy: true,
  browserOnly: true,
  changedBy: ['rules', 'run'],
})

const put = useQueryChange()
/** What is looked for stands in the address, so that it can be shared and gone back to. */
const asked = computed((): RuleFilter => {
  const of = (name: RuleFilterName): string => (typeof route.query[name] === 'string' ? route.query[name] : '')
  return Object.fromEntries(RULE_FILTERS.map((name) => [name, of(name)])) as Record<RuleFilterName, string>
})
const words = computed(() => asked.value.words)
/** Typed at once, put into the address soon after. */
const typing = ref(words.value)
watchDebounced(
  typing,
  (value) => {
    if (value !== words.value) void put({ words: value })
  },
  { debounce: 200 },
)
watch(words, (value) => {
  if (value !== typing.value) typing.value = value
})
const all = computed(() => data.value?.rules ?? [])
const lines = computed(() => all.value.filter((rule) => meetsFilter(rule, { ...asked.value, words: typing.value })))
const clear = (): void => {
  typing.value = ''
  void put(Object.fromEntries(RULE_FILTERS.map((name) => [name, undefined])))
}

const ROW_PX = 69
const scroller = useTemplateRef<HTMLElement>('scroller')
const virtualizer = useVirtualizer(
  computed(() => ({
    count: lines.value.length,
    getScrollElement: () => scroller.value,
    estimateSize: () => ROW_PX,
    overscan: 8,
    initialRect: { width: 1200, height: 640 },
  })),
)
const shown = computed(() =>
  virtualizer.value.getVirtualItems().flatMap((item) => {
    const rule = lines.value[item.index]
    return rule ? [{ ...item, rule }] : []
  }),
)
/** Runs a day, as one line of strokes. */
const pulsePath = (pulse: readonly number[]): string =>
  pulse.map((n, i) => `M${i * 4 + 1.5} 19v-${n ? 1 + (17 * n) / peak(pulse) : 1}`).join('')
async function reorder(id: number, event: Event): Promise<void> {
  const order = Number((event.target as HTMLInputElement).value)
  if (Number.isInteger(order) && order >= 0) await attempt(() => send('PUT', `/api/v1/rules/${id}/order`, { order }))
  await refresh()
}

const naming = ref(route.query.new === '1')
const name = ref('')
const object = ref<ObjectKind>('deal')
const begin = once(async (): Promise<void> => {
  const made = await attempt(() =>
    send<{ id: number }>('POST', '/api/v1/rules', { name: name.value.trim() || 'Untitled rule', object: object.value }),
  )
  if (made) await goTo(`/rules/${made.id}`)
})
async function bring(event: Event): Promise<void> {
  const input = event.target as HTMLInputElement
  const text = await input.files?.[0]?.text()
  input.value = ''
  if (text === undefined) return
  const made = await attempt(() => send<{ id: number }>('POST', '/api/v1/rules/files', { text }))
  if (made) await goTo(`/rules/${made.id}`)
}
async function toggle(id: number, now: string): Promise<void> {
  await attempt(() => send('POST', `/api/v1/rules/${id}/state`, { state: now === 'on' ? 'off' : 'on' }))
  await refresh()
}
const peak = (pulse: readonly number[]): number => Math.max(1, ...pulse)
useKeys({
  n: () => {
    if (store.may('build')) naming.value = true
  },
})
</script>

<template>
  <div class="screen flex h-full flex-col px-8 pt-5">
    <div class="flex flex-none flex-wrap items-baseline gap-x-3 gap-y-2">
      <h1>Rules</h1>
      <p class="quiet" aria-live="polite">
        {{ count(lines.length, 'rule') }} shown,
        {{ all.filter((rule) => rule.state === 'on').length.toLocaleString('en') }} on
      </p>
      <input
        v-model="typing"
        class="entry ml-auto w-64 max-sm:ml-0"
        type="search"
        placeholder="Search rules"
        aria-label="Search rules"
      />
      <NuxtLink to="/preflight" class="button">Preflight</NuxtLink>
      <label v-if="store.may('build')" class="button cursor-pointer focus-within:outline-2"
        >Import rule…<input type="file" class="sr-only" accept=".yaml,.yml,.json" @change="bring"
      /></label>
      <button v-if="store.may('build')" type="button" class="button main" @click="naming = true">
        New rule <kbd>N</kbd>
      </button>
    </div>
    <RuleFilters
      class="mt-2"
      :rules="all"
      :asked="asked"
      @ask="(name, value) => put({ [name]: value })"
      @clear="clear"
    />
    <form
      v-if="naming"
      class="mt-3 flex flex-none items-center gap-2 rounded-[3px] bg-paper2 p-3"
      @submit.prevent="begin"
      @keydown.escape="naming = false"
    >
      <label class="font-serif text-[17px]" for="rule-name">New rule for</label>
      <select v-model="object" class="entry" aria-label="Record type">
        <option v-for="one in RULE_OBJECTS" :key="one" :value="one">{{ OBJECT_WORDS[one].Many }}</option>
      </select>
      <span class="font-serif text-[17px]">named</span>
      <input
        id="rule-name"
        v-model="name"
        class="entry flex-1"
        maxlength="200"
        placeholder="Quote not answered"
        aria-label="Name"
        @vue:mounted="($event.el as HTMLElement).focus()"
      />
      <button class="button main" type="submit">Create rule</button
      ><button class="button" type="button" @click="naming = false">Cancel</button>
      <span class="quiet">New rules start switched off.</span>
    </form>
    <div
      v-if="lines.length"
      ref="scroller"
      class="fills mt-2 min-h-0 flex-1 overflow-auto"
      tabindex="0"
      role="region"
      aria-label="Rules table"
    >
      <div role="table" aria-label="Rules" :aria-rowcount="lines.length + 1" class="min-w-[920px] text-[13.5px]">
        <div role="rowgroup" class="sticky top-0 z-10 bg-paper">
          <div role="row" class="cols border-b border-ink2 py-1 text-[12px] font-semibold text-ink2">
            <span role="columnheader">State</span
            ><span role="columnheader" title="Rules with the same trigger run in this order, then oldest first"
              >Order</span
            ><span role="columnheader">Rule</span><span role="columnheader">Last 30 days</span
            ><span role="columnheader" class="text-right">Runs</span><span role="columnheader">Last changed</span>
          </div>
        </div>
        <div role="rowgroup" class="relative" :style="{ height: `${virtualizer.getTotalSize()}px` }">
          <div
            v-for="{ rule, index, start: top } in shown"
            :key="rule.id"
            role="row"
            :aria-rowindex="index + 2"
            class="cols absolute inset-x-0 border-b border-hair pt-1.5"
            :style="{ height: `${ROW_PX}px`, transform: `translateY(${top}px)` }"
          >
            <span role="cell">
              <button
                v-if="store.may('build') && (rule.state === 'on' || rule.state === 'off')"
                type="button"
                role="switch"
                :aria-checked="rule.state === 'on'"
                :aria-label="`Switch rule “${rule.name}” on or off`"
                class="rounded-sm border px-2 py-px text-[12.5px] font-semibold"
                :class="rule.state === 'on' ? 'border-moss bg-moss-t text-moss' : 'border-ink2 text-ink2'"
                @click="toggle(rule.id, rule.state)"
              >
                {{ capital(rule.state) }}
              </button>
              <span
                v-else
                class="rounded-sm border border-dashed border-ink2 px-2 py-px text-[12.5px] font-semibold text-ink2"
                >{{ capital(rule.state) }}</span
              >
            </span>
            <span role="cell"
              ><input
                v-if="store.may('build')"
                class="w-11 rounded-[3px] bg-transparent text-ink2 hover:bg-paper2"
                inputmode="numeric"
                v-typed="rule.order"
                :aria-label="`Order of ${rule.name}`"
                @change="reorder(rule.id, $event)"
              /><span v-else class="quiet">{{ rule.order }}</span></span
            >
            <span role="cell" class="min-w-0">
              <span class="flex min-w-0 items-baseline gap-2"
                ><NuxtLink
                  :to="`/rules/${rule.id}`"
                  class="name-link truncate font-serif text-[17px] leading-tight font-medium"
                  >{{ rule.name }}</NuxtLink
                >
                <span
                  v-if="rule.unreadable"
                  class="flex-none rounded-[3px] bg-brick-t px-1.5 text-[12px] text-brick"
                  :title="rule.unreadable"
                  >Can’t be read</span
                >
                <span v-if="rule.folder" class="flex-none text-[12px] text-ink2">{{ rule.folder }}</span>
                <span
                  v-for="one in rule.labels"
                  :key="one"
                  class="flex-none rounded-[3px] bg-slate-t px-1.5 text-[12px] text-slate"
                  >{{ one }}</span
                >
                <span v-if="rule.paused" class="flex-none rounded-[3px] bg-brick-t px-1.5 text-[12px] text-brick"
                  >Paused</span
                >
                <span v-if="rule.problems" class="flex-none rounded-[3px] bg-brick-t px-1.5 text-[12px] text-brick"
                  >{{ rule.problems }} to finish</span
                >
                <span
                  v-if="rule.unpublished"
                  class="flex-none rounded-[3px] bg-saffron-t px-1.5 text-[12px] text-saffron"
                  >Unpublished changes</span
                ></span
              >
              <span class="line-clamp-2 max-w-[820px] font-serif text-[14.5px] leading-snug text-ink2"
                ><i>When</i> {{ rule.when || '…'
                }}<template v-if="rule.onlyIf">, <i>only if</i> {{ rule.onlyIf }}</template
                >, <i>then</i> {{ rule.then.join('; ') || '…' }}</span
              >
            </span>
            <span role="cell"
              ><svg :width="120" height="20" role="img" :aria-label="`${count(rule.runs, 'run')} in the last 30 days`">
                <path
                  :d="pulsePath(rule.pulse)"
                  :stroke="rule.runs ? 'var(--violet)' : 'var(--hair)'"
                  stroke-width="3"
                  fill="none"
                /></svg
            ></span>
            <span role="cell" class="text-right"
              ><NuxtLink :to="`/journal?rule=${rule.id}`" class="name-link">{{
                rule.runs.toLocaleString('en')
              }}</NuxtLink
              ><span v-if="rule.failed" class="block text-[12px] text-brick">{{ rule.failed }} failed</span></span
            >
            <span role="cell" class="quiet truncate"
              >{{ rule.changedBy }}<br />{{ sayInstant(rule.changedAt, store.catalogue.workspace.zone) }}</span
            >
          </div>
        </div>
      </div>
    </div>
    <div v-else class="mt-16 text-center">
      <p class="font-serif text-[20px]">
        {{ !data ? 'Loading…' : all.length ? 'No rules match.' : 'No rules yet.' }}
      </p>
      <p v-if="data" class="quiet mt-1">
        <template v-if="all.length"
          >Change or <button type="button" class="word" @click="clear">clear the filters</button>.</template
        ><template v-else>Create one: choose when it runs, for which records and what it does.</template>
      </p>
    </div>
  </div>
</template>

<style scoped>
.cols {
  display: grid;
  grid-template-columns: 72px 48px minmax(0, 1fr) 130px 56px 150px;
  column-gap: 12px;
}
</style>
