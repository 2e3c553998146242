<script setup lang="ts">
import { READING_TYPES, type Reading } from '#core/web/reading'
import { readPath } from '#core/web/json'
import { outputKey } from '#core/tables/table'

/** What is read out of an answer: each value with its name, its type and where it stands. */
const props = defineProps<{ readings: readonly Reading[] }>()
const emit = defineEmits<{ set: [readings: Reading[]] }>()
const WORDS = { text: 'Text', number: 'Number', date: 'Date', yesNo: 'Yes or no' } as const
const list = ref<Reading[]>(props.readings.map((one) => ({ ...one })))
const known = new Set(props.readings.map((one) => one.key))
const add = (): void => {
  list.value = [...list.value, { key: '', label: '', type: 'text', path: '' }]
}
if (list.value.length === 0) add()
const change = (at: number, part: Partial<Reading>): void => {
  list.value = list.value.map((one, i) => (i === at ? { ...one, ...part } : one))
}
const wrong = computed(() => list.value.findIndex((one) => one.label.trim() !== '' && !isPath(one.path)))
const isPath = (path: string): boolean => path.trim() !== '' && readPath(path) !== null
function apply(): void {
  if (wrong.value >= 0) return
  const made: Reading[] = []
  for (const one of list.value) {
    const label = one.label.trim()
    if (label === '') continue
    // A key that was there stays: steps name the value by it.
    const key = known.has(one.key)
      ? one.key
      : outputKey(
          label,
          made.map((other) => other.key),
        )
    made.push({ ...one, label, key, path: one.path.trim() })
  }
  emit('set', made)
}
</script>

<template>
  <form @submit.prevent="apply">
    <ol class="space-y-2">
      <li v-for="(reading, at) in list" :key="at" class="border-b border-hair pb-2">
        <p class="flex gap-2">
          <input
            :value="reading.label"
            class="entry min-w-0 flex-1"
            maxlength="100"
            placeholder="order number"
            :aria-label="`Name of value ${at + 1}`"
            @input="change(at, { label: ($event.target as HTMLInputElement).value })"
          /><button
            type="button"
            class="quiet px-1"
            :aria-label="`Remove value ${at + 1}`"
            @click="list = list.filter((_, i) => i !== at)"
          >
            ×
          </button>
        </p>
        <p class="mt-1 flex flex-wrap items-baseline gap-2">
          <select
            class="entry py-0.5!"
            :value="reading.type"
            :aria-label="`Type of value ${at + 1}`"
            @change="change(at, { type: ($event.target as HTMLSelectElement).value as Reading['type'] })"
          >
            <option v-for="type in READING_TYPES" :key="type" :value="type">{{ WORDS[type] }}</option>
          </select>
          at
          <input
            :value="reading.path"
            class="entry min-w-0 flex-1 py-0.5!"
            maxlength="300"
            placeholder="$.order.number"
            :aria-label="`Place of value ${at + 1} in the answer`"
            :aria-invalid="wrong === at"
            @input="change(at, { path: ($event.target as HTMLInputElement).value })"
          />
        </p>
      </li>
    </ol>
    <p v-if="wrong >= 0" class="mt-1 text-brick" role="alert">
      “{{ list[wrong]?.path }}” is no place in an answer. Write it like $.order.items[0].id.
    </p>
    <p class="mt-2 flex gap-2">
      <button class="button main" type="submit">Save</button
      ><button class="button" type="button" @click="add">Add value</button>
    </p>
  </form>
</template>
