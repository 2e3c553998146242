<script setup lang="ts">
import { ruleToText } from '#core/formats/rule-text'
import { sayProblem } from '#core/language/problems'
import { OBJECT_WORDS, OBJECTS } from '#core/records/kinds'
import { sayInstant } from '#core/time/say'
import type { Finding } from '#core/rules/check'
import { EMPTY_GROUP } from '#core/conditions/document'
import { saveText } from '~/shared/api/saveText'
import { read, send, attempt } from '~/shared/api/api'
import { useRuleDraft } from './useRuleDraft'
import { useCatalogue } from '~/shared/stores/catalogue'
import { useNotices } from '~/shared/stores/notices'
import PopOver from '~/shared/words/PopOver.vue'
import RuleWork from './RuleWork.vue'
import RuleSheet from './RuleSheet.vue'
import RuleUndo from './RuleUndo.vue'
import EvidencePane from './EvidencePane.vue'
import { useLiveQuery, orFail } from '~/shared/live/useLiveQuery'

const route = useRoute()
const id = Number(route.params.id)
const store = useCatalogue()
const { data: facts, refresh } = await orFail(
  useLiveQuery('/api/v1/rules/:id', { params: { id }, changedBy: ['rules', 'run'] }),
  `There is no rule ${id}.`,
)
const editable = store.may('build') && facts.value.state !== 'archived'
const draft = useRuleDraft(id, { draft: facts.value.draft, rev: facts.value.draftRev }, editable)
watch(facts, (now) => draft.follow({ draft: now.draft, rev: now.draftRev }))
const rule = draft.document
useHead({ title: () => rule.value.name })

const ways = shallowRef<readonly string[] | null>(null)
const gone = computed(() => (ways.value ? new Set(ways.value) : null))
const missId = ref<string | null>(null)
const sheet = useTemplateRef<{
  open: (path: string, param: string) => void
  edit: (path: string, param: string) => void
}>('sheet')
const pane = useTemplateRef<{ showFindings: () => void }>('pane')
const { findings } = draft
const asking = ref(false)
const note = ref('')
const through = ref(false)
/** What its cases come to by what is written now. */
const caseRuns = shallowRef<
  readonly { readonly id: number; readonly name: string; readonly wrong: readonly string[] }[] | null
>(null)
const otherwise = computed(() => (caseRuns.value ?? []).filter((one) => one.wrong.length > 0))
const anyway = ref(false)
/** What becomes of runs that wait when another version is published. */
const waitingGo = ref<'finish' | 'move' | 'end'>('finish')
const undoing = ref(false)
/** A rule that somebody starts by hand waits for that. */
const canLetThrough = computed(
  () => (draft.evidence.value?.matched ?? 0) > 0 && rule.value.triggers.some((trigger) => trigger.kind !== 'byHand'),
)
const changes = shallowRef<readonly string[]>([])
const warned = computed(
  () => draft.noted.value.filter((finding) => finding.accepted === null && finding.severity !== 'note').length,
)

const changed = computed(() => facts.value.unpublished || draft.past.value.length > 0)
const stateWord = computed(() => {
  const { state, version } = facts.value
  if (state === 'draft') return 'Draft · never on'
  return `${state === 'on' ? 'On' : state === 'off' ? 'Off' : 'Archived'} · version ${version}${facts.value.unpublished ? ' · edited since' : ''}`
})
const saveWord = computed(
  () =>
    ({
      saved: '',
      saving: 'saving …',
      waiting: 'saving …',
      conflict: 'somebody else saved: reload to see it',
      offline: 'not saved yet',
    })[draft.save.value],
)

function mend(finding: Pick<Finding, 'part' | 'id' | 'param'>): void {
  if (finding.part === 'rule') sheet.value?.open(finding.param === 'triggers' ? 'add:trigger' : 'add:step', 'kind')
  else if (finding.part === 'branch')
    document.querySelector<HTMLElement>(`[data-line="branch:${finding.id}"] [data-word]`)?.focus()
  else sheet.value?.edit(`${finding.part}:${finding.id}`, finding.param)
}

