<script setup lang="ts">
import type { Group } from '#core/conditions/document'
import { OBJECT_WORDS } from '#core/records/kinds'
import type { RuleDocument } from '#core/rules/document'
import { dateAt } from '#core/time/dates'
import { readMinute } from '#core/time/moments'
import { sayDate, sayInstant, sayTime, sayWeekday } from '#core/time/say'
import type { Value } from '#core/language/value'
import type { RehearsedSheet } from '#core/rehearsal/result'
import type { RehearsalView } from '~~/server/worker/rehearsals'
import { fieldWord, sayValue } from '#core/fields/say-value'
import { recordPath } from '~/shared/paths'
import { read, send, attempt } from '~/shared/api/api'
import { useKeys } from '~/shared/keys/useKeys'
import { useCatalogue } from '~/shared/stores/catalogue'
import PopOver from '~/shared/words/PopOver.vue'
import OptionList from '~/shared/words/OptionList.vue'
import ValueEditor from '~/shared/words/ValueEditor.vue'
import RehearsedRun from './RehearsedRun.vue'
import { useLiveQuery } from '~/shared/live/useLiveQuery'

/** Rules on a copy of the records, with a clock that jumps: what they would do, when, and to whom. Nothing is written. */
useHead({ title: 'Rehearsal' })
const route = useRoute()
const store = useCatalogue()
const zone = computed(() => store.catalogue.workspace.zone)
const text = (key: string): string => (typeof route.query[key] === 'string' ? String(route.query[key]) : '')
const chosen = computed(() =>
  text('rules')
    .split(',')
    .map(Number)
    .filter((id) => id > 0),
)
const { data: all } = await useLiveQuery('/api/v1/rules')
const lines = computed(() => all.value?.rules.filter((rule) => rule.state !== 'archived') ?? [])
const picked = computed(() => lines.value.filter((rule) => chosen.value.includes(rule.id)))
const object = computed(() => picked.value[0]?.object ?? 'deal')
const days = computed(() => Number(text('days')) || 90)
const back = computed(() => text('back') === '1')
const compare = computed(() => text('compare') === '1')
const record = computed(() => Number(text('record')) || null)
const who = computed(() => (record.value ? 'one' : text('who') === 'matching' ? 'matching' : 'all'))
const only = computed(() => Number(text('only')) || null)
const day = computed(() => text('day') || null)
const owner = computed(() => text('owner') || null)
function go(change: Readonly<Record<string, string | undefined>>): void {
  void navigateTo({ query: { ...route.query, ...change } }, { replace: true })
}
const addRule = ref(false)
const options = computed(() =>
  lines.value
    .filter((rule) => !chosen.value.includes(rule.id) && rule.problems === 0)
    .map((rule) => ({
      value: String(rule.id),
      label: rule.name,
      hint: `${OBJECT_WORDS[rule.object].many}, ${rule.state}`,
      group: '',
    })),
)

/** What is assumed to happen, line by line. */
interface Assumed {
  day: number
  time: string
  field: string
  value: Value
}
const script = ref<Assumed[]>([])
const assuming = ref(false)
const given = reactive<Assumed>({ day: 3, time: '10:00', field: '', value: null })
const fields = computed(() => store.catalogue.fields(object.value).filter((field) => field.keptBy === null))
const givenField = computed(() => store.catalogue.field(object.value, given.field))
function assume(value: Value): void {
  if (!givenField.value || readMinute(given.time) === null) return
  script.value = [...script.value, { ...given, value }]
  assuming.value = false
}
const sayAssumed = (line: Assumed): string => {
  const field = store.catalogue.field(object.value, line.field)
  return `on day ${line.day} at ${line.time} ${record.value ? 'its' : 'each one’s'} ${field ? fieldWord(field) : line.field} becomes ${field ? sayValue(line.value, field, store.catalogue) : String(line.value)}`
}

