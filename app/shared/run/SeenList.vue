<script setup lang="ts">
import type { Seen } from '#core/conditions/compile'

/** Conditions with the values they saw, held or not: by mark and word, never by colour alone. */
defineProps<{ seen: readonly Seen[]; mode: 'all' | 'any' | 'none' }>()
const MODES = {
  all: 'All of these must be true.',
  any: 'At least one must be true.',
  none: 'None may be true.',
} as const
</script>

<template>
  <div>
    <p v-if="seen.length === 0" class="quiet">No conditions: every record qualifies.</p>
    <p v-else-if="seen.length > 1 && mode !== 'all'" class="quiet">{{ MODES[mode] }}</p>
    <ul>
      <li v-for="one in seen" :key="one.id" class="flex items-baseline gap-2 py-0.5">
        <span
          class="w-[68px] flex-none text-[12px] whitespace-nowrap"
          :class="one.holds ? 'text-moss' : 'font-semibold text-brick'"
          >{{ one.holds ? '✓ true' : '✗ not true' }}</span
        >
        <span class="min-w-0"
          ><span class="font-serif text-[15px]">{{ one.text }}</span
          ><span class="quiet">
            · {{ one.linked ? '' : 'now ' }}{{ one.value }}<template v-if="one.off">, {{ one.off }}</template></span
          ></span
        >
      </li>
    </ul>
  </div>
</template>
