<script setup lang="ts">
import { count, countOrNone } from '#core/language/counts'
import { OBJECT_WORDS, RULE_OBJECTS } from '#core/records/kinds'
import { sayInstant } from '#core/time/say'
import type { Finding } from '#core/rules/check'
import { EMPTY_GROUP } from '#core/conditions/document'
import type { RuleDocument } from '#core/rules/document'
import { send, attempt } from '~/shared/api/api'
import { once } from '~/shared/api/once'
import { useKeys } from '~/shared/keys/useKeys'
import { useSpoken } from '~/shared/keys/useSpoken'
import { useRuleDraft } from './useRuleDraft'
import { useCatalogue } from '~/shared/stores/catalogue'
import RuleWork from './RuleWork.vue'
import RuleSheet from './RuleSheet.vue'
import EvidencePane from './EvidencePane.vue'
import type { PublishChoice } from './publishChoice'
import RuleAbout from './RuleAbout.vue'
import { loadEngines } from './engines'
import { useLiveQuery, orFail } from '~/shared/live/useLiveQuery'
import { onceReady } from '~/shared/onceReady'

const RuleUndo = onceReady(() => import('./RuleUndo.vue'))
const LeaveDialog = onceReady(() => import('./LeaveDialog.vue'))
const PublishDialog = onceReady(() => import('./PublishDialog.vue'))
const RuleAsText = onceReady(() => import('./RuleAsText.vue'))
const TwoDrafts = onceReady(() => import('./TwoDrafts.vue'))

const route = useRoute()
const id = Number(route.params.id)
const store = useCatalogue()
const { data: facts, refresh } = await orFail(
  useLiveQuery('/api/v1/rules/:id', { params: { id }, changedBy: ['rules', 'run'] }),
  `Rule ${id} does not exist.`,
)
await loadEngines(facts.value.draft)
const editable = store.may('build') && facts.value.state !== 'archived' && !facts.value.draftUnreadable
const draft = useRuleDraft(id, { draft: facts.value.draft, rev: facts.value.draftRev }, editable)
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
const undoing = ref(false)
/** What ran last, or stood here first: anything else on the sheet is a change, known before the server has it. */
const settled = shallowRef(draft.document.value)
const changed = computed(() => facts.value.unpublished || draft.document.value !== settled.value)
const stateWord = computed(() => {
  const { state, version } = facts.value
  if (state === 'draft') return 'Draft, never switched on'
  return `${state === 'on' ? 'On' : state === 'off' ? 'Off' : 'Archived'} · Version ${version}${facts.value.unpublished ? ' · Unpublished changes' : ''}`
})
const saveWord = computed(
  () =>
    ({
      saved: '',
      saving: 'Saving…',
      waiting: 'Saving…',
      conflict: 'Not saved',
      offline: 'Not saved yet',
    })[draft.save.value],
)

function fix(finding: Pick<Finding, 'part' | 'id' | 'param'>): void {
  if (finding.part === 'rule') sheet.value?.open(finding.param === 'triggers' ? 'add:trigger' : 'add:step', 'kind')
  else if (finding.part === 'branch')
    document.querySelector<HTMLElement>(`[data-line="branch:${finding.id}"] [data-word]`)?.focus()
  else sheet.value?.edit(`${finding.part}:${finding.id}`, finding.param)
}