const assumed = computed(() =>
  script.value.map((line) => ({
    day: line.day,
    minute: readMinute(line.time) ?? 0,
    id: record.value,
    values: { [line.field]: line.value },
  })),
)
const id = ref<number | null>(null)
const state = ref<'idle' | 'running' | 'done' | 'stopped' | 'failed'>('idle')
const progress = ref(0)
const trouble = ref('')
const view = shallowRef<RehearsalView | null>(null)
let asking: ReturnType<typeof setTimeout> | undefined
onBeforeUnmount(() => clearTimeout(asking))
async function filterOf(): Promise<Group | undefined> {
  const [first] = picked.value
  return first && who.value === 'matching'
    ? (await read<{ draft: RuleDocument }>(`/api/v1/rules/${first.id}`)).draft.conditions
    : undefined
}
async function begin(): Promise<void> {
  if (chosen.value.length === 0) return
  view.value = null
  sheet.value = null
  const filter = await filterOf()
  const begun = await attempt(() =>
    send<{ id: number }>('POST', '/api/v1/rehearsals', {
      rules: chosen.value.map((rule) => ({ rule })),
      days: days.value,
      back: back.value,
      compare: compare.value,
      ...(record.value ? { ids: [record.value] } : filter ? { filter } : {}),
      script: assumed.value,
    }),
  )
  if (!begun) return
  id.value = begun.id
  state.value = 'running'
  progress.value = 0
  void look()
}
async function look(): Promise<void> {
  if (id.value === null) return
  const found = await read<{ state: 'running' | 'done' | 'stopped' | 'failed'; progress: number; text: string }>(
    `/api/v1/rehearsals/${id.value}`,
  ).catch(() => null)
  if (!found) return
  progress.value = found.progress
  trouble.value = found.text
  state.value = found.state
  if (found.state === 'running') asking = setTimeout(() => void look(), 120)
  else if (found.state !== 'failed') await show()
}
async function show(): Promise<void> {
  if (id.value === null) return
  const query = new URLSearchParams({
    limit: '500',
    ...(only.value ? { object: object.value, record: String(only.value) } : {}),
    ...(day.value ? { day: day.value } : {}),
    ...(owner.value ? { owner: owner.value } : {}),
  })
  view.value = await attempt(() => read<RehearsalView>(`/api/v1/rehearsals/${id.value}/lines?${query}`))
}
/** One record's way through the sheet. */
const sheet = shallowRef<RehearsedSheet | null>(null)
async function way(run: number): Promise<void> {
  sheet.value = await attempt(() => read<RehearsedSheet>(`/api/v1/rehearsals/${id.value}/runs/${run}`))
}
/** The next of those that are listed, or the one before. */
function wayOf(by: 1 | -1): void {
  const runs = [...new Set((view.value?.lines ?? []).map((line) => line.runId))]
  const next = runs[runs.indexOf(sheet.value?.run.id ?? -1) + by]
  if (next !== undefined) void way(next)
}
/** Kept as a case: these records as they are now, with what came of them. */
const CASE_MOST = 50
const naming = ref<string | null>(null)
const taking = computed(() =>
  record.value
    ? [record.value]
    : [
        ...new Set(
          (view.value?.lines ?? []).filter((line) => line.ref.object === object.value).map((line) => line.ref.id),
        ),
      ].slice(0, CASE_MOST),
)
async function keepCase(): Promise<void> {
  const name = naming.value?.trim()
  if (!name) return
  const kept = await attempt(() =>
    send<{ id: number }>('POST', '/api/v1/cases', {
      name,
      rules: chosen.value.map((rule) => ({ rule })),
      ids: taking.value,
      days: days.value,
      script: assumed.value,
    }),
  )
  if (!kept) return
  naming.value = null
  await navigateTo('/cases')
}
watch([only, day, owner], () => {
  if (state.value === 'done' || state.value === 'stopped') void show()
})
const stop = (): void => {
  if (id.value !== null) void send('POST', `/api/v1/rehearsals/${id.value}/stop`)
}
onMounted(() => {
  if (chosen.value.length > 0 && text('go') === '1') void begin()
})

