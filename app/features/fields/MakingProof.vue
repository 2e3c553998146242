<script setup lang="ts">
import { figure } from '#core/language/counts'
import { OBJECT_WORDS, type ObjectKind } from '#core/records/kinds'
import type { MakingShown } from '~~/server/views/derived'
import { recordPath } from '~/shared/paths'

/** What a field would come to on real records: how many above and below nothing, and ten that tell most. */
const props = defineProps<{ shown: MakingShown | null; object: ObjectKind; busy: boolean }>()
const parts = computed(() => {
  const { above = 0, zero = 0, below = 0, empty = 0, other = 0 } = props.shown?.counts ?? {}
  return [
    { name: 'below 0', count: below, tone: 'bg-brick' },
    { name: '0', count: zero, tone: 'bg-ink2' },
    { name: 'above 0', count: above, tone: 'bg-violet' },
    { name: 'with a value', count: other, tone: 'bg-violet' },
    { name: 'empty', count: empty, tone: 'bg-hair' },
  ].filter((part) => part.count > 0)
})
const labels = computed(() => props.shown?.samples[0]?.inputs.map((one) => one.label) ?? [])
const WHY = { least: 'lowest', most: 'highest', empty: 'empty', '': '' } as const
</script>

<template>
  <section aria-label="Results for your records" aria-live="polite" :aria-busy="busy" data-proof>
    <template v-if="shown && shown.looked > 0">
      <h2>
        Results for your {{ OBJECT_WORDS[object].many }}
        <span class="font-sans text-[13px] text-ink2">{{
          shown.looked === 5000 ? `first ${figure(5000)}` : figure(shown.looked)
        }}</span>
      </h2>
      <p v-if="shown.reading" class="mt-2 border-l-2 border-saffron pl-3 font-serif text-[17px]" data-reading>
        {{ shown.reading }}
      </p>
      <div class="mt-3 flex h-2.5 gap-px" aria-hidden="true">
        <span v-for="part in parts" :key="part.name" :class="part.tone" :style="{ flexGrow: part.count }" />
      </div>
      <p class="mt-1 flex flex-wrap gap-x-4 text-[13px]" data-counts>
        <span v-for="part in parts" :key="part.name"
          ><i class="mr-1.5 inline-block h-2.5 w-2.5 align-[-1px]" :class="part.tone" aria-hidden="true" />{{
            part.count.toLocaleString('en')
          }}
          {{ part.name }}</span
        >
      </p>
      <table class="list mt-3" :aria-label="`Results for your ${OBJECT_WORDS[object].many}`">
        <thead>
          <tr>
            <th>{{ OBJECT_WORDS[object].one[0]?.toUpperCase() }}{{ OBJECT_WORDS[object].one.slice(1) }}</th>
            <th v-for="label in labels" :key="label">{{ label }}</th>
            <th class="text-right!">Result</th>
          </tr>
        </thead>
        <tbody>
          <tr v-for="sample in shown.samples" :key="sample.id">
            <td class="max-w-[190px] truncate max-[1200px]:max-w-[110px]">
              <NuxtLink :to="recordPath({ object, id: sample.id })" class="name-link" :title="sample.name">{{
                sample.name
              }}</NuxtLink>
            </td>
            <td v-for="one in sample.inputs" :key="one.label" :class="one.text === 'empty' && 'text-ink2 italic'">
              {{ one.text }}
            </td>
            <td class="num whitespace-nowrap">
              <span v-if="sample.why" class="quiet mr-2 max-[1200px]:hidden">{{
                sample.why === 'empty' ? '' : WHY[sample.why]
              }}</span><b class="font-semibold" :class="sample.result === 'empty' && 'font-normal! text-ink2 italic'">{{
                sample.result
              }}</b>
            </td>
          </tr>
        </tbody>
      </table>
    </template>
    <p v-else-if="shown?.problem" class="quiet mt-1">Results appear here once the formula is valid.</p>
    <p v-else-if="shown" class="quiet mt-1">No {{ OBJECT_WORDS[object].many }} yet.</p>
  </section>
</template>