function ask(): void {
  if (findings.value.length > 0) {
    pane.value?.showFindings()
    return
  }
  asking.value = true
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
const { say } = useSpoken()
const setState = once(
  async (
    state: 'on' | 'off' | 'archived',
    given: { readonly waiting: 'finish' | 'end' | 'move' } | PublishChoice = { waiting: 'finish' },
  ): Promise<void> => {
    asking.value = false
    leaving.value = null
    if (!(await draft.settle())) return
    if (!(await attempt(() => send('POST', `/api/v1/rules/${id}/state`, { state, ...given })))) return
    settled.value = draft.document.value
    await refresh()
    say(`Rule “${rule.value.name}”: ${stateWord.value}`)
  },
  (...[state]) => state,
)

/** What is being typed as the name: kept here, so that a page that reads itself anew does not take it back. */
const typed = ref<string | null>(null)

function rename(): void {
  const name = typed.value?.trim()
  if (name) draft.set({ ...rule.value, name })
  typed.value = null
}
const asText = ref(false)
useKeys({
  s: () => {
    if (!store.may('build') || facts.value.state === 'archived' || (facts.value.state === 'on' && !changed.value))
      return false
    ask()
    return undefined
  },
  r: () => {
    if (!store.may('build') || facts.value.state === 'archived') return false
    void rehearse()
    return undefined
  },
})
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
/** Another kind of record has other fields: what was asked of this one goes. */
const setObject = ({ value }: HTMLSelectElement): void =>
  draft.set({ ...rule.value, object: value as RuleDocument['object'], conditions: EMPTY_GROUP })
</script>

<template>
  <div class="split grid h-full grid-cols-[minmax(0,3fr)_minmax(0,2fr)]">
    <section class="relative min-h-0 overflow-auto border-r border-hair px-6 pt-4 pb-16" tabindex="-1">
      <div class="flex items-start gap-4 max-[639px]:flex-wrap">
        <div class="min-w-0 flex-1 max-[639px]:basis-full">
          <h1 class="sr-only">{{ rule.name }}</h1>
          <input
            v-if="editable"
            :value="typed ?? rule.name"
            class="-ml-1 w-full truncate rounded-[3px] bg-transparent px-1 font-serif text-[27px] leading-tight font-medium tracking-tight hover:bg-paper2"
            aria-label="Rule name"
            maxlength="200"
            @input="typed = ($event.target as HTMLInputElement).value"
            @change="rename"
          />
          <p v-else class="font-serif text-[27px] font-medium">{{ rule.name }}</p>
        </div>
        <button type="button" class="button flex-none" data-as-text :aria-expanded="asText" @click="asText = !asText">
          Export…
        </button>
        <RuleAsText
          v-if="asText"
          :rule-id="id"
          :rule="rule"
          :editable="editable"
          :has-run="facts.version !== null"
          @take="draft.set"
          @close="asText = false"
        />
        <div v-if="store.may('build')" class="flex flex-none gap-2 max-[639px]:flex-wrap">
          <button v-if="editable" type="button" class="button" data-rehearse @click="rehearse">Rehearse</button>
          <button v-if="facts.state === 'on'" type="button" class="button" @click="leave('off')">Switch off</button>
          <button
            v-if="facts.state === 'on' && changed && editable"
            type="button"
            class="button main"
            data-switch-on
            @click="ask"
          >
            Publish…
          </button>
          <button
            v-if="(facts.state === 'draft' || facts.state === 'off') && editable"
            type="button"
            class="button main"
            data-switch-on
            @click="ask"
          >
            Switch on…
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
            Delete permanently
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
          aria-label="Record type"
          :value="rule.object"
          @change="setObject($event.target as HTMLSelectElement)"
        >
          <option v-for="object in RULE_OBJECTS" :key="object" :value="object">{{ OBJECT_WORDS[object].Many }}</option>
        </select>
        <span v-else>{{ OBJECT_WORDS[rule.object].Many }}</span>
        <span
          >Last changed by {{ store.personName(facts.changedBy) }},
          {{ sayInstant(facts.changedAt, store.catalogue.workspace.zone) }}</span
        >
        <NuxtLink :to="`/journal?rule=${id}`" class="name-link">{{ countOrNone(facts.runs, 'run') }}</NuxtLink>
        <NuxtLink v-if="facts.runs > 0" :to="`/results/${id}`" class="name-link">Results</NuxtLink>
        <span
          aria-live="polite"
          :class="draft.save.value === 'conflict' || draft.save.value === 'offline' ? 'text-brick' : ''"
          >{{ saveWord }}</span
        >
        <NuxtLink v-if="facts.cases > 0" :to="`/cases?rule=${id}`" class="name-link">{{
          count(facts.cases, 'testCase')
        }}</NuxtLink>
        <NuxtLink v-if="facts.waiting > 0" :to="`/ahead?rule=${id}`" class="name-link text-saffron"
          >{{ count(facts.waiting, 'run') }} waiting</NuxtLink
        >
        <button v-if="store.may('build') && facts.runs > 0" type="button" class="name-link" @click="undoing = true">
          Undo what it did…
        </button>
        <span v-if="!store.may('build')">Read-only. Only specialists can edit rules.</span>
      </p>
      <TwoDrafts v-if="draft.save.value === 'conflict'" :rule-id="id" :draft="draft" />
      <p v-if="facts.unreadable" class="mb-3 rounded-[3px] bg-brick-t px-3 py-2 text-brick" role="alert">
        {{ facts.unreadable.replace(/\.+$/, '') }}.
        <template v-if="facts.draftUnreadable">
          Everything else goes on. Download what is stored, then restore a version that can be read.
          <a :href="`/api/v1/rules/${id}/text?what=draft&as=json`" download class="word">Download draft</a>
        </template>
        <template v-else>Everything else goes on. Publish the draft to run the rule again.</template>
      </p>
      <Suspense><RuleWork :rule-id="id" :editable="store.may('build')" /></Suspense>
      <RuleSheet ref="sheet" :draft="draft" :editable="editable" :miss-id="missId" :gone="gone" />
      <RuleAbout :draft="draft" :editable="editable" />

      <LeaveDialog
        v-if="leaving"
        :rule-id="id"
        :waiting="facts.waiting"
        @choose="setState(leaving, { waiting: $event })"
        @close="leaving = null"
      />
      <RuleUndo v-if="undoing" :rule-id="id" @close="undoing = false" @begun="undoing = false" />
      <PublishDialog
        v-if="asking"
        :rule-id="id"
        :draft="draft"
        :on="facts.state === 'on'"
        :version="facts.version"
        :waiting="facts.waiting"
        @publish="setState('on', $event)"
        @findings="lookAtFindings"
        @close="asking = false"
      />
    </section>
    <EvidencePane
      ref="pane"
      :rule-id="id"
      :editable="editable"
      :restorable="store.may('build') && facts.state !== 'archived'"
      :draft="draft"
      @look="missId = $event"
      @ways="ways = $event"
      @fix="fix"
    />
  </div>
</template>
