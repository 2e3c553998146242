<script setup lang="ts">
import { sayInstant } from '#core/time/say'
import type { VersionLine } from '~~/server/views/versions'
import type { RuleDraft } from './useRuleDraft'
import { send, attempt } from '~/shared/api/api'
import { once } from '~/shared/api/once'
import { useCatalogue } from '~/shared/stores/catalogue'
import { useLiveQuery } from '~/shared/live/useLiveQuery'

/** Every version that was published, with what it changed in words; an older one can be made the draft again. */
const props = defineProps<{ ruleId: number; draft: RuleDraft; editable: boolean }>()
const store = useCatalogue()
const { data, problem } = await useLiveQuery('/api/v1/rules/:id/versions', {
  params: () => ({ id: props.ruleId }),
  changedBy: ['rules'],
})
const open = ref<number | null>(null)
const restore = once(
  async (version: VersionLine): Promise<void> => {
    if (!(await props.draft.settle())) return
    const back = await attempt(() =>
      send<{ rev: number }>('POST', `/api/v1/rules/${props.ruleId}/versions/${version.number}`, {
        rev: props.draft.rev(),
      }),
    )
    if (back) reloadNuxtApp({ force: true })
  },
  ({ number }) => number,
)
</script>

<template>
  <div class="pt-3 text-[14px]">
    <p v-if="problem" class="text-brick" role="alert">Versions could not be loaded. Try again.</p>
    <p v-else-if="data?.versions.length === 0" class="font-serif text-[16px]">
      No versions yet. Switching on the rule creates the first.
    </p>
    <section
      v-if="data && data.versions.length > 0 && data.draft.length > 0"
      class="mb-3 rounded-[3px] bg-saffron-t px-3 py-2"
      aria-label="Unpublished changes"
    >
      <p class="font-semibold text-saffron">Unpublished changes</p>
      <ul>
        <li v-for="line in data.draft" :key="line" class="font-serif text-[15px]">{{ line }}</li>
      </ul>
    </section>
    <ol aria-label="Versions, newest first">
      <li v-for="version in data?.versions ?? []" :key="version.number" class="border-b border-hair py-2">
        <p class="flex flex-wrap items-baseline gap-x-2">
          <b class="font-semibold whitespace-nowrap">Version {{ version.number }}</b
          ><span v-if="version.running" class="text-moss">Current</span>
          <span class="quiet"
            >{{ version.person }}, {{ sayInstant(version.atMs, store.catalogue.workspace.zone) }}</span
          >
          <button
            v-if="editable && version.problem === null && (!version.running || data?.draftDiffers)"
            type="button"
            class="word ml-auto whitespace-nowrap"
            :aria-label="`Restore version ${version.number} to the draft`"
            @click="restore(version)"
          >
            Restore to draft
          </button>
        </p>
        <p v-if="version.problem" class="text-brick">Can’t be read: {{ version.problem }}</p>
        <p v-if="version.note" class="font-serif text-[16px] italic">{{ version.note }}</p>
        <ul v-if="version.changes.length > 0">
          <li
            v-for="line in version.changes.slice(0, open === version.number ? undefined : 4)"
            :key="line"
            class="font-serif text-[15px]"
          >
            {{ line }}
          </li>
        </ul>
        <p v-else-if="version.problem === null" class="quiet">
          {{ version === data?.versions.at(-1) ? 'First version.' : 'No changes from the version before.' }}
        </p>
        <button
          v-if="version.changes.length > 4 && open !== version.number"
          type="button"
          class="word"
          @click="open = version.number"
        >
          Show {{ version.changes.length - 4 }} more
        </button>
      </li>
    </ol>
  </div>
</template>
