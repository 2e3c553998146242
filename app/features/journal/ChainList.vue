<script setup lang="ts">
import RefLink from '~/shared/record/RefLink.vue'
import type { AnswerOf } from '~/shared/live/useLiveQuery'
import type { Nested } from '~/shared/run/nested'

/** What came of what: each line with what it led to within it. */
type Entry = AnswerOf<'/api/v1/runs/:id'>['chain'][number]
defineProps<{ entries: readonly Nested<Entry>[]; shown: number; level?: number }>()

/** A change begins; what failed, or was cut off, stops; everything else wrote something. */
function markOf(entry: Entry): string {
  if (entry.what === 'change') return 'start'
  return entry.state === 'failed' || (entry.state === 'stopped' && entry.text.includes('cut:')) ? 'stop' : 'data'
}
</script>

<template>
  <ol>
    <li v-for="node in entries" :key="node.of.what + node.of.id">
      <div
        class="flex items-baseline gap-2 border-b border-hair py-1 text-[13.5px]"
        :style="{ paddingLeft: `${(level ?? 0) * 14}px` }"
        :class="node.of.what === 'run' && node.of.id === shown && 'bg-violet-t'"
        :aria-current="node.of.what === 'run' && node.of.id === shown ? 'true' : undefined"
      >
        <span class="mark flex-none translate-y-px scale-75" :class="markOf(node.of)" aria-hidden="true" />
        <span class="min-w-0"
          ><NuxtLink
            v-if="node.of.what === 'run' && node.of.id !== shown"
            :to="`/journal/${node.of.id}`"
            class="name-link"
            >{{ node.of.text }}</NuxtLink
          ><template v-else>{{ node.of.text }}</template
          ><RefLink v-if="node.of.recordName" :of="node.of.ref" class="quiet name-link ml-1.5">
            {{ node.of.recordName }}</RefLink
          ></span
        >
      </div>
      <ChainList v-if="node.within.length > 0" :entries="node.within" :shown="shown" :level="(level ?? 0) + 1" />
    </li>
  </ol>
</template>
