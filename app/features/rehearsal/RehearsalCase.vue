<script setup lang="ts">
import { count } from '#core/language/counts'
import { OBJECT_WORDS } from '#core/records/kinds'
import { selectSoon } from '~/shared/keys/focus'
import { attempt, send } from '~/shared/api/api'
import { goTo } from '~/shared/goTo'
import { once } from '~/shared/api/once'
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
const keepCase = once(async (): Promise<void> => {
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
  await goTo('/cases')
})
</script>

<template>
  <div class="mb-3">
    <button v-if="naming === null" type="button" class="button" data-keep-case @click="begin">
      Save as test case…
    </button>
    <form v-else class="rounded-[3px] bg-paper px-3 py-2" @submit.prevent="keepCase" @keydown.escape="naming = null">
      <label class="quiet block"
        >Test case name<br /><input
          v-model="naming"
          class="entry w-full"
          maxlength="300"
          @vue:mounted="({ el }: { readonly el: unknown }) => selectSoon(el)"
      /></label>
      <p class="quiet mt-1">
        Saves
        {{
          r.taking.length === 1
            ? 'this record and its links as they are now'
            : `the first ${count(r.taking.length, 'record')} and their links as they are now`
        }}, with this result as the expected one. The test runs before the rule is published.
      </p>
      <p class="mt-2 flex gap-2">
        <button type="submit" class="button main">Save</button
        ><button type="button" class="button" @click="naming = null">Cancel</button>
      </p>
    </form>
  </div>
</template>
