<script setup lang="ts">
import { jsonProblem } from '#core/web/json'
import {
  addBehind,
  addInside,
  changeLine,
  holderOf,
  isNamed,
  JSON_TYPES,
  readOutline,
  removeLine,
  retypeLine,
  shiftLine,
  writeOutline,
  type JsonFault,
  type JsonOutline,
  type JsonType,
} from '#core/web/json-lines'
import { mergeFields } from '#core/rules/merge'
import type { ObjectKind } from '#core/records/kinds'
import { useSpoken } from '~/shared/keys/useSpoken'
import { useHere } from './useHere'

const MergeTextEditor = defineAsyncComponent(() => import('./MergeTextEditor.vue'))

/** JSON with merge fields, line by line, or as the text that it is. */
const props = defineProps<{ text: string; object: ObjectKind; most: number; label: string }>()
const emit = defineEmits<{ set: [text: string] }>()
const TYPES: Readonly<Record<JsonType, string>> = {
  text: 'Text',
  number: 'Number',
  yesNo: 'Yes or no',
  field: 'Field',
  nothing: 'Empty',
  object: 'Group',
  list: 'List',
}
const FAULTS: Readonly<Record<JsonFault['fault'], string>> = {
  noName: 'Enter a name.',
  sameName: 'This name is already used here.',
  noNumber: 'Enter a number such as 12.5.',
  noField: 'Choose a field.',
}
const here = useHere()
const fields = computed(() => mergeFields(props.object, here.value))
const text = ref(props.text)
const began = readOutline(props.text)
const outline = ref<JsonOutline>(began ?? { whole: 'object', lines: [] })
const asText = ref(began === null)
/** Told once she wants to save: what is still being typed is no mistake. */
const fault = ref<JsonFault | null>(null)
const tooLong = ref(false)
const form = useTemplateRef<HTMLFormElement>('form')
const { say } = useSpoken()

if (outline.value.lines.length === 0) outline.value = addBehind(outline.value, -1).outline

/** "lines, 2nd, count": where a line stands, for who cannot see how deep it is. */
function placeOf(at: number): string {
  const { lines } = outline.value
  const own = lines[at]?.name.trim() || (isNamed(outline.value, at) ? `line ${at + 1}` : `item ${placeAmong(at)}`)
  const holder = holderOf(lines, at)
  return holder < 0 ? own : `${placeOf(holder)}, ${own}`
}
function placeAmong(at: number): number {
  const { lines } = outline.value
  const holder = holderOf(lines, at)
  let n = 1
  for (let i = holder + 1; i < at; i++) if (lines[i]?.depth === lines[at]?.depth) n++
  return n
}

async function focusOn(at: number, what: 'name' | 'value' | 'type' = 'name'): Promise<void> {
  await nextTick()
  const line = form.value?.querySelector(`[data-json-line="${at}"]`)
  // An item of a list has no name.
  const entry = [what, 'name', 'value', 'type'].flatMap(
    (one) => line?.querySelector<HTMLElement>(`[data-json="${one}"]`) ?? [],
  )[0]
  if (entry) entry.focus()
  else form.value?.querySelector<HTMLElement>('[data-json-add]')?.focus()
}

function take(made: { readonly outline: JsonOutline; readonly at: number } | null, what?: 'name' | 'value'): void {
  if (!made) return
  outline.value = made.outline
  fault.value = null
  void focusOn(made.at, what)
}
const change = (at: number, part: { name?: string; value?: string }): void => {
  outline.value = changeLine(outline.value, at, part)
  if (fault.value?.at === at) fault.value = null
}
function remove(at: number): void {
  outline.value = removeLine(outline.value, at)
  fault.value = null
  void focusOn(Math.min(at, outline.value.lines.length - 1))
}
function retype(at: number, type: JsonType): void {
  outline.value = retypeLine(outline.value, at, type)
  fault.value = null
}
function shift(at: number, by: -1 | 1, event: Event): void {
  const what = (event.target as HTMLElement).dataset.json === 'value' ? 'value' : 'name'
  const moved = shiftLine(outline.value, at, by)
  if (moved) say(`Line moved ${by < 0 ? 'up' : 'down'}`)
  take(moved, what)
}
/** A field behind what is typed. */
function insert(at: number, event: Event): void {
  const choice = event.target as HTMLSelectElement
  const name = choice.value
  choice.value = ''
  if (name === '') return
  change(at, { value: `${outline.value.lines[at]?.value ?? ''}{{${name}}}` })
  void focusOn(at, 'value')
}

/** The text that the lines make; `null`, with the place told, while they make none. */
function written(): string | null {
  // A last line that nobody has filled is none.
  const { lines } = outline.value
  const last = lines.at(-1)
  const bare = last && last.depth === 0 && last.name.trim() === '' && last.value === '' && last.type === 'text'
  const made = writeOutline(bare ? removeLine(outline.value, lines.length - 1) : outline.value)
  if ('text' in made) return made.text
  fault.value = made
  void focusOn(made.at, made.fault === 'noName' || made.fault === 'sameName' ? 'name' : 'value')
  return null
}
function apply(): void {
  const made = written()
  tooLong.value = made !== null && made.length > props.most
  if (made !== null && !tooLong.value) emit('set', made)
}
function showText(): void {
  const made = written()
  if (made === null) return
  text.value = made
  asText.value = true
}
const textFault = ref('')
function takeText(now: string): void {
  text.value = now
  textFault.value = now.trim() === '' ? '' : (jsonProblem(now) ?? '')
  if (textFault.value === '') emit('set', now)
}
</script>

