<script setup lang="ts">
import { foldUsual, isUsual, usualWords, type SentencePart } from '#core/language/sentence'

/** A sentence whose underlined words can be edited. `path` tells which part of the rule it is: `step:s1`. */
const props = defineProps<{
  parts: readonly SentencePart[]
  path: string
  editable: boolean
  open: string | null
  bad?: readonly string[]
}>()
const emit = defineEmits<{ edit: [param: string] }>()
const usual = computed(() => usualWords(props.parts))
const params = computed(() => props.parts.flatMap((part) => (isUsual(part) && 'param' in part ? [part.param] : [])))
/** What stands at its usual value is folded until it is asked for, or one of its words is being edited. */
const unfolded = ref(false)
const whole = computed(
  () =>
    props.editable &&
    (unfolded.value ||
      params.value.some((param) => props.open === `${props.path}/${param}` || props.bad?.includes(param))),
)
const said = computed(() => (whole.value ? props.parts : foldUsual(props.parts)))
/** Its lines. The second, most often a title, stands beside the end of the first where there is room for all of it. */
const lines = computed(() => {
  const made: { readonly at: number; readonly part: Exclude<SentencePart, { readonly break: true }> }[][] = [[]]
  said.value.forEach((part, at) => ('break' in part ? made.push([]) : made.at(-1)?.push({ at, part })))
  return made
})
/** The pieces of one text between its merge fields share a param; only the first is a stop for the Tab key. */
function first(index: number): boolean {
  const part = said.value[index]
  return (
    !!part && 'param' in part && said.value.findIndex((one) => 'param' in one && one.param === part.param) === index
  )
}
/** All of a text that is cut by its merge fields, for those who hear it as one word. */
function heard(index: number): string | undefined {
  const part = said.value[index]
  if (!part || !('param' in part)) return undefined
  const pieces = said.value.filter((one) => 'param' in one && one.param === part.param)
  return pieces.length < 2
    ? undefined
    : pieces.map((one) => ('merge' in one ? `{${one.label}}` : 'text' in one ? one.text : '')).join('')
}
/** The mark stands in a room behind the last word that goes with it: it is never alone on a line. */
const foldable = computed(() => props.editable && usual.value.length > 0)
const root = useTemplateRef('root')
async function turn(): Promise<void> {
  unfolded.value = !whole.value
  await nextTick()
  // The button stands at the end of the last line, and another one may be that now.
  const next = unfolded.value ? `[data-word="${props.path}/${params.value[0] ?? ''}"]` : '[data-usual]'
  root.value?.querySelector<HTMLElement>(next)?.focus()
}
</script>

<template>
  <!-- Spans and not buttons: a button never breaks across lines, and these words stand in running text. -->
  <span ref="root"
    ><template v-for="(line, n) in lines" :key="n"
      ><br v-if="n > 1" /><template v-if="n === 1">{{ ' ' }}</template
      ><span :class="[n === 1 && 'inline-block max-w-full', n === lines.length - 1 && foldable && 'pr-7']"
        ><template v-for="{ part, at } in line" :key="at"
          ><template v-if="'text' in part && !('param' in part)">{{ part.text }}</template
          ><template v-else-if="!editable"
            ><span v-if="'merge' in part" class="chip">{{ part.label }}</span
            ><template v-else>{{ part.text }}</template></template
          ><span
            v-else
            role="button"
            :class="'merge' in part ? 'chip cursor-pointer' : 'word cursor-pointer'"
            :data-word="first(at) ? `${path}/${part.param}` : undefined"
            :data-missing="!('merge' in part) && (part.missing || bad?.includes(part.param)) ? '' : undefined"
            :data-soft="isUsual(part) ? '' : undefined"
            :tabindex="first(at) ? 0 : -1"
            :aria-hidden="first(at) ? undefined : true"
            :aria-label="first(at) ? heard(at) : undefined"
            :aria-expanded="open === `${path}/${part.param}`"
            aria-haspopup="dialog"
            @click="emit('edit', part.param)"
            @keydown.enter.prevent="emit('edit', part.param)"
            @keydown.space.prevent="emit('edit', part.param)"
            >{{ 'merge' in part ? part.label : part.text }}</span
          ></template
        ><button
          v-if="n === lines.length - 1 && foldable"
          type="button"
          class="more-usual absolute"
          :aria-expanded="whole"
          :aria-label="`Usual settings: ${usual.join(', ')}`"
          :title="usual.join(', ')"
          data-usual
          @click="turn"
        >
          {{ whole ? '‹' : '…' }}
        </button></span
      ></template
    ></span
  >
</template>
