<script setup lang="ts">
import { OBJECT_WORDS } from '#core/records/kinds'
import { attempt, send } from '~/shared/api/api'
import type { Rehearsal } from './useRehearsal'

/** Keeps a rehearsal as a case: these records as they are now, with what came of them. */
const { r } = defineProps<{ r: Rehearsal }>()
const naming = ref<string | null>(null)
/** Begins with a name that says what it is about. */
function begin(): void {
  const about =
    r.taking.length === 1 ? r.view?.lines[0]?.recordName : `${r.taking.length} ${OBJECT_WORDS[r.object].many}`
  naming.value = `${r.picked[0]?.name ?? ''}: ${about}`
}
async function keepCase(): Promise<void> {
  const name = naming.value?.trim()
  if (!name) return
  const kept = await attempt(() =>
    send<{ id: number }>('POST', '/api/v1/cases', {
      name,
      rules: r.chosen.map((rule) => ({ rule })),
      ids: r.taking,
      days: r.days,
      script: r.assumed,
    }),
  )
  if (!kept) return
  naming.value = null
  await navigateTo('/cases')
}
</script>

<template>
  <div class="mb-3">
    <button v-if="naming === null" type="button" class="button" data-keep-case @click="begin">Keep as a case …</button>
    <form v-else class="rounded-[3px] bg-paper px-3 py-2" @submit.prevent="keepCase" @keydown.escape="naming = null">
      <label class="quiet block"
        >the case is called<br /><input
          v-model="naming"
          class="entry w-full"
          maxlength="300"
          @vue:mounted="($event.el as HTMLInputElement).select()"
      /></label>
      <p class="quiet mt-1">
        {{ r.taking.length === 1 ? 'This record' : `The first ${r.taking.length} of these records` }} as
        {{ r.taking.length === 1 ? 'it is' : 'they are' }} now, with what is linked, and what comes is expected from now
        on. It runs again before the rule is published.
      </p>
      <p class="mt-2 flex gap-2">
        <button type="submit" class="button main">Keep</button
        ><button type="button" class="button" @click="naming = null">Not now</button>
      </p>
    </form>
  </div>
</template>
