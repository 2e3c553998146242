<script setup lang="ts">
import type { SentencePart } from '#core/rules/sentence'
import { mergeFields } from '#core/rules/merge'
import type { ObjectKind } from '#core/records/kinds'

/** A sentence whose underlined words can be edited. `path` tells which part of the rule it is: `step:s1`. */
const props = defineProps<{ parts: readonly SentencePart[]; path: string; object: ObjectKind; editable: boolean; open: string | null; bad?: readonly string[] }>()
const emit = defineEmits<{ edit: [param: string] }>()
const store = useCatalogue()
const labels = computed(() => new Map(mergeFields(props.object, store.catalogue).map((field) => [field.name, field.label])))
/** The pieces of one text between its merge fields share a param; only the first is a stop for the Tab key. */
const first = (index: number): boolean => {
  const part = props.parts[index]
  return !!part && 'param' in part && props.parts.findIndex((one) => 'param' in one && one.param === part.param) === index
}
/** Merge chips belong to the text they stand in. */
const paramAt = (index: number): string => {
  for (let i = index; i >= 0; i--) {
    const part = props.parts[i]
    if (part && 'param' in part) return part.param
    if (part && 'break' in part) break
  }
  const next = props.parts.slice(index).find((part) => 'param' in part)
  return next && 'param' in next ? next.param : 'title'
}
</script>

<template>
  <span><template v-for="(part, i) in parts" :key="i"><br v-if="'break' in part"><button
    v-else-if="'merge' in part && editable" type="button" tabindex="-1" class="chip" @click="emit('edit', paramAt(i))"
  >{{ labels.get(part.merge) ?? part.merge }}</button><span v-else-if="'merge' in part" class="chip">{{ labels.get(part.merge) ?? part.merge }}</span><button
    v-else-if="'param' in part && editable" type="button" class="word" :data-word="first(i) ? `${path}/${part.param}` : undefined"
    :data-missing="part.missing || bad?.includes(part.param) ? '' : undefined" :data-soft="part.text === 'add notes' ? '' : undefined" :tabindex="first(i) ? 0 : -1"
    :aria-expanded="open === `${path}/${part.param}`" aria-haspopup="dialog" @click="emit('edit', part.param)"
  >{{ part.text }}</button><template v-else>{{ part.text }}</template></template></span>
</template>
