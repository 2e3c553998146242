<script setup lang="ts">
import { figure } from '#core/language/counts'
import { sayInstant } from '#core/time/say'
import { useCatalogue } from '~/shared/stores/catalogue'
import { useLiveQuery } from '~/shared/live/useLiveQuery'
import RefLink from '~/shared/record/RefLink.vue'

/** Who stands where: the steps at which records wait, and who of them goes on first. */
const props = defineProps<{ ruleId: number }>()
const store = useCatalogue()
const { data, problem } = await useLiveQuery('/api/v1/rules/:id/waiting', {
  params: () => ({ id: props.ruleId }),
  changedBy: ['run', 'rules', 'ahead', 'clock'],
})
const zone = computed(() => store.catalogue.workspace.zone)
</script>

<template>
  <div class="pt-3 text-[14px]">
    <p v-if="problem" class="text-brick" role="alert">What waits could not be loaded. Try again.</p>
    <p v-else-if="data?.steps.length === 0" class="font-serif text-[16px]">Nothing waits in this rule now.</p>
    <ol v-else aria-label="Steps at which records wait">
      <li v-for="step in data?.steps ?? []" :key="step.stepId" class="border-b border-hair py-2" data-waiting>
        <p class="flex items-baseline gap-2">
          <b class="font-serif text-[22px] leading-none font-medium">{{ figure(step.count) }}</b><span
            ><span v-if="step.label !== ''" class="quiet">Step {{ step.label }} · </span>{{ step.says }}</span
          >
        </p>
        <ul class="mt-1">
          <li v-for="one in step.records" :key="one.runId" class="flex items-baseline justify-between gap-3 py-0.5">
            <RefLink :of="one.ref" class="name-link min-w-0 truncate">{{ one.name }}</RefLink>
            <span class="quiet flex-none">{{
              one.dueMs === null ? `since ${sayInstant(one.sinceMs, zone)}` : `until ${sayInstant(one.dueMs, zone)}`
            }}</span>
          </li>
        </ul>
        <NuxtLink v-if="step.count > step.records.length" :to="`/ahead?rule=${ruleId}`" class="word"
          >Show all in Ahead</NuxtLink
        >
      </li>
    </ol>
  </div>
</template>