async function ask(): Promise<void> {
  if (findings.value.length > 0) {
    pane.value?.showFindings()
    return
  }
  note.value = ''
  through.value = false
  waitingGo.value = 'finish'
  changes.value = []
  asking.value = true
  anyway.value = false
  caseRuns.value = null
  void attempt(async () => {
    caseRuns.value = (
      await send<{ cases: { id: number; name: string; wrong: string[] }[] }>('POST', '/api/v1/cases/runs', {
        rule: id,
        document: rule.value,
      })
    ).cases
  })
  // What is still being typed goes to the server first, so that the words are those of what will be published.
  if (facts.value.version !== null && (await draft.settle()))
    changes.value = (
      await read<{ draft: readonly string[] }>(`/api/v1/rules/${id}/versions`).catch(() => ({ draft: [] }))
    ).draft
}

async function removeForGood(): Promise<void> {
  if (await attempt(() => send('DELETE', `/api/v1/rules/${id}`))) await navigateTo('/rules')
}

/** Where the rule goes while runs wait in it: they finish, or end. */
const leaving = ref<'off' | 'archived' | null>(null)
async function leave(state: 'off' | 'archived'): Promise<void> {
  await refresh()
  if (facts.value.waiting > 0) leaving.value = state
  else await setState(state)
}
/** Tries the draft on a copy of the records, with everything that was typed. */
async function rehearse(): Promise<void> {
  if (findings.value.length > 0) pane.value?.showFindings()
  else if (await draft.settle()) await navigateTo(`/rehearsal?rules=${id}&go=1`)
}
async function setState(
  state: 'on' | 'off' | 'archived',
  waiting: 'finish' | 'end' | 'move' = 'finish',
): Promise<void> {
  asking.value = false
  leaving.value = null
  if (!(await draft.settle())) return
  if (
    await attempt(() =>
      send('POST', `/api/v1/rules/${id}/state`, {
        state,
        waiting,
        ...(state === 'on' ? { note: note.value, through: through.value, anyway: anyway.value } : {}),
      }),
    )
  )
    await refresh()
}

/** What is being typed as the name: kept here, so that a page that reads itself anew does not take it back. */
const typed = ref<string | null>(null)

function rename(): void {
  const name = typed.value?.trim()
  if (name) draft.set({ ...rule.value, name })
  typed.value = null
}
/** The rule as text: to be read, kept as a file, or taken from one. */
const asText = ref(false)
async function copyWords(): Promise<void> {
  await navigator.clipboard.writeText(ruleToText(rule.value, store.catalogue))
  asText.value = false
  useNotices().tell({ tone: 'plain', title: 'Copied', text: 'The rule as text to be read.' })
}
async function keepFile(as: 'yaml' | 'json'): Promise<void> {
  const { ruleToJson, ruleToYaml } = await import('#core/formats/rule-text')
  saveText(
    as === 'yaml' ? ruleToYaml(rule.value) : ruleToJson(rule.value),
    `rule-${id}.${as}`,
    as === 'yaml' ? 'application/yaml' : 'application/json',
  )
  asText.value = false
}
async function fromFile(event: Event): Promise<void> {
  const file = (event.target as HTMLInputElement).files?.[0]
  asText.value = false
  if (!file) return
  const { readRuleText } = await import('#core/formats/rule-text')
  const found = readRuleText(await file.text())
  if (!found.ok) useNotices().tell({ tone: 'wrong', title: 'The file cannot be read', text: sayProblem(found.problem) })
  else if (found.value.object !== rule.value.object && facts.value.version !== null)
    useNotices().tell({
      tone: 'wrong',
      title: 'Not taken',
      text: 'The kind of record of a rule that has run cannot change.',
    })
  else draft.set(found.value)
}
const started = computed(() => Object.values(draft.evidence.value?.started ?? {}).reduce((sum, n) => sum + n, 0))
const canSwitchObject = computed(
  () =>
    editable &&
    facts.value.version === null &&
    rule.value.triggers.length + rule.value.steps.length + rule.value.conditions.items.length === 0,
)
function lookAtFindings(): void {
  asking.value = false
  pane.value?.showFindings()
}
</script>

