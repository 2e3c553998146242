<script setup lang="ts">
import type { ObjectKind } from '#core/records/kinds'
import { useHere } from './useHere'
import FieldPicker from './FieldPicker.vue'

/** Some fields of the record, in the order in which they were chosen. */
const props = defineProps<{ fields: readonly string[]; object: ObjectKind }>()
const emit = defineEmits<{ set: [fields: string[]] }>()
const here = useHere()
const chosen = ref([...props.fields])
const label = (key: string): string => here.value.field(props.object, key)?.label ?? key
function pick(key: string): void {
  if (!chosen.value.includes(key)) chosen.value = [...chosen.value, key]
}
</script>

<template>
  <ul v-if="chosen.length > 0" class="mb-2 flex flex-wrap gap-1.5">
    <li v-for="key in chosen" :key="key">
      <button
        type="button"
        class="button py-0.5!"
        :aria-label="`Remove ${label(key)}`"
        @click="chosen = chosen.filter((one) => one !== key)"
      >
        {{ label(key) }} ×
      </button>
    </li>
  </ul>
  <FieldPicker :object="object" @pick="pick" />
  <p class="mt-2"><button type="button" class="button main" @click="emit('set', chosen)">Save</button></p>
</template>
