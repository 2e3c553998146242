<script setup lang="ts" generic="K extends string">
import { figure } from '#core/language/counts'

/** Counts of something by owner, label, template or month. */
defineProps<{
  /** Whether its figures open the list of what they count. */ opens?: boolean
  title: string
  columns: readonly { readonly key: K; readonly label: string }[]
  lines: readonly { readonly key: string; readonly label: string; readonly counts: Readonly<Record<string, number>> }[]
}>()
const emit = defineEmits<{ open: [figure: K, value: string, words: string] }>()
</script>

<template>
  <div v-if="lines.length > 0" class="mt-3 overflow-x-auto" tabindex="0" role="region" :aria-label="title">
    <table class="list w-auto min-w-[420px]" :aria-label="title">
      <thead>
        <tr>
          <th scope="col" class="w-56">{{ title }}</th>
          <th v-for="column in columns" :key="column.key" scope="col" class="px-3 text-right">{{ column.label }}</th>
        </tr>
      </thead>
      <tbody>
        <tr v-for="line in lines" :key="line.key">
          <th scope="row" class="text-left font-normal">{{ line.label }}</th>
          <td v-for="column in columns" :key="column.key" class="px-3 text-right tabular-nums">
            <button
              v-if="opens && (line.counts[column.key] ?? 0) > 0"
              type="button"
              class="word"
              :aria-label="`${figure(line.counts[column.key] ?? 0)} ${column.label.toLowerCase()}, ${line.label}`"
              @click="emit('open', column.key, line.key, line.label)"
            >
              {{ figure(line.counts[column.key] ?? 0) }}</button><template v-else>{{
              figure(line.counts[column.key] ?? 0)
            }}</template>
          </td>
        </tr>
      </tbody>
    </table>
  </div>
</template>