<template>
  <div v-if="asText">
    <MergeTextEditor :text="text" :object="object" lines="many" :most="most" :label="label" @set="takeText" />
    <p v-if="textFault" class="mt-1 text-brick" role="alert">Not JSON: {{ textFault }}.</p>
    <p v-else class="quiet mt-1">JSON is edited as text here.</p>
  </div>
  <form v-else ref="form" data-json-editor @submit.prevent="apply" @keydown.ctrl.enter.prevent="apply">
    <ol class="-m-1 max-h-[46vh] space-y-1 overflow-auto p-1" :aria-label="label">
      <li
        v-for="(line, at) in outline.lines"
        :key="at"
        :data-json-line="at"
        :style="{ paddingLeft: `${Math.min(line.depth, 8) * 16}px` }"
        @keydown.alt.up.prevent.stop="shift(at, -1, $event)"
        @keydown.alt.down.prevent.stop="shift(at, 1, $event)"
      >
        <p class="flex flex-wrap items-center gap-1.5">
          <input
            v-if="isNamed(outline, at)"
            :value="line.name"
            class="entry w-[128px] py-0.5! max-[499px]:w-[84px]"
            maxlength="100"
            placeholder="name"
            data-json="name"
            :data-first="at === 0 ? '' : undefined"
            :aria-label="`Name of ${placeOf(at)}`"
            :aria-invalid="fault?.at === at && /Name$/.test(fault.fault)"
            @input="change(at, { name: ($event.target as HTMLInputElement).value })"
            @keydown.enter.exact.prevent="take(addBehind(outline, at))"
          /><span v-else class="quiet w-[34px] text-right">{{ placeAmong(at) }}.</span>
          <select
            class="entry py-0.5!"
            :value="line.type"
            data-json="type"
            :aria-label="`Type of ${placeOf(at)}`"
            @change="retype(at, ($event.target as HTMLSelectElement).value as JsonType)"
          >
            <option v-for="type in JSON_TYPES" :key="type" :value="type">{{ TYPES[type] }}</option>
          </select>
          <template v-if="line.type === 'text' || line.type === 'number'">
            <input
              :value="line.value"
              class="entry min-w-[90px] flex-1 py-0.5!"
              maxlength="4000"
              data-json="value"
              :inputmode="line.type === 'number' ? 'decimal' : undefined"
              :aria-label="`Value of ${placeOf(at)}`"
              :aria-invalid="fault?.at === at && fault.fault === 'noNumber'"
              @input="change(at, { value: ($event.target as HTMLInputElement).value })"
              @keydown.enter.exact.prevent="take(addBehind(outline, at))"
            /><select
              v-if="line.type === 'text'"
              class="entry w-[58px] py-0.5!"
              :aria-label="`Insert a field into ${placeOf(at)}`"
              title="Insert field"
              @change="insert(at, $event)"
            >
              <option value="">{ }</option>
              <option v-for="field in fields" :key="field.name" :value="field.name">{{ field.label }}</option>
            </select>
          </template>
          <select
            v-else-if="line.type === 'yesNo'"
            class="entry py-0.5!"
            data-json="value"
            :value="line.value"
            :aria-label="`Value of ${placeOf(at)}`"
            @change="change(at, { value: ($event.target as HTMLSelectElement).value })"
          >
            <option value="true">yes</option>
            <option value="false">no</option>
          </select>
          <select
            v-else-if="line.type === 'field'"
            class="entry min-w-[90px] flex-1 py-0.5!"
            data-json="value"
            :value="line.value"
            :aria-label="`Field for ${placeOf(at)}`"
            :aria-invalid="fault?.at === at && fault.fault === 'noField'"
            @change="change(at, { value: ($event.target as HTMLSelectElement).value })"
          >
            <option value="">Choose a field</option>
            <option v-if="line.value !== '' && !fields.some(({ name }) => name === line.value)" :value="line.value">
              {{ line.value }}?
            </option>
            <option v-for="field in fields" :key="field.name" :value="field.name">{{ field.label }}</option>
          </select>
          <button
            v-else-if="line.type !== 'nothing'"
            type="button"
            class="act"
            :aria-label="`Add a line to ${placeOf(at)}`"
            @click="take(addInside(outline, at))"
          >
            Add inside
          </button>
          <button
            type="button"
            class="quiet ml-auto min-h-6 px-1.5 max-[499px]:px-1"
            :aria-label="`Remove ${placeOf(at)}`"
            @click="remove(at)"
          >
            ×
          </button>
        </p>
        <p v-if="fault?.at === at" class="text-brick" role="alert">{{ FAULTS[fault.fault] }}</p>
      </li>
    </ol>
    <p v-if="tooLong" class="mt-1 text-brick" role="alert">The body is longer than {{ most }} characters.</p>
    <p class="mt-2 flex flex-wrap items-center gap-2">
      <button class="button main" type="submit">Save</button
      ><button class="button" type="button" data-json-add @click="take(addBehind(outline, -1))">Add line</button
      ><button class="button" type="button" @click="showText">Edit as text</button
      ><span class="quiet ml-auto"
        ><kbd>Enter</kbd> new line, <kbd>Alt</kbd> <kbd>↑</kbd> <kbd>↓</kbd> move, <kbd>Ctrl</kbd>
        <kbd>Enter</kbd> save</span
      >
    </p>
  </form>
</template>
