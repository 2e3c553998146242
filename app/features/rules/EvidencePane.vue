<script setup lang="ts">
import { count, nounOf, plural } from '#core/language/counts'
import { OBJECT_WORDS } from '#core/records/kinds'
import type { Finding } from '#core/rules/check'
import { STEPS } from '#core/rules/steps'
import { placedSteps } from '#core/rules/tree'
import type { FindingLine } from '~~/server/views/preflight'
import type { RuleDraft } from './useRuleDraft'
import TabRow from '~/shared/tabs/TabRow.vue'
import EvidenceTable from './EvidenceTable.vue'
import StandingLine from './StandingLine.vue'
import { onceReady } from '~/shared/onceReady'

const LetterPreview = onceReady(() => import('./LetterPreview.vue'))
const FindingList = onceReady(() => import('./FindingList.vue'))
const WaitingList = onceReady(() => import('./WaitingList.vue'))
const VersionList = onceReady(() => import('./VersionList.vue'))

/** The proof beside the sheet, from her own records, while she types. */
const props = defineProps<{ draft: RuleDraft; ruleId: number; editable: boolean; restorable: boolean }>()
const emit = defineEmits<{
  look: [missId: string | null]
  ways: [ways: readonly string[] | null]
  fix: [finding: Pick<Finding, 'part' | 'id' | 'param'>]
}>()
const tab = ref<'who' | 'letters' | 'findings' | 'waiting' | 'versions'>(
  useRoute().query.look === 'preflight' ? 'findings' : 'who',
)
const noted = computed(() => props.draft.noted.value)
const openCount = computed(
  () =>
    findings.value.length +
    noted.value.filter((finding) => finding.accepted === null && finding.severity !== 'info').length,
)
function fixIt(finding: FindingLine): void {
  if (finding.fix) props.draft.set(finding.fix.rule)
}
const rule = computed(() => props.draft.document.value)
const evidence = computed(() => props.draft.evidence.value)
const many = computed(() => OBJECT_WORDS[rule.value.object].many)
const findings = computed(() => props.draft.findings.value)
const SENDS: readonly string[] = ['sendMessage', 'webRequest']
const hasLetters = computed(() => placedSteps(rule.value).some(({ step }) => SENDS.includes(step.kind)))
/** Whether records can stand anywhere between its steps. */
const mayWait = computed(() => placedSteps(rule.value).some(({ step }) => STEPS[step.kind].mayWait(step.params)))
const tabs = computed(
  () =>
    [
      ['who', 'Matching now'],
      ...(hasLetters.value ? ([['letters', 'Messages']] as const) : []),
      ['findings', openCount.value ? `Preflight ${openCount.value}` : 'Preflight'],
      ...(mayWait.value ? ([['waiting', 'Waiting']] as const) : []),
      ['versions', 'Versions'],
    ] as const,
)
defineExpose({
  showFindings: () => {
    tab.value = 'findings'
  },
})
</script>

<template>
  <aside class="flex h-full min-h-0 flex-col bg-paper2 px-5 pt-4" aria-label="Evidence">
    <TabRow v-model="tab" :tabs="tabs" label="Evidence" class="border-b border-hair" />
    <div v-if="tab === 'who'" role="tabpanel" aria-label="Matching now" class="flex min-h-0 flex-1 flex-col pt-3">
      <p v-if="rule.object === 'none'" class="font-serif text-[16px]">
        Runs once each time, about no record. Rehearse it to see when.
      </p>
      <div v-else-if="evidence" class="flex gap-6 text-[13px] text-ink2" aria-live="polite">
        <div>
          <b class="block font-serif text-[22px] leading-none font-medium text-ink" data-matched>{{
            evidence.matched.toLocaleString('en')
          }}</b><template v-if="rule.conditions.items.length === 0"
            >{{ nounOf(evidence.matched, rule.object) }} in all: there is no condition to meet</template
          ><template v-else
            >of {{ count(evidence.total, rule.object) }} {{ plural(evidence.matched, 'matches', 'match') }}</template
          >
        </div>
        <div v-if="rule.conditions.mode === 'all' && rule.conditions.items.length > 0">
          <b class="block font-serif text-[22px] leading-none font-medium text-ink" data-near>{{
            evidence.near.toLocaleString('en')
          }}</b>{{ plural(evidence.near, 'fails', 'fail') }} only one condition
        </div>
      </div>
      <p v-else class="quiet">Checking your {{ many }}…</p>
      <StandingLine v-if="evidence && rule.object !== 'none'" :draft="draft" />
      <EvidenceTable
        v-if="evidence && rule.object !== 'none'"
        :rule="rule"
        :evidence="evidence"
        @look="emit('look', $event)"
        @ways="emit('ways', $event)"
      />
    </div>
    <div
      v-else-if="tab === 'letters' && hasLetters"
      role="tabpanel"
      aria-label="Messages"
      class="min-h-0 flex-1 overflow-auto pt-3 pb-6"
      tabindex="0"
    >
      <LetterPreview :draft="draft" />
    </div>
    <div
      v-else-if="tab === 'findings'"
      role="tabpanel"
      aria-label="Preflight"
      class="min-h-0 flex-1 overflow-auto pt-3 pb-6"
      tabindex="0"
    >
      <p v-if="findings.length === 0" class="pb-2 font-serif text-[16px]">
        {{
          noted.length === 0
            ? 'No problems. The rule can be switched on.'
            : 'The rule can be switched on. Review these first:'
        }}
      </p>
      <p v-else class="part pb-1">To finish</p>
      <ul class="space-y-1.5">
        <li v-for="finding in findings" :key="finding.part + finding.id + finding.param">
          <button
            type="button"
            class="w-full rounded-[3px] bg-brick-t px-2.5 py-1.5 text-left text-brick"
            @click="emit('fix', finding)"
          >
            <span class="mark stop mr-2" aria-hidden="true" />{{ finding.text }}
          </button>
        </li>
      </ul>
      <FindingList
        v-if="noted.length > 0"
        class="pt-3"
        :findings="noted"
        :editable="editable"
        @look="emit('fix', $event)"
        @fix="fixIt"
        @changed="draft.weigh()"
      />
    </div>
    <div
      v-else-if="tab === 'waiting'"
      role="tabpanel"
      aria-label="Waiting"
      class="min-h-0 flex-1 overflow-auto pb-6"
      tabindex="0"
    >
      <Suspense
        ><WaitingList :rule-id="ruleId" /><template #fallback><p class="quiet pt-3">Loading…</p></template></Suspense
      >
    </div>
    <div v-else role="tabpanel" aria-label="Versions" class="min-h-0 flex-1 overflow-auto pb-6" tabindex="0">
      <Suspense
        ><VersionList :rule-id="ruleId" :draft="draft" :editable="restorable" /><template #fallback
          ><p class="quiet pt-3">Loading…</p></template
        ></Suspense
      >
    </div>
  </aside>
</template>
