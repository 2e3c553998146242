<script setup lang="ts">
import { count } from '#core/language/counts'
import type { MissingWord } from '#core/formats/csv/missing'

/** Missing words of one sort, each to be ticked, and all of them at once. What else is said of one stands beside it. */
export interface MissingLine extends MissingWord {
  readonly key: string
}
const props = defineProps<{
  title: string
  lines: readonly MissingLine[]
  ticked: (key: string) => boolean
}>()
const emit = defineEmits<{ tick: [keys: readonly string[], on: boolean] }>()
const some = computed(() => props.lines.filter(({ key }) => props.ticked(key)).length)
const isOn = (event: Event): boolean => (event.target as HTMLInputElement).checked
const allKeys = computed(() => props.lines.map(({ key }) => key))
</script>

<template>
  <fieldset class="min-w-0">
    <legend class="flex w-full items-baseline gap-2 border-b border-hair pb-1 font-medium">
      <label class="flex min-w-0 items-baseline gap-2"
        ><input
          type="checkbox"
          :checked="some === lines.length"
          :indeterminate="some > 0 && some < lines.length"
          @change="emit('tick', allKeys, isOn($event))"
        /><span class="truncate">{{ title }}</span></label
      >
      <slot name="head" />
    </legend>
    <ul class="max-h-52 overflow-auto pt-1">
      <li v-for="(line, i) in lines" :key="line.key" class="flex flex-wrap items-baseline gap-x-2 py-0.5">
        <label class="flex min-w-24 flex-1 items-baseline gap-2"
          ><input type="checkbox" :checked="ticked(line.key)" @change="emit('tick', [line.key], isOn($event))" /><span
            class="truncate"
            :title="line.text"
            >{{ line.text }}</span
          ></label
        >
        <slot :line="line" :index="i" />
        <span class="quiet ml-auto w-14 flex-none text-right">{{ count(line.rows, 'row') }}</span>
      </li>
    </ul>
    <slot name="foot" />
  </fieldset>
</template>
