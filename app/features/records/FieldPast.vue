<script setup lang="ts">
import { sayInstant } from '#core/time/say'
import type { RecordRef } from '#core/records/kinds'
import type { FieldPast } from '~~/server/views/why'
import { read, attempt } from '~/shared/api/api'
import { useCatalogue } from '~/shared/stores/catalogue'

/** Who or what set a field, newest first. */
const props = defineProps<{ of: RecordRef; field: string }>()
const store = useCatalogue()
const past = shallowRef<FieldPast | null>(null)
const box = useTemplateRef<HTMLElement>('box')
onMounted(async () => {
  past.value = await attempt(() =>
    read<FieldPast>(`/api/v1/records/${props.of.object}/${props.of.id}/fields/${props.field}`),
  )
  await nextTick()
  box.value?.focus()
})
</script>

<template>
  <div ref="box" class="max-h-80 w-[360px] overflow-auto outline-none" tabindex="-1">
    <p v-if="!past" class="quiet">Loading…</p>
    <template v-else>
      <h2 class="font-serif text-[17px]">History of {{ past.label }}</h2>
      <p v-if="past.changes.length === 0 && !past.note" class="quiet mt-1">This field has always been empty.</p>
      <ol class="mt-1">
        <li v-for="change in past.changes" :key="change.seq" class="border-b border-hair py-1">
          <NuxtLink
            v-if="change.doer.runId"
            :to="`/journal/${change.doer.runId}`"
            class="name-link font-semibold text-violet"
            >{{ change.doer.name }}</NuxtLink><b v-else class="font-semibold">{{ change.doer.name }}</b>
          <span class="quiet"> {{ sayInstant(change.atMs, store.catalogue.workspace.zone) }}</span><br />
          <template v-if="change.created">{{ change.new }}<span class="quiet"> (at creation)</span></template
          ><template v-else
            ><s class="text-ink2 decoration-hair">{{ change.old }}</s> → {{ change.new }}</template
          >
        </li>
      </ol>
      <p v-if="past.note" class="quiet mt-1">{{ past.note }}</p>
    </template>
  </div>
</template>
