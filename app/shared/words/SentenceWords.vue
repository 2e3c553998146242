<script setup lang="ts">
import type { SentencePart } from '#core/language/sentence'

/** A sentence whose underlined words can be edited. `path` tells which part of the rule it is: `step:s1`. */
const props = defineProps<{
  parts: readonly SentencePart[]
  path: string
  editable: boolean
  open: string | null
  bad?: readonly string[]
}>()
const emit = defineEmits<{ edit: [param: string] }>()
/** The pieces of one text between its merge fields share a param; only the first is a stop for the Tab key. */
function first(index: number): boolean {
  const part = props.parts[index]
  return (
    !!part && 'param' in part && props.parts.findIndex((one) => 'param' in one && one.param === part.param) === index
  )
}
</script>

<template>
  <!-- Spans and not buttons: a button never breaks across lines, and these words stand in running text. -->
  <span
    ><template v-for="(part, i) in parts" :key="i"
      ><br v-if="'break' in part" /><template v-else-if="'text' in part && !('param' in part)">{{ part.text }}</template
      ><template v-else-if="!editable"
        ><span v-if="'merge' in part" class="chip">{{ part.label }}</span
        ><template v-else-if="!part.soft">{{ part.text }}</template></template
      ><span
        v-else
        role="button"
        :class="'merge' in part ? 'chip cursor-pointer' : 'word cursor-pointer'"
        :data-word="first(i) ? `${path}/${part.param}` : undefined"
        :data-missing="!('merge' in part) && (part.missing || bad?.includes(part.param)) ? '' : undefined"
        :data-soft="'soft' in part && part.soft ? '' : undefined"
        :tabindex="first(i) ? 0 : -1"
        :aria-expanded="open === `${path}/${part.param}`"
        aria-haspopup="dialog"
        @click="emit('edit', part.param)"
        @keydown.enter.prevent="emit('edit', part.param)"
        @keydown.space.prevent="emit('edit', part.param)"
        >{{ 'merge' in part ? part.label : part.text }}</span
      ></template
    ></span
  >
</template>
