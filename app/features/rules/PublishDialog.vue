<script setup lang="ts">
import { count, nounOf, plural } from '#core/language/counts'
import { attempt, read, send } from '~/shared/api/api'
import AppDialog from '~/shared/dialog/AppDialog.vue'
import type { PublishChoice } from './publishChoice'
import type { RuleDraft } from './useRuleDraft'

/** What publishing means, before it is done: how often it starts, what would get through, what changed, its cases. */
const props = defineProps<{
  ruleId: number
  draft: RuleDraft
  on: boolean
  version: number | null
  waiting: number
}>()
const emit = defineEmits<{ publish: [choice: PublishChoice]; findings: []; close: [] }>()
const choice = reactive({
  note: '',
  through: false,
  again: false,
  anyway: false,
  waiting: 'finish' as PublishChoice['waiting'],
})
const rule = computed(() => props.draft.document.value)
const evidence = computed(() => props.draft.evidence.value)
const started = computed(() => Object.values(evidence.value?.started ?? {}).reduce((sum, n) => sum + n, 0))
/** A rule that somebody starts by hand waits for that. */
const canLetThrough = computed(
  () => (evidence.value?.matched ?? 0) > 0 && rule.value.triggers.some((trigger) => trigger.kind !== 'byHand'),
)
const warned = computed(
  () => props.draft.noted.value.filter((finding) => finding.accepted === null && finding.severity !== 'info').length,
)

interface CaseRun {
  readonly id: number
  readonly name: string
  readonly wrong: readonly string[]
}
/** What its cases come to by what is written now. */
const caseRuns = shallowRef<readonly CaseRun[] | null>(null)
const otherwise = computed(() => (caseRuns.value ?? []).filter((one) => one.wrong.length > 0))
/** Of the records that match, how many the rule ran for before. */
const existing = shallowRef<{ readonly matching: number; readonly already: number } | null>(null)
const letThrough = computed(() => (evidence.value?.matched ?? 0) - (choice.again ? 0 : (existing.value?.already ?? 0)))
const changes = shallowRef<readonly string[]>([])
onMounted(async () => {
  void attempt(async () => {
    const { cases } = await send<{ cases: CaseRun[] }>('POST', '/api/v1/cases/runs', {
      rule: props.ruleId,
      document: rule.value,
    })
    caseRuns.value = cases
  })
  // What is still being typed goes to the server first, so that the words are those of what will be published.
  if (props.version === null || !(await props.draft.settle())) return
  const versions = await read<{ draft: readonly string[] }>(`/api/v1/rules/${props.ruleId}/versions`).catch(() => null)
  changes.value = versions?.draft ?? []
  existing.value = await read<{ matching: number; already: number }>(`/api/v1/rules/${props.ruleId}/existing`).catch(
    () => null,
  )
})
const publish = (): void => emit('publish', { ...choice })
</script>

<template>
  <AppDialog
    :title="on ? 'Publish changes?' : 'Switch on this rule?'"
    label="Switch on this rule"
    :width="460"
    @close="emit('close')"
  >
    <p class="mt-2">
      From now on it runs when {{ rule.triggers.length === 1 ? 'its trigger happens' : 'any of its triggers happens' }}:
      <b>{{ count(started, 'time') }}</b> in the last 30 days.
      <b>{{ evidence?.matched }} of {{ evidence?.total }}</b>
      {{ nounOf(evidence?.total ?? 0, rule.object) }} {{ plural(evidence?.matched ?? 0, 'meets', 'meet') }} its
      conditions today.
    </p>
    <p class="mt-2">Existing records are left alone until something triggers the rule.</p>
    <label v-if="canLetThrough" class="mt-1 flex items-baseline gap-2"
      ><input v-model="choice.through" type="checkbox" data-through /><span
        >Also run it now for the <b>{{ count(letThrough, rule.object) }}</b> that
        {{ plural(letThrough, 'matches', 'match') }} <span class="quiet">(listed on the right)</span></span
      ></label
    >
    <label v-if="canLetThrough && choice.through && existing?.already" class="mt-1 ml-6 flex items-baseline gap-2"
      ><input v-model="choice.again" type="checkbox" data-again /><span
        >Include the <b>{{ existing.already }}</b> it already ran for</span
      ></label
    >
    <p v-if="warned > 0" class="mt-2 rounded-[3px] bg-saffron-t px-2 py-1 text-saffron">
      Preflight found {{ count(warned, 'warning') }}.
      <button type="button" class="word" @click="emit('findings')">Review</button>
    </p>
    <div v-if="changes.length > 0" class="mt-2 max-h-40 overflow-auto">
      <p class="font-semibold">Changes since version {{ version }}</p>
      <ul>
        <li v-for="line in changes" :key="line" class="font-serif text-[15px]">{{ line }}</li>
      </ul>
    </div>
    <label v-if="waiting > 0 && on" class="mt-2 block"
      ><b class="font-semibold">{{ count(waiting, 'run') }}</b> {{ plural(waiting, 'is', 'are') }} waiting in the
      published version:
      <select v-model="choice.waiting" class="entry" aria-label="Waiting runs" data-waiting>
        <option value="finish">Finish in that version</option>
        <option value="move">Continue in the new version if the step still exists</option>
        <option value="end">End now</option>
      </select></label
    >
    <p v-if="caseRuns && caseRuns.length > 0 && otherwise.length === 0" class="mt-2 text-moss" data-cases>
      {{ caseRuns.length === 1 ? 'Its test case passes.' : `All ${count(caseRuns.length, 'testCase')} pass.` }}
    </p>
    <div
      v-else-if="otherwise.length > 0"
      class="mt-2 max-h-44 overflow-auto rounded-[3px] bg-brick-t px-2 py-1 text-brick"
      data-cases
    >
      <p v-for="one in otherwise" :key="one.id">
        Test case <b class="font-semibold">“{{ one.name }}”</b> gives a different result: {{ one.wrong[0]
        }}<template v-if="one.wrong.length > 1"> and {{ one.wrong.length - 1 }} more</template>
      </p>
      <p class="flex items-baseline gap-3">
        <NuxtLink :to="`/cases?rule=${ruleId}`" class="word">Review</NuxtLink>
        <label class="text-ink"><input v-model="choice.anyway" type="checkbox" data-anyway /> Publish anyway</label>
      </p>
    </div>
    <label class="quiet mt-2 block"
      >Note (optional)<br /><input
        v-model="choice.note"
        class="entry w-full"
        maxlength="500"
        placeholder="Why did you change it?"
        @keydown.enter="publish"
    /></label>
    <div class="mt-4 flex gap-2">
      <button
        type="button"
        class="button main"
        data-confirm
        data-first
        :disabled="otherwise.length > 0 && !choice.anyway"
        @click="publish"
      >
        {{ on ? 'Publish' : 'Switch on' }}
      </button>
      <button type="button" class="button" @click="emit('close')">Cancel</button>
    </div>
  </AppDialog>
</template>
