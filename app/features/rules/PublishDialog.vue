<script setup lang="ts">
import { count, plural } from '#core/language/counts'
import type { AnswerOf } from '~/shared/live/useLiveQuery'
import { TRIGGERS } from '#core/rules/triggers'
import { attempt, read, send } from '~/shared/api/api'
import AppDialog from '~/shared/dialog/AppDialog.vue'
import ExistingChoice from './ExistingChoice.vue'
import ForecastBox from './ForecastBox.vue'
import type { PublishChoice } from './publishChoice'
import { useForecast } from './useForecast'
import type { RuleDraft } from './useRuleDraft'
import WhenItRuns from './WhenItRuns.vue'

/** What publishing means, before it is done: when it runs, what for, what comes of it, what changed, its cases. */
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
  backfill: false,
  again: false,
  passedDays: 30,
  anyway: false,
  waiting: 'finish' as PublishChoice['waiting'],
})
const rule = computed(() => props.draft.document.value)
const evidence = computed(() => props.draft.evidence.value)
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
/** What stands in what it watches; read anew for another span of days. */
const existing = shallowRef<AnswerOf<'/api/v1/rules/:id/existing'> | null>(null)
async function readExisting(): Promise<void> {
  existing.value = await read<AnswerOf<'/api/v1/rules/:id/existing'>>(
    `/api/v1/rules/${props.ruleId}/existing?passedDays=${choice.passedDays}`,
  ).catch(() => null)
}
const { forecast, progress, trouble, running, late, begin } = useForecast(props.ruleId, () => ({
  backfill: choice.backfill,
  again: choice.again,
  passedDays: choice.passedDays,
}))
/** What is too much is only done by somebody who says that it is meant. */
const meant = ref(false)
const tooMuch = computed(() => (forecast.value?.limits.length ?? 0) > 0)
watch(
  () => choice.passedDays,
  (days) => {
    if (!Number.isInteger(days) || days < 1 || days > 366) choice.passedDays = 30
    else void readExisting()
  },
)
watch(forecast, () => {
  meant.value = false
})
const happens = computed(() => rule.value.triggers.every((one) => !TRIGGERS[one.kind].byClock && one.kind !== 'byHand'))
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
  if (!(await props.draft.settle())) return
  void readExisting()
  void begin()
  if (props.version === null) return
  const versions = await read<{ draft: readonly string[] }>(`/api/v1/rules/${props.ruleId}/versions`).catch(() => null)
  changes.value = versions?.draft ?? []
})
const held = computed(() => (otherwise.value.length > 0 && !choice.anyway) || (tooMuch.value && !meant.value))
/** Somebody who is quicker than the forecast gets what they wanted once it has nothing to say against it. */
const wanted = ref(false)
function publish(): void {
  if (running.value && !late.value) wanted.value = true
  else if (!held.value) emit('publish', { ...choice })
}
watch([running, late], () => {
  if (running.value && !late.value) return
  if (wanted.value) publish()
  wanted.value = false
})
</script>

<template>
  <AppDialog
    :title="on ? 'Publish changes?' : 'Switch on this rule?'"
    label="Switch on this rule"
    :width="560"
    filling
    @close="emit('close')"
  >
    <WhenItRuns :rule="rule" :evidence="evidence" />
    <ExistingChoice
      v-if="existing && rule.object !== 'none'"
      v-model:backfill="choice.backfill"
      v-model:again="choice.again"
      v-model:passed-days="choice.passedDays"
      :existing="existing"
      :object="rule.object"
      :asks="rule.conditions.items.length > 0"
      :by="happens ? ' until something triggers the rule' : ''"
    />
    <ForecastBox :forecast="forecast" :running="running" :progress="progress" :trouble="trouble" />
    <label v-if="tooMuch" class="mt-1 flex items-baseline gap-2"
      ><input v-model="meant" type="checkbox" data-meant /><span>This is intended</span></label
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
    <div class="sticky -bottom-5 -mb-5 flex gap-2 bg-raised pt-4 pb-5">
      <button
        type="button"
        class="button main"
        data-confirm
        data-first
        :aria-disabled="held"
        :aria-busy="wanted"
        @click="publish"
      >
        {{ on ? 'Publish' : 'Switch on' }}
      </button>
      <button type="button" class="button" @click="emit('close')">Cancel</button>
    </div>
  </AppDialog>
</template>