<template>
  <div class="grid h-full grid-cols-[minmax(0,3fr)_minmax(0,2fr)]">
    <section class="relative min-h-0 overflow-auto border-r border-hair px-6 pt-4 pb-16" tabindex="-1">
      <div class="flex items-start gap-4">
        <div class="min-w-0 flex-1">
          <h1 class="sr-only">{{ rule.name }}</h1>
          <input
            v-if="editable"
            :value="typed ?? rule.name"
            class="-ml-1 w-full truncate rounded-[3px] bg-transparent px-1 font-serif text-[27px] leading-tight font-medium tracking-tight hover:bg-paper2"
            aria-label="Name of the rule"
            maxlength="200"
            @input="typed = ($event.target as HTMLInputElement).value"
            @change="rename"
          />
          <p v-else class="font-serif text-[27px] font-medium">{{ rule.name }}</p>
        </div>
        <button type="button" class="button flex-none" data-as-text :aria-expanded="asText" @click="asText = !asText">
          As text …
        </button>
        <PopOver v-if="asText" anchor="[data-as-text]" label="The rule as text" @close="asText = false">
          <div class="flex flex-col items-start gap-1.5 p-1 text-[14px]">
            <button type="button" class="word" @vue:mounted="($event.el as HTMLElement).focus()" @click="copyWords">
              Copy it to be read
            </button>
            <button type="button" class="word" @click="keepFile('yaml')">Keep it as a YAML file</button>
            <button type="button" class="word" @click="keepFile('json')">Keep it as a JSON file</button>
            <label v-if="editable" class="word cursor-pointer focus-within:outline-2"
              >Take it from a file<input type="file" class="sr-only" accept=".yaml,.yml,.json" @change="fromFile"
            /></label>
            <span class="quiet"
              >A file of either kind follows
              <a class="word" href="/api/v1/rule-schema" download="rule.schema.json">one schema</a>.</span
            >
          </div>
        </PopOver>
        <div v-if="store.may('build')" class="flex flex-none gap-2">
          <button v-if="facts.state !== 'archived'" type="button" class="button" data-rehearse @click="rehearse">
            Rehearse
          </button>
          <button v-if="facts.state === 'on'" type="button" class="button" @click="leave('off')">Switch off</button>
          <button v-if="facts.state === 'on' && changed" type="button" class="button main" data-switch-on @click="ask">
            Publish …
          </button>
          <button
            v-if="facts.state === 'draft' || facts.state === 'off'"
            type="button"
            class="button main"
            data-switch-on
            @click="ask"
          >
            Switch on …
          </button>
          <button
            v-if="facts.state === 'draft' || facts.state === 'off'"
            type="button"
            class="button"
            @click="leave('archived')"
          >
            Archive
          </button>
          <button
            v-if="facts.state === 'archived'"
            type="button"
            class="button"
            @click="setState('off').then(() => reloadNuxtApp())"
          >
            Restore
          </button>
          <button
            v-if="facts.state === 'archived' && facts.version === null"
            type="button"
            class="button"
            @click="removeForGood"
          >
            Delete for good
          </button>
        </div>
      </div>
      <p class="quiet mt-1.5 mb-3 flex flex-wrap items-center gap-x-3 gap-y-1">
        <span
          class="rounded-sm border px-2 py-px font-semibold"
          :class="facts.state === 'on' ? 'border-moss text-moss' : 'border-ink text-ink'"
          data-state
          >{{ stateWord }}</span
        >
        <select
          v-if="canSwitchObject"
          class="entry py-0.5!"
          aria-label="Kind of record"
          :value="rule.object"
          @change="
            draft.set({
              ...rule,
              object: ($event.target as HTMLSelectElement).value as typeof rule.object,
              conditions: EMPTY_GROUP,
            })
          "
        >
          <option v-for="object in OBJECTS" :key="object" :value="object">{{ OBJECT_WORDS[object].many }}</option>
        </select>
        <span v-else>{{ OBJECT_WORDS[rule.object].many }}</span>
        <span
          >{{ store.personName(facts.changedBy) }},
          {{ sayInstant(facts.changedAt, store.catalogue.workspace.zone) }}</span
        >
        <NuxtLink :to="`/journal?rule=${id}`" class="name-link">{{
          facts.runs === 0
            ? 'never run'
            : facts.runs === 1
              ? 'ran once'
              : `ran ${facts.runs.toLocaleString('en')} times`
        }}</NuxtLink>
        <span
          aria-live="polite"
          :class="draft.save.value === 'conflict' || draft.save.value === 'offline' ? 'text-brick' : ''"
          >{{ saveWord }}</span
        >
        <NuxtLink v-if="facts.cases > 0" :to="`/cases?rule=${id}`" class="name-link">{{
          facts.cases === 1 ? 'one case' : `${facts.cases} cases`
        }}</NuxtLink>
        <NuxtLink v-if="facts.waiting > 0" :to="`/ahead?rule=${id}`" class="name-link text-saffron"
          >{{ facts.waiting }} waiting</NuxtLink
        >
        <button v-if="store.may('build') && facts.runs > 0" type="button" class="name-link" @click="undoing = true">
          take back what it did …
        </button>
        <span v-if="!store.may('build')">You can read this rule; specialists change it.</span>
      </p>
      <Suspense><RuleWork :rule-id="id" :editable="store.may('build')" /></Suspense>
      <RuleSheet ref="sheet" :draft="draft" :editable="editable" :miss-id="missId" :gone="gone" />

      <section
        v-if="leaving"
        class="mt-3 rounded-[3px] bg-saffron-t px-3 py-2"
        role="alertdialog"
        aria-label="Runs wait in it"
        data-leaving
        @keydown.escape="leaving = null"
      >
        <p>
          <b class="font-semibold">{{
            facts.waiting === 1 ? 'One run waits' : `${facts.waiting.toLocaleString('en')} runs wait`
          }}</b>
          in this rule.
          <NuxtLink :to="`/ahead?rule=${id}`" class="word">Look at {{ facts.waiting === 1 ? 'it' : 'them' }}</NuxtLink>
        </p>
        <p class="mt-2 flex flex-wrap gap-2">
          <button
            type="button"
            class="button main"
            @vue:mounted="($event.el as HTMLElement).focus()"
            @click="setState(leaving, 'finish')"
          >
            Let {{ facts.waiting === 1 ? 'it' : 'them' }} finish</button
          ><button type="button" class="button" @click="setState(leaving, 'end')">
            End {{ facts.waiting === 1 ? 'it' : 'them' }} now</button
          ><button type="button" class="button" @click="leaving = null">Leave it on</button>
        </p>
      </section>
      <RuleUndo v-if="undoing" :rule-id="id" @close="undoing = false" @begun="undoing = false" />
      <div
        v-if="asking"
        class="pop absolute top-16 right-6 z-30 w-[400px] p-4"
        role="dialog"
        aria-label="Switch the rule on"
        @keydown.escape="asking = false"
      >
        <h2>{{ facts.state === 'on' ? 'Publish this version?' : 'Switch it on?' }}</h2>
        <p class="mt-2">
          From now on it starts when
          {{ rule.triggers.length === 1 ? 'its start happens' : 'any of its starts happens' }}:
          <b>{{ started }} {{ started === 1 ? 'time' : 'times' }}</b> in the last 30 days.
          <b>{{ draft.evidence.value?.matched }} of {{ draft.evidence.value?.total }}</b>
          {{ OBJECT_WORDS[rule.object].many }} would get past its conditions today.
        </p>
        <p class="mt-2">
          Nothing happens to records that are there until they change<template v-if="!canLetThrough">.</template
          ><template v-else>, unless you let them through:</template>
        </p>
        <label v-if="canLetThrough" class="mt-1 flex items-baseline gap-2"
          ><input v-model="through" type="checkbox" data-through /><span
            >let the <b>{{ draft.evidence.value?.matched.toLocaleString('en') }}</b> through that match now
            <span class="quiet">(listed beside the sheet)</span></span
          ></label
        >
        <p v-if="warned > 0" class="mt-2 rounded-[3px] bg-saffron-t px-2 py-1 text-saffron">
          Preflight found {{ warned }} {{ warned === 1 ? 'thing' : 'things' }} to look at first.
          <button type="button" class="word" @click="lookAtFindings">Look</button>
        </p>
        <div v-if="changes.length > 0" class="mt-2 max-h-40 overflow-auto">
          <p class="font-semibold">Since version {{ facts.version }}</p>
          <ul>
            <li v-for="line in changes" :key="line" class="font-serif text-[15px]">{{ line }}</li>
          </ul>
        </div>
        <label v-if="facts.waiting > 0 && facts.state === 'on'" class="mt-2 block"
          ><b class="font-semibold">{{
            facts.waiting === 1 ? 'One run waits' : `${facts.waiting.toLocaleString('en')} runs wait`
          }}</b>
          in the version that runs:
          <select v-model="waitingGo" class="entry" aria-label="Runs that wait" data-waiting>
            <option value="finish">finish by that version</option>
            <option value="move">go on by this one, where it has their step</option>
            <option value="end">end now</option>
          </select></label
        >
        <p v-if="caseRuns && caseRuns.length > 0 && otherwise.length === 0" class="mt-2 text-moss" data-cases>
          {{ caseRuns.length === 1 ? 'Its case comes' : `All its ${caseRuns.length} cases come` }} as expected.
        </p>
        <div
          v-else-if="otherwise.length > 0"
          class="mt-2 max-h-44 overflow-auto rounded-[3px] bg-brick-t px-2 py-1 text-brick"
          data-cases
        >
          <p v-for="one in otherwise" :key="one.id">
            <b class="font-semibold">{{ one.name }}</b> comes otherwise: {{ one.wrong[0]
            }}<template v-if="one.wrong.length > 1"> and {{ one.wrong.length - 1 }} more</template>
          </p>
          <p class="flex items-baseline gap-3">
            <NuxtLink :to="`/cases?rule=${id}`" class="word"
              >Look at {{ otherwise.length === 1 ? 'it' : 'them' }}</NuxtLink
            ><label class="text-ink"><input v-model="anyway" type="checkbox" data-anyway /> that is meant</label>
          </p>
        </div>
        <label class="quiet mt-2 block"
          >a note for later<br /><input
            v-model="note"
            class="entry w-full"
            maxlength="500"
            placeholder="why it is as it is"
            @keydown.enter="setState('on', waitingGo)"
        /></label>
        <div class="mt-4 flex gap-2">
          <button
            type="button"
            class="button main"
            data-confirm
            :disabled="otherwise.length > 0 && !anyway"
            @vue:mounted="($event.el as HTMLElement).focus()"
            @click="setState('on', waitingGo)"
          >
            {{ facts.state === 'on' ? 'Publish' : 'Switch on' }}
          </button>
          <button type="button" class="button" @click="asking = false">Not yet</button>
        </div>
      </div>
    </section>
    <EvidencePane
      ref="pane"
      :rule-id="id"
      :editable="editable"
      :draft="draft"
      @look="missId = $event"
      @ways="ways = $event"
      @mend="mend"
    />
  </div>
</template>
