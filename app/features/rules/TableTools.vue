<script setup lang="ts">
import { AGGREGATIONS, HIT_POLICIES, type DecisionTable } from '#core/tables/table'

/** What is done with a decision table as a whole: more of it, which rows count, and its ways out and in. */
const props = defineProps<{ table: DecisionTable; editable: boolean }>()
const emit = defineEmits<{
  set: [table: DecisionTable]
  addInput: []
  addOutput: []
  addRow: []
  copy: []
  take: []
  bring: [event: Event]
}>()
const HIT_WORDS = {
  unique: 'The only matching row',
  first: 'The first matching row',
  collect: 'All matching rows',
} as const
const COLLECT_WORDS = {
  list: 'List',
  sum: 'Sum',
  min: 'Minimum',
  max: 'Maximum',
  count: 'Count',
} as const
const setHit = ({ value }: HTMLSelectElement): void =>
  emit('set', { ...props.table, hit: value as DecisionTable['hit'], collect: 'list' })
const setCollect = ({ value }: HTMLSelectElement): void =>
  emit('set', { ...props.table, collect: value as DecisionTable['collect'] })
</script>

<template>
  <p v-if="editable" class="mt-1 flex flex-wrap items-baseline gap-x-4 text-ink2">
    <button
      type="button"
      class="act"
      :class="table.inputs.length === 0 && 'word'"
      :data-missing="table.inputs.length === 0 ? '' : undefined"
      data-add-input
      @click="emit('addInput')"
    >
      Add input
    </button>
    <button
      type="button"
      class="act"
      :class="table.outputs.length === 0 && table.inputs.length > 0 && 'word'"
      data-add-output
      @click="emit('addOutput')"
    >
      Add result
    </button>
    <button type="button" class="act" data-add-row :disabled="table.inputs.length === 0" @click="emit('addRow')">
      Add row
    </button>
    <label
      >Use
      <select
        class="bg-transparent underline decoration-violet underline-offset-4"
        :value="table.hit"
        aria-label="Which rows to use"
        @change="setHit($event.target as HTMLSelectElement)"
      >
        <option v-for="hit in HIT_POLICIES" :key="hit" :value="hit">{{ HIT_WORDS[hit] }}</option>
      </select></label
    >
    <label v-if="table.hit === 'collect'"
      ><select
        class="bg-transparent underline decoration-violet underline-offset-4"
        :value="table.collect"
        aria-label="How to combine results"
        @change="setCollect($event.target as HTMLSelectElement)"
      >
        <option v-for="how in AGGREGATIONS" :key="how" :value="how">{{ COLLECT_WORDS[how] }}</option>
      </select></label
    >
    <span class="ml-auto" /><button type="button" class="min-h-6 hover:text-ink" @click="emit('copy')">
      Copy table</button
    ><button type="button" class="min-h-6 hover:text-ink" @click="emit('take')">Export DMN</button
    ><label class="min-h-6 cursor-pointer hover:text-ink"
      >Import DMN…<input type="file" class="sr-only" accept=".dmn,.xml,application/xml" @change="emit('bring', $event)"
    /></label>
  </p>
  <p v-else class="quiet">
    Uses: {{ HIT_WORDS[table.hit]
    }}<template v-if="table.hit === 'collect'">, {{ COLLECT_WORDS[table.collect] }}</template
    >.
  </p>
</template>
