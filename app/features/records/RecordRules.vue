<script setup lang="ts">
import { OBJECT_WORDS } from '#core/records/kinds'
import { capital } from '#core/language/nouns'
import { count } from '#core/language/counts'
import { sayInstant } from '#core/time/say'
import type { RecordRef } from '#core/records/kinds'
import type { Why } from '~~/server/views/why'
import { read, attempt } from '~/shared/api/api'
import { useCatalogue } from '~/shared/stores/catalogue'
import { useLineKeys } from '~/shared/keys/useLineKeys'
import SeenList from '~/shared/run/SeenList.vue'
import { useLiveQuery } from '~/shared/live/useLiveQuery'

/** The rules about this record: what each last did for it, and on asking, why it ran or did not. */
const props = defineProps<{ of: RecordRef }>()
const store = useCatalogue()
const path = computed(() => `/api/v1/records/${props.of.object}/${props.of.id}/rules`)
const { data } = await useLiveQuery('/api/v1/records/:object/:id/rules', {
  params: () => props.of,
  changedBy: ['rules', 'records'],
})
const list = useTemplateRef<HTMLElement>('list')
useLineKeys(list, 'li')
const open = ref<number | null>(null)
const why = shallowRef<Why | null>(null)
async function ask(ruleId: number): Promise<void> {
  if (open.value === ruleId) {
    open.value = null
    return
  }
  open.value = ruleId
  why.value = null
  why.value = await attempt(() => read<Why>(`${path.value}/${ruleId}`))
}
const at = (ms: number): string => sayInstant(ms, store.catalogue.workspace.zone)
</script>

<template>
  <div>
    <p v-if="data?.rules.length === 0" class="py-8 font-serif text-[18px]">
      No rules for {{ OBJECT_WORDS[of.object].many }} yet.
    </p>
    <ul ref="list">
      <li v-for="line in data?.rules" :key="line.ruleId" class="border-b border-hair py-1.5">
        <button
          type="button"
          class="flex w-full items-baseline gap-3 rounded-[2px] text-left hover:bg-violet-t"
          :aria-expanded="open === line.ruleId"
          :data-why="line.ruleId"
          @click="ask(line.ruleId)"
        >
          <span class="min-w-0 flex-1 truncate"
            ><b class="font-semibold">{{ line.name }}</b
            ><span v-if="line.state !== 'on'" class="quiet"> · {{ capital(line.state) }}</span
            ><br /><span class="quiet">{{
              line.last ? `${at(line.last.atMs)}: ${line.last.outcome || line.last.state}` : 'No runs for this record'
            }}</span></span
          ><span class="word quiet flex-none" aria-hidden="true">{{ open === line.ruleId ? 'Hide' : 'Why?' }}</span>
        </button>
        <div
          v-if="open === line.ruleId"
          class="mt-1 mb-2 rounded-[3px] bg-paper2 px-4 py-3"
          role="region"
          :aria-label="`Why: ${line.name}`"
        >
          <p v-if="!why" class="quiet">Loading…</p>
          <template v-else>
            <p class="font-serif text-[17px]">{{ why.answer }}</p>
            <p class="quiet mt-2">
              {{ why.seenAt === null ? 'Conditions now:' : `Conditions on ${at(why.seenAt)}:` }}
            </p>
            <SeenList :seen="why.seen" :mode="why.mode" />
            <p class="mt-2 flex gap-4">
              <NuxtLink :to="`/rules/${line.ruleId}`" class="word">Open rule</NuxtLink
              ><NuxtLink :to="`/rehearsal?rules=${line.ruleId}&record=${of.id}&go=1`" class="word"
                >Rehearse for this record</NuxtLink
              ><NuxtLink v-for="run in why.runs.slice(0, 1)" :key="run.id" :to="`/journal/${run.id}`" class="word"
                >Show run</NuxtLink
              ><span v-if="why.runs.length > 1" class="quiet">{{ count(why.runs.length, 'run') }} for this record</span>
            </p>
          </template>
        </div>
      </li>
    </ul>
  </div>
</template>