const most = computed(() => Math.max(1, ...(view.value?.byDay ?? []).map(([, n]) => n)))
const KINDS: Readonly<Record<string, string>> = {
  createTask: 'tasks',
  setField: 'fields set',
  moveStage: 'stages moved',
  notify: 'people told',
  assignOwner: 'given to somebody',
  createRecord: 'records made',
  qualify: 'qualified',
  decide: 'decided',
  linkMatch: 'linked',
  unlink: 'unlinked',
  stop: 'stopped',
}
const dayOf = (atMs: number): string => dateAt(atMs, zone.value)
const dayAbove = (i: number): string => {
  const before = view.value?.lines[i - 1]
  return before ? dayOf(before.atMs) : ''
}
/** The task whose text is read in full. */
const open = ref<string | null>(null)
const SPANS = [
  ['30', '30 days'],
  ['90', '90 days'],
  ['180', 'half a year'],
  ['365', 'a year'],
] as const
const ownerWord = (key: string): string => (key.startsWith('queue of') ? key : store.personName(key))
useKeys({
  r: () => {
    if (state.value !== 'running') void begin()
  },
})
function takeRule(id: number): void {
  addRule.value = false
  go({ rules: [...chosen.value, id].join(',') })
}
/** Over what really happened, in place of what is assumed. */
function goThroughPast(): void {
  go({ back: '1' })
  void nextTick(begin)
}
</script>

