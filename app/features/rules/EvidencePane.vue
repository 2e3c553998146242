<script setup lang="ts">
import { count, figure, plural } from '#core/language/counts'
import type { Seen } from '#core/conditions/compile'
import { OBJECT_WORDS } from '#core/records/kinds'
import type { Values } from '#core/language/value'
import type { Finding } from '#core/rules/check'
import { STEPS } from '#core/rules/steps'
import { placedSteps } from '#core/rules/tree'
import type { FindingLine } from '~~/server/views/preflight'
import type { RuleDraft } from './useRuleDraft'
import { recordPath } from '~/shared/paths'
import { send, attempt } from '~/shared/api/api'
import { useCatalogue } from '~/shared/stores/catalogue'
import TabRow from '~/shared/tabs/TabRow.vue'
import SeenList from '~/shared/run/SeenList.vue'
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
  mend: [finding: Pick<Finding, 'part' | 'id' | 'param'>]
}>()
const store = useCatalogue()
const tab = ref<'who' | 'letters' | 'findings' | 'waiting' | 'versions'>(
  useRoute().query.look === 'preflight' ? 'findings' : 'who',
)
const noted = computed(() => props.draft.noted.value)
const openCount = computed(
  () =>
    findings.value.length +
    noted.value.filter((finding) => finding.accepted === null && finding.severity !== 'info').length,
)
function mendIt(finding: FindingLine): void {
  if (finding.fix) props.draft.set(finding.fix.rule)
}
const rule = computed(() => props.draft.document.value)
const evidence = computed(() => props.draft.evidence.value)
const many = computed(() => OBJECT_WORDS[rule.value.object].many)
const findings = computed(() => props.draft.findings.value)
/** What the conditions look at comes first: that is what she wants to see. */
const columns = computed(() =>
  [
    ...new Set([
      ...rule.value.conditions.items.flatMap((item) => (item.kind === 'condition' ? [item.field] : [])),
      ...(rule.value.object === 'deal' ? ['amount', 'stage', 'owner'] : ['owner']),
    ]),
  ]
    .filter((key) => key !== 'name')
    .slice(0, 3)
    .flatMap((key) => store.catalogue.field(rule.value.object, key) ?? []),
)
const cell = (values: Values, key: string): string => {
  const field = store.catalogue.field(rule.value.object, key)
  const text = field ? store.show(values[key], field, values) : ''
  return field?.type === 'person' ? text.replace(/^(\S)\S* /, '$1. ') : text
}
/** The record whose conditions are looked at one by one. */
const open = ref<number | null>(null)
const looked = shallowRef<{ holds: boolean; seen: readonly Seen[]; ways: readonly string[] } | null>(null)
const hasPaths = computed(() => rule.value.steps.some((step) => step.branches))
/** Whether the sheet shows only the paths that the looked-at record goes. */
const onlyItsWay = ref(false)
watch([looked, onlyItsWay], () => emit('ways', onlyItsWay.value && looked.value ? looked.value.ways : null))
async function see(id: number): Promise<void> {
  looked.value = await attempt(() =>
    send<{ holds: boolean; seen: readonly Seen[]; ways: readonly string[] }>('POST', '/api/v1/evidence/record', {
      document: rule.value,
      id,
    }),
  )
}
async function toggle(id: number): Promise<void> {
  open.value = open.value === id ? null : id
  looked.value = null
  if (open.value !== null) await see(id)
}
watch(evidence, () => {
  if (open.value !== null) void see(open.value)
})
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
          }}</b>of {{ count(evidence.total, rule.object) }} {{ plural(evidence.matched, 'matches', 'match') }}
        </div>
        <div v-if="rule.conditions.mode === 'all' && rule.conditions.items.length > 0">
          <b class="block font-serif text-[22px] leading-none font-medium text-ink" data-near>{{
            evidence.near.toLocaleString('en')
          }}</b>{{ plural(evidence.near, 'fails', 'fail') }} only one condition
        </div>
      </div>
      <p v-else class="quiet">Checking your {{ many }}…</p>
      <StandingLine v-if="evidence && rule.object !== 'none'" :draft="draft" />
      <div
        v-if="evidence && rule.object !== 'none'"
        class="mt-3 min-h-0 flex-1 overflow-auto pb-6"
        tabindex="0"
        role="region"
        aria-label="Matching records and near misses"
      >
        <table class="ledger table-fixed">
          <caption class="sr-only">
            Matching records, then records that fail one condition
          </caption>
          <colgroup>
            <col />
            <col
              v-for="field in columns"
              :key="field.key"
              :class="field.type === 'currency' ? 'w-[100px]' : 'w-[92px]'"
            />
          </colgroup>
          <tbody>
            <template v-for="row in evidence.rows" :key="row.id">
              <tr>
                <td class="truncate" :title="String(row.values.name)">
                  <button
                    type="button"
                    class="name-link max-w-full truncate text-left"
                    :aria-expanded="open === row.id"
                    :data-see="row.id"
                    @click="toggle(row.id)"
                  >
                    {{ row.values.name }}
                  </button>
                </td>
                <td
                  v-for="field in columns"
                  :key="field.key"
                  class="truncate"
                  :class="field.type === 'currency' && 'num'"
                >
                  {{ cell(row.values, field.key) }}
                </td>
              </tr>
              <tr v-if="open === row.id">
                <td :colspan="columns.length + 1" class="bg-paper!">
                  <SeenList v-if="looked" :seen="looked.seen" :mode="rule.conditions.mode" /><label
                    v-if="looked && hasPaths"
                    class="flex items-baseline gap-1.5 py-0.5 text-[13px]"
                    ><input v-model="onlyItsWay" type="checkbox" />Show only the path it takes</label
                  ><NuxtLink :to="recordPath({ object: rule.object, id: row.id })" class="word"
                    >Open {{ row.values.name }}</NuxtLink
                  >
                </td>
              </tr>
            </template>
          </tbody>
          <tbody v-if="evidence.misses.length">
            <tr>
              <td :colspan="columns.length + 1" class="pt-3! font-serif text-[15px]">Fail one condition</td>
            </tr>
            <template v-for="row in evidence.misses" :key="row.id">
              <tr
                class="hover:bg-brick-t"
                @mouseenter="emit('look', row.missId)"
                @mouseleave="emit('look', null)"
                @focusin="emit('look', row.missId)"
                @focusout="emit('look', null)"
              >
                <td class="truncate" :title="String(row.values.name)">
                  <button
                    type="button"
                    class="name-link max-w-full truncate text-left"
                    :aria-expanded="open === row.id"
                    :data-see="row.id"
                    @click="toggle(row.id)"
                  >
                    {{ row.values.name }}
                  </button>
                </td>
                <td :colspan="columns.length" class="text-brick">{{ row.why }}</td>
              </tr>
              <tr v-if="open === row.id">
                <td :colspan="columns.length + 1" class="bg-paper!">
                  <SeenList v-if="looked" :seen="looked.seen" :mode="rule.conditions.mode" /><label
                    v-if="looked && hasPaths"
                    class="flex items-baseline gap-1.5 py-0.5 text-[13px]"
                    ><input v-model="onlyItsWay" type="checkbox" />Show only the path it takes</label
                  ><NuxtLink :to="recordPath({ object: rule.object, id: row.id })" class="word"
                    >Open {{ row.values.name }}</NuxtLink
                  >
                </td>
              </tr>
            </template>
          </tbody>
        </table>
        <p v-if="evidence.matched > evidence.rows.length" class="quiet pt-2">
          Showing {{ evidence.rows.length }} of {{ figure(evidence.matched) }}.
        </p>
        <p v-if="evidence.matched === 0" class="pt-3 font-serif text-[16px]">
          <template v-if="evidence.total > 0">No {{ many }} match now.</template>
          <template v-if="evidence.total === 0"
            >No {{ many }} yet. <NuxtLink to="/data" class="word">Import some</NuxtLink></template
          >
        </p>
      </div>
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
            @click="emit('mend', finding)"
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
        @look="emit('mend', $event)"
        @mend="mendIt"
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
