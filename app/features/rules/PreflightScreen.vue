<script setup lang="ts">
import type { FindingLine } from '~~/server/views/preflight'
import { read, send, attempt } from '~/shared/api/api'
import { useCatalogue } from '~/shared/stores/catalogue'
import FindingList from './FindingList.vue'
import { useQueryChange } from '~/shared/useQueryChange'
import { useLiveQuery } from '~/shared/live/useLiveQuery'

/** What reading all rules together brings to light. */
useHead({ title: 'Preflight' })
const store = useCatalogue()
const route = useRoute()
const { data, problem, refresh } = await useLiveQuery('/api/v1/preflight', { changedBy: ['rules'] })
const SEVERITIES = [
  ['', 'all'],
  ['error', 'Error'],
  ['warning', 'Warning'],
  ['info', 'Info'],
] as const
const put = useQueryChange()
const severity = computed({
  get: () => (typeof route.query.severity === 'string' ? route.query.severity : ''),
  set: (value) => void put({ severity: value }),
})
const findings = computed(() => (data.value?.findings ?? []) as readonly FindingLine[])
const shown = computed(() =>
  findings.value.filter((finding) => severity.value === '' || finding.severity === severity.value),
)
const count = (of: string): number =>
  findings.value.filter((finding) => finding.accepted === null && (of === '' || finding.severity === of)).length
/** Mended where it stands: on the sheet of its rule, where it can be looked at and taken back. */
async function fix(finding: FindingLine): Promise<void> {
  if (!finding.fix) return
  const rule = await attempt(() => read<{ draftRev: number }>(`/api/v1/rules/${finding.ruleId}`))
  if (!rule) return
  if (
    await attempt(() =>
      send('PUT', `/api/v1/rules/${finding.ruleId}/draft`, { document: finding.fix?.rule, rev: rule.draftRev }),
    )
  )
    await navigateTo(`/rules/${finding.ruleId}?look=preflight`)
}
</script>

<template>
  <div class="relative h-full overflow-auto px-8 pt-5 pb-12">
    <div class="flex flex-wrap items-baseline gap-x-4 gap-y-1">
      <h1>Preflight</h1>
      <p class="quiet">Problems found by checking all rules together, before they run.</p>
      <label class="quiet ml-auto"
        >Show
        <select v-model="severity" class="entry">
          <option v-for="[value, label] in SEVERITIES" :key="value" :value="value">
            {{ label }} ({{ count(value) }})
          </option>
        </select></label
      >
      <NuxtLink to="/rules" class="button">Rules</NuxtLink>
    </div>
    <p v-if="problem" class="mt-4 text-brick" role="alert">Rules could not be checked. Try again.</p>
    <FindingList
      v-else-if="shown.length > 0"
      class="mt-4 max-w-[900px]"
      :findings="shown"
      :editable="store.may('build')"
      named
      @fix="fix"
      @changed="refresh()"
    />
    <div v-else class="mt-16 text-center">
      <p class="font-serif text-[20px]">No problems found.</p>
      <p class="quiet mt-1">All rules and drafts were checked against each other and your records.</p>
    </div>
  </div>
</template>
