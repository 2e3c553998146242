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
  unique: 'one row at most fits',
  first: 'the first row that fits',
  collect: 'all rows that fit',
} as const
const COLLECT_WORDS = {
  list: 'listed',
  sum: 'added up',
  min: 'the least of them',
  max: 'the most of them',
  count: 'counted',
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
      class="font-serif text-[15px] italic hover:text-ink"
      :class="table.inputs.length === 0 && 'word'"
      :data-missing="table.inputs.length === 0 ? '' : undefined"
      data-add-input
      @click="emit('addInput')"
    >
      {{ table.inputs.length === 0 ? 'choose what it looks at' : 'look at more' }}
    </button>
    <button
      type="button"
      class="font-serif text-[15px] italic hover:text-ink"
      :class="table.outputs.length === 0 && table.inputs.length > 0 && 'word'"
      data-add-output
      @click="emit('addOutput')"
    >
      {{ table.outputs.length === 0 ? 'say what it gives' : 'give more' }}
    </button>
    <button
      type="button"
      class="font-serif text-[15px] italic hover:text-ink"
      data-add-row
      :disabled="table.inputs.length === 0"
      @click="emit('addRow')"
    >
      another row
    </button>
    <label
      >Takes
      <select
        class="bg-transparent underline decoration-violet underline-offset-4"
        :value="table.hit"
        aria-label="Which rows count"
        @change="setHit($event.target as HTMLSelectElement)"
      >
        <option v-for="hit in HIT_POLICIES" :key="hit" :value="hit">{{ HIT_WORDS[hit] }}</option>
      </select></label
    >
    <label v-if="table.hit === 'collect'"
      ><select
        class="bg-transparent underline decoration-violet underline-offset-4"
        :value="table.collect"
        aria-label="What they come to"
        @change="setCollect($event.target as HTMLSelectElement)"
      >
        <option v-for="how in AGGREGATIONS" :key="how" :value="how">{{ COLLECT_WORDS[how] }}</option>
      </select></label
    >
    <span class="ml-auto" /><button type="button" class="hover:text-ink" @click="emit('copy')">Copy</button
    ><button type="button" class="hover:text-ink" @click="emit('take')">DMN file</button
    ><label class="cursor-pointer hover:text-ink"
      >From a DMN file<input
        type="file"
        class="sr-only"
        accept=".dmn,.xml,application/xml"
        @change="emit('bring', $event)"
    /></label>
  </p>
  <p v-else class="quiet">
    Takes {{ HIT_WORDS[table.hit]
    }}<template v-if="table.hit === 'collect'">, {{ COLLECT_WORDS[table.collect] }}</template
    >.
  </p>
</template>