<template>
  <div class="flex h-full min-h-0 flex-col px-8 pt-4">
    <div class="flex flex-none flex-wrap items-baseline gap-x-4 gap-y-1">
      <h1>Rehearsal</h1>
      <p class="quiet">A copy of your records and a clock that jumps: nothing is written, and nothing leaves.</p>
      <NuxtLink to="/cases" class="button ml-auto">Cases</NuxtLink>
    </div>
    <div
      class="mt-2 flex-none border-b border-ink2 pb-3 font-serif text-[18px] leading-relaxed"
      role="group"
      aria-label="What is rehearsed"
    >
      Rehearse
      <template v-for="(rule, i) in picked" :key="rule.id"
        ><template v-if="i">, </template
        ><NuxtLink :to="`/rules/${rule.id}`" class="name-link font-semibold text-violet">{{ rule.name }}</NuxtLink
        ><button
          v-if="picked.length > 1"
          type="button"
          class="quiet px-1 font-sans"
          :aria-label="`Without ${rule.name}`"
          @click="go({ rules: chosen.filter((one) => one !== rule.id).join(',') })"
        >
          ×
        </button></template
      >
      {{ ' '
      }}<button
        type="button"
        class="word"
        :data-missing="picked.length === 0 ? '' : undefined"
        data-word="rehearse/rule"
        @click="addRule = !addRule"
      >
        {{ picked.length === 0 ? 'which rule' : 'and another' }}
      </button>
      <PopOver v-if="addRule" anchor="[data-word='rehearse/rule']" label="Which rule" @close="addRule = false"
        ><OptionList :options="options" label="Rule" placeholder="Which rule?" @pick="takeRule(Number($event))"
      /></PopOver>
      on
      <select
        class="entry"
        aria-label="On which records"
        :value="who"
        :disabled="record !== null"
        @change="go({ who: ($event.target as HTMLSelectElement).value })"
      >
        <option value="all">all {{ OBJECT_WORDS[object].many }}</option>
        <option value="matching">the {{ OBJECT_WORDS[object].many }} that match now</option>
        <option v-if="record" value="one">{{ OBJECT_WORDS[object].one }} {{ record }}</option>
      </select>
      <button
        v-if="record"
        type="button"
        class="quiet px-1 font-sans"
        aria-label="On all of them"
        @click="go({ record: undefined })"
      >
        ×
      </button>
      {{ back ? 'over the past' : 'for the next' }}
      <select
        class="entry"
        aria-label="How long"
        :value="String(days)"
        @change="go({ days: ($event.target as HTMLSelectElement).value })"
      >
        <option v-for="[value, label] in SPANS" :key="value" :value="value">{{ label }}</option>
      </select>
      <label class="ml-3 inline-flex items-center gap-1.5 font-sans text-[14px]"
        ><input
          type="checkbox"
          :checked="back"
          @change="go({ back: ($event.target as HTMLInputElement).checked ? '1' : undefined })"
        />
        what really happened, again</label
      >
      <label class="ml-3 inline-flex items-center gap-1.5 font-sans text-[14px]"
        ><input
          type="checkbox"
          :checked="compare"
          @change="go({ compare: ($event.target as HTMLInputElement).checked ? '1' : undefined })"
        />
        beside the version that runs</label
      >
      <span v-for="(line, i) in script" :key="i" class="ml-2"
        >, assuming that {{ sayAssumed(line)
        }}<button
          type="button"
          class="quiet px-1 font-sans"
          :aria-label="`Without: ${sayAssumed(line)}`"
          @click="script = script.filter((_, at) => at !== i)"
        >
          ×
        </button></span
      >
      {{ ' '
      }}<button
        v-if="picked.length > 0"
        type="button"
        class="font-serif text-[15px] text-ink2 italic hover:text-ink"
        data-word="rehearse/assume"
        @click="assuming = !assuming"
      >
        assume that …
      </button>
      <PopOver v-if="assuming" anchor="[data-word='rehearse/assume']" label="What is assumed" @close="assuming = false">
        <p class="flex items-center gap-2">
          on day
          <input
            v-model.number="given.day"
            class="entry w-16"
            type="number"
            min="0"
            :max="days"
            aria-label="Day"
            @vue:mounted="($event.el as HTMLElement).focus()"
          />
          at <input v-model="given.time" class="entry w-16" aria-label="Time" />
        </p>
        <select v-model="given.field" class="entry mt-2 w-full" aria-label="Which field">
          <option value="">which field?</option>
          <option v-for="field in fields" :key="field.key" :value="field.key">{{ field.label }}</option>
        </select>
        <div v-if="givenField" class="mt-2">
          <OptionList
            v-if="givenField.type === 'stage'"
            :options="
              store.catalogue.pipelines.flatMap((pipeline) =>
                pipeline.stages.map((stage) => ({ value: stage.id, label: stage.name, group: pipeline.name })),
              )
            "
            label="Stage"
            placeholder="becomes …"
            @pick="assume($event)"
          /><ValueEditor v-else :key="given.field" :field="givenField" :value="null" @set="assume($event)" />
        </div>
      </PopOver>
      <span class="ml-4 inline-flex items-center gap-2 align-middle font-sans">
        <button
          v-if="state !== 'running'"
          type="button"
          class="button main"
          :disabled="picked.length === 0"
          data-begin
          @click="begin"
        >
          Rehearse <kbd>R</kbd>
        </button>
        <template v-else
          ><progress class="h-2 w-40" :value="progress" max="1" aria-label="How far it has come" /><button
            type="button"
            class="button"
            data-stop
            @click="stop"
          >
            Stop
          </button></template
        >
      </span>
    </div>
    <p v-if="state === 'failed'" class="mt-4 rounded-[3px] bg-brick-t px-3 py-2 text-brick" role="alert">
      The rehearsal came to no end: {{ trouble }}
    </p>
    <p v-else-if="!view && state === 'running'" class="mt-16 text-center font-serif text-[20px]" aria-live="polite">
      Going through {{ back ? 'the past' : 'the next' }} {{ days }} days …
    </p>
    <p v-else-if="!view" class="mt-16 text-center font-serif text-[20px]">
      {{ picked.length === 0 ? 'Choose a rule to rehearse.' : 'Press R: it takes seconds.' }}
    </p>
    <div v-if="view" class="grid min-h-0 flex-1 grid-cols-[minmax(0,1.7fr)_minmax(0,1fr)] gap-8 pt-3">
      <section class="flex min-h-0 flex-col" aria-label="What would happen">
        <p class="flex flex-none flex-wrap gap-6 text-[13px] text-ink2" aria-live="polite" data-rehearsed>
          <span
            v-for="[n, label] in [
              [view.counts.records, OBJECT_WORDS[object].many],
              [view.counts.tasks, 'tasks'],
              [view.counts.sends, 'mails'],
              [view.counts.notices, 'people told'],
              [view.keptOut, 'kept out by Only if'],
            ] as const"
            :key="label"
            ><b class="block font-serif text-[22px] leading-none font-medium text-ink">{{ n.toLocaleString('en') }}</b
            >{{ label }}</span
          >
          <span class="ml-auto self-end"
            >{{ sayDate(dayOf(view.fromMs)) }} to {{ sayDate(dayOf(view.endMs))
            }}<template v-if="state === 'stopped'">, stopped there</template
            ><template v-else-if="view.cut">, cut: {{ view.cut }}</template></span
          >
        </p>
        <p v-if="only || day || owner" class="mt-2 flex flex-none gap-2">
          <button v-if="only" type="button" class="button py-0.5!" @click="go({ only: undefined })">
            {{ view.lines[0]?.recordName ?? 'one record' }} ×</button
          ><button v-if="day" type="button" class="button py-0.5!" @click="go({ day: undefined })">
            {{ sayWeekday(day) }} ×</button
          ><button v-if="owner" type="button" class="button py-0.5!" @click="go({ owner: undefined })">
            {{ ownerWord(owner) }} ×
          </button>
        </p>
        <ol
          class="mt-2 min-h-0 flex-1 overflow-auto pb-16"
          tabindex="0"
          aria-label="In the order in which it would happen"
        >
          <li
            v-for="(line, i) in view.lines"
            :key="line.key"
            class="grid grid-cols-[142px_22px_minmax(0,1fr)] gap-x-2 text-[14px]"
            data-line-of-rehearsal
          >
            <span
              class="pt-1 text-right text-[12.5px] leading-tight whitespace-nowrap text-saffron"
              :title="sayInstant(line.atMs, zone)"
              ><template v-if="dayAbove(i) !== dayOf(line.atMs)"
                >{{ sayWeekday(dayOf(line.atMs))
                }}<template v-if="dayOf(line.atMs).slice(0, 4) !== store.today.slice(0, 4)"
                  >&nbsp;{{ dayOf(line.atMs).slice(0, 4) }}</template
                >, </template
              >{{ sayTime(line.atMs, zone) }}</span
            >
            <span class="relative"
              ><span class="rail" /><span
                class="mark absolute top-2 left-[5px]"
                :class="line.kind === 'start' ? 'start' : line.state === 'failed' ? 'stop' : line.hue"
                aria-hidden="true"
            /></span>
            <span class="min-w-0 py-0.5">
              <template v-if="line.kind === 'start'"
                ><button
                  type="button"
                  class="name-link font-serif text-[16px]"
                  :title="`Only ${line.recordName}`"
                  @click="go({ only: only ? undefined : String(line.ref.id) })"
                >
                  {{ line.recordName }}
                </button>
                <button
                  type="button"
                  class="name-link font-semibold text-violet"
                  :title="`${line.recordName}’s way through the sheet`"
                  data-see-way
                  @click="way(line.runId)"
                >
                  {{ line.ruleName }}
                </button>
                <i class="font-serif text-ink2">because {{ line.say }}</i></template
              >
              <template v-else
                ><button
                  v-if="line.task"
                  type="button"
                  class="text-left hover:underline"
                  :aria-expanded="open === line.key"
                  @click="open = open === line.key ? null : line.key"
                >
                  <span class="mr-1.5 text-[12.5px] font-semibold text-ink2">{{ line.label }}</span>{{
                    line.say
                  }}</button
                ><span v-else-if="line.label" class="mr-1.5 text-[12.5px] font-semibold text-ink2">{{
                  line.label
                }}</span
                ><span
                  v-if="!line.task"
                  :class="line.state === 'failed' ? 'text-brick' : line.state === 'skipped' ? 'text-ink2' : ''"
                  >{{ line.say }}</span
                ><span v-if="dayAbove(i) !== dayOf(line.atMs) || view.lines[i - 1]?.runId !== line.runId" class="quiet">
                  · {{ line.recordName }}</span
                ></template
              >
              <span v-if="line.task && open === line.key" class="mt-1 block rounded-[3px] bg-paper2 px-3 py-2"
                ><b class="font-serif text-[16px] font-medium">{{ line.task.title }}</b
                ><br /><span class="quiet"
                  >for
                  {{
                    line.task.assigneeId ? store.personName(line.task.assigneeId) : `the queue of ${line.task.queue}`
                  }}, due {{ sayDate(line.task.due) }}</span
                ><span v-if="line.task.notes" class="block whitespace-pre-line">{{ line.task.notes }}</span
                ><NuxtLink :to="recordPath(line.ref)" class="word">Open {{ line.recordName }}</NuxtLink></span
              >
            </span>
          </li>
          <li v-if="view.lines.length === 0" class="py-12 text-center font-serif text-[18px]">
            {{ only || day || owner ? 'Nothing happens here.' : 'Nothing would happen in this time.' }}
            <p v-if="!only && !day && !owner && !back && script.length === 0" class="quiet mt-2 font-sans">
              A rule that starts on a change needs one:
              <button type="button" class="word" @click="assuming = true">assume that it comes</button>, or go through
              <button type="button" class="word" @click="goThroughPast">what really happened</button>.
            </p>
          </li>
          <li v-else-if="view.total > view.lines.length" class="quiet py-2 pl-36">
            The first {{ view.lines.length }} of {{ view.total.toLocaleString('en') }}: choose a day, an owner or a
            record for the others.
          </li>
        </ol>
      </section>
      <aside v-if="sheet" class="min-h-0 overflow-auto bg-paper2 px-5 pt-3 pb-12" aria-label="One record" tabindex="0">
        <RehearsedRun :sheet="sheet" @close="sheet = null" @next="wayOf" />
      </aside>
      <aside v-else class="min-h-0 overflow-auto bg-paper2 px-5 pt-3 pb-12" aria-label="In all" tabindex="0">
        <div v-if="!back && taking.length > 0 && store.may('build')" class="mb-3">
          <button
            v-if="naming === null"
            type="button"
            class="button"
            data-keep-case
            @click="
              naming = `${picked[0]?.name ?? ''}: ${taking.length === 1 ? view.lines[0]?.recordName : `${taking.length} ${OBJECT_WORDS[object].many}`}`
            "
          >
            Keep as a case …
          </button>
          <form
            v-else
            class="rounded-[3px] bg-paper px-3 py-2"
            @submit.prevent="keepCase"
            @keydown.escape="naming = null"
          >
            <label class="quiet block"
              >the case is called<br /><input
                v-model="naming"
                class="entry w-full"
                maxlength="300"
                @vue:mounted="($event.el as HTMLInputElement).select()"
            /></label>
            <p class="quiet mt-1">
              {{ taking.length === 1 ? 'This record' : `The first ${taking.length} of these records` }} as
              {{ taking.length === 1 ? 'it is' : 'they are' }} now, with what is linked, and what comes is expected from
              now on. It runs again before the rule is published.
            </p>
            <p class="mt-2 flex gap-2">
              <button type="submit" class="button main">Keep</button
              ><button type="button" class="button" @click="naming = null">Not now</button>
            </p>
          </form>
        </div>
        <template v-if="view.warnings.length > 0"
          ><h2 class="text-[17px]!">To look at</h2>
          <ul class="mt-1 mb-4 space-y-1.5">
            <li
              v-for="warning in view.warnings"
              :key="warning.text"
              class="rounded-[3px] px-2.5 py-1.5"
              :class="
                warning.kind === 'never'
                  ? 'bg-slate-t text-slate'
                  : warning.kind === 'failed' || warning.kind === 'cut'
                    ? 'bg-brick-t text-brick'
                    : 'bg-saffron-t text-saffron'
              "
              data-warning
            >
              {{ warning.text }}
              <button v-if="warning.ref" type="button" class="word" @click="go({ only: String(warning.ref.id) })">
                look
              </button>
            </li>
          </ul></template
        >
        <template v-if="view.compared">
          <h2 class="text-[17px]!">Beside the version that runs</h2>
          <p class="mt-1" data-compared>
            {{ view.compared.same }} the same · {{ view.compared.onlyLeft }} only by the version that runs ·
            {{ view.compared.onlyRight }} only by the draft · {{ view.compared.different }} otherwise
          </p>
          <details
            v-for="one in view.compared.records.slice(0, 60)"
            :key="`${one.ref.object}${one.ref.id}`"
            class="border-b border-hair py-1"
          >
            <summary class="cursor-pointer">
              <b class="font-medium">{{ one.recordName }}</b>
              <span class="quiet">{{
                one.how === 'left'
                  ? 'only by the version that runs'
                  : one.how === 'right'
                    ? 'only by the draft'
                    : 'otherwise'
              }}</span>
            </summary>
            <div class="grid grid-cols-2 gap-3 py-1 text-[13px]">
              <div>
                <p class="quiet">runs now</p>
                <p v-for="(line, i) in one.left" :key="i">{{ line }}</p>
                <p v-if="one.left.length === 0" class="quiet">nothing</p>
              </div>
              <div>
                <p class="quiet">draft</p>
                <p v-for="(line, i) in one.right" :key="i">{{ line }}</p>
                <p v-if="one.right.length === 0" class="quiet">nothing</p>
              </div>
            </div>
          </details>
        </template>
        <h2 class="mt-3 text-[17px]!">By day</h2>
        <p v-if="view.byDay.length === 0" class="quiet">Nothing on any day.</p>
        <ul class="mt-1">
          <li
            v-for="[on, n] in view.byDay.slice(0, 60)"
            :key="on"
            class="grid grid-cols-[96px_minmax(0,1fr)_40px] items-center gap-2 text-[13px] tabular-nums"
          >
            <button type="button" class="name-link text-left" @click="go({ day: day === on ? undefined : on })">
              {{ sayWeekday(on) }}</button><span
              class="h-2.5 bg-saffron"
              :style="{ width: `${(100 * n) / most}%` }"
              aria-hidden="true"
            /><span class="text-right">{{ n }}</span>
          </li>
        </ul>
        <h2 class="mt-4 text-[17px]!">Whose</h2>
        <ul>
          <li v-for="[who_, n] in view.byOwner" :key="who_" class="flex justify-between text-[13px]">
            <button
              v-if="!who_.startsWith('queue of')"
              type="button"
              class="name-link"
              @click="go({ owner: owner === who_ ? undefined : who_ })"
            >
              {{ ownerWord(who_) }}</button><span v-else>{{ who_ }}</span
            ><span class="tabular-nums">{{ n }} {{ n === 1 ? 'task' : 'tasks' }}</span>
          </li>
        </ul>
        <h2 class="mt-4 text-[17px]!">What</h2>
        <ul>
          <li v-for="[kind, n] in view.byKind" :key="kind" class="flex justify-between text-[13px]">
            <span>{{ KINDS[kind] ?? kind }}</span><span class="tabular-nums">{{ n }}</span>
          </li>
        </ul>
      </aside>
    </div>
  </div>
</template>

<style scoped>
.rail {
  position: absolute;
  left: 9px;
  top: 0;
  bottom: 0;
  width: 4px;
  background: repeating-linear-gradient(180deg, var(--saffron) 0 5px, transparent 5px 9px);
}
</style>
