<script setup lang="ts">
import { OBJECT_WORDS } from '#core/records/kinds'
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
const choice = reactive({ note: '', through: false, anyway: false, waiting: 'finish' as PublishChoice['waiting'] })
const rule = computed(() => props.draft.document.value)
const evidence = computed(() => props.draft.evidence.value)
const started = computed(() => Object.values(evidence.value?.started ?? {}).reduce((sum, n) => sum + n, 0))
/** A rule that somebody starts by hand waits for that. */
const canLetThrough = computed(
  () => (evidence.value?.matched ?? 0) > 0 && rule.value.triggers.some((trigger) => trigger.kind !== 'byHand'),
)
const warned = computed(
  () => props.draft.noted.value.filter((finding) => finding.accepted === null && finding.severity !== 'note').length,
)

interface CaseRun {
  readonly id: number
  readonly name: string
  readonly wrong: readonly string[]
}
/** What its cases come to by what is written now. */
const caseRuns = shallowRef<readonly CaseRun[] | null>(null)
const otherwise = computed(() => (caseRuns.value ?? []).filter((one) => one.wrong.length > 0))
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
})
const publish = (): void => emit('publish', { ...choice })
</script>

<template>
  <AppDialog
    :title="on ? 'Publish this version?' : 'Switch it on?'"
    label="Switch the rule on"
    :width="460"
    @close="emit('close')"
  >
    <p class="mt-2">
      From now on it starts when
      {{ rule.triggers.length === 1 ? 'its start happens' : 'any of its starts happens' }}:
      <b>{{ started }} {{ started === 1 ? 'time' : 'times' }}</b> in the last 30 days.
      <b>{{ evidence?.matched }} of {{ evidence?.total }}</b>
      {{ OBJECT_WORDS[rule.object].many }} would get past its conditions today.
    </p>
    <p class="mt-2">
      Nothing happens to records that are there until they change<template v-if="!canLetThrough">.</template
      ><template v-else>, unless you let them through:</template>
    </p>
    <label v-if="canLetThrough" class="mt-1 flex items-baseline gap-2"
      ><input v-model="choice.through" type="checkbox" data-through /><span
        >let the <b>{{ evidence?.matched.toLocaleString('en') }}</b> through that match now
        <span class="quiet">(listed beside the sheet)</span></span
      ></label
    >
    <p v-if="warned > 0" class="mt-2 rounded-[3px] bg-saffron-t px-2 py-1 text-saffron">
      Preflight found {{ warned }} {{ warned === 1 ? 'thing' : 'things' }} to look at first.
      <button type="button" class="word" @click="emit('findings')">Look</button>
    </p>
    <div v-if="changes.length > 0" class="mt-2 max-h-40 overflow-auto">
      <p class="font-semibold">Since version {{ version }}</p>
      <ul>
        <li v-for="line in changes" :key="line" class="font-serif text-[15px]">{{ line }}</li>
      </ul>
    </div>
    <label v-if="waiting > 0 && on" class="mt-2 block"
      ><b class="font-semibold">{{ waiting === 1 ? 'One run waits' : `${waiting.toLocaleString('en')} runs wait` }}</b>
      in the version that runs:
      <select v-model="choice.waiting" class="entry" aria-label="Runs that wait" data-waiting>
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
        <NuxtLink :to="`/cases?rule=${ruleId}`" class="word"
          >Look at {{ otherwise.length === 1 ? 'it' : 'them' }}</NuxtLink
        >
        <label class="text-ink"><input v-model="choice.anyway" type="checkbox" data-anyway /> that is meant</label>
      </p>
    </div>
    <label class="quiet mt-2 block"
      >a note for later<br /><input
        v-model="choice.note"
        class="entry w-full"
        maxlength="500"
        placeholder="why it is as it is"
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
      <button type="button" class="button" @click="emit('close')">Not yet</button>
    </div>
  </AppDialog>
</template>
