<script setup lang="ts">
import { capital } from '#core/language/nouns'
import { count, listOf, nounOf } from '#core/language/counts'
import type { Field } from '#core/fields/field'
import { sayProblem } from '#core/language/problems'
import type { ObjectKind } from '#core/records/kinds'
import { mainKinds } from '#core/conditions/operators/another-field'
import { FIELD_TYPES } from '#core/fields/types'
import { inputFields, sayInput } from '#core/rules/steps/decide'
import { rowsForHole } from '#core/rules/preflight/table-holes'
import { coverageOf, sayBox } from '#core/tables/coverage'
import { OUTPUT_TYPES, ROWS_MOST, testedBy, type DecisionTable, type TableOutput } from '#core/tables/table'
import {
  withInput,
  withInputAt,
  withoutInput,
  withOutput,
  withOutputNamed,
  withoutOutput,
  withOutputTyped,
} from '#core/tables/columns'
import { fieldWord } from '#core/fields/say-value'
import { saveText } from '~/shared/api/saveText'
import { useHere } from '~/shared/words/useHere'
import { useNotices } from '~/shared/stores/notices'
import NumberLine from './NumberLine.vue'
import TableTools from './TableTools.vue'
import { useTableGrid } from './useTableGrid'
import { useTableTexts } from './tableTexts'
import { useSpoken } from '~/shared/keys/useSpoken'
import PopOver from '~/shared/words/PopOver.vue'
import { onceReady } from '~/shared/onceReady'

const OptionList = onceReady(() => import('~/shared/words/OptionList.vue'))

/** A decision table on the sheet, edited like a spreadsheet: type, Tab, Enter, arrows, and paste from one. */
const props = defineProps<{
  table: DecisionTable
  stepId: string
  name: string
  object: ObjectKind
  editable: boolean
  /** Whether a result is used further down, so that its key must stay. */ used: (key: string) => boolean
  /** Whether it was just added, and asks what it decides by as soon as it stands. */ fresh: boolean
}>()
const emit = defineEmits<{ set: [table: DecisionTable]; stands: [] }>()
const here = useHere()
const names = computed(() => ({ catalogue: here.value, object: props.object }))
const fields = computed(() => inputFields(props.table, names.value))
const known = computed(() => fields.value.filter((field): field is Field => field !== null))
const coverage = computed(() =>
  known.value.length === fields.value.length && known.value.length > 0 && props.table.rows.length > 0
    ? coverageOf(props.table, known.value, here.value)
    : null,
)
const root = useTemplateRef<HTMLElement>('root')

const OUTPUT_WORDS = { text: 'text', number: 'number', yesNo: 'yes or no' } as const

const notices = useNotices()
const { say } = useSpoken()
const texts = useTableTexts({
  table: () => props.table,
  object: () => props.object,
  catalogue: () => here.value,
  fields: () => fields.value,
  set: (table) => emit('set', table),
  say,
  full: (left) =>
    notices.tell({
      tone: 'wrong',
      title: `${count(left, 'row')} left out`,
      text: `A table can have at most ${count(ROWS_MOST, 'row')}.`,
    }),
})
const { textAt, wrongAt } = texts
const width = computed(() => texts.width())
const { isStop, inHead, focusCell, come, goInside, key, headKey } = useTableGrid({
  root,
  rows: () => props.table.rows.length,
  width: () => width.value,
  held: texts.heldAt,
  commit: (row, column, input) => texts.commit(row, column, input.value),
  revert: texts.revert,
  addRow: texts.addRow,
  removeRow: texts.removeRow,
  moveRow: texts.moveRow,
})
function addRowAndGo(): void {
  texts.addRow()
  void focusCell(props.table.rows.length, 0)
}
function paste(row: number, column: number, event: ClipboardEvent): void {
  if (texts.paste(row, column, event.clipboardData?.getData('text/plain') ?? '')) event.preventDefault()
}

/** Everything that a table can look at: own fields, those of main linked records, and results of steps before. */
const picking = ref<number | 'new' | null>(null)
onMounted(() => {
  if (!props.fresh) return
  picking.value = 'new'
  emit('stands')
})
const inputOptions = computed(() =>
  [null, ...mainKinds(props.object)].flatMap((via) =>
    here.value
      .fields(via ?? props.object)
      .filter((field) => testedBy(field) !== null && !(via !== null && field.id === 0))
      .map((field) => ({
        value: `${via ?? ''}:${field.key}`,
        label: via === null ? field.label : `${via}: ${field.label}`,
        hint: FIELD_TYPES[field.type].word,
        words: field.description,
      })),
  ),
)
function pickInput(value: string): void {
  const [via = '', ...rest] = value.split(':')
  const input = { via: via === '' ? null : (via as ObjectKind), field: rest.join(':') }
  const at = picking.value
  picking.value = null
  if (at === 'new') {
    emit('set', withInput(props.table, input))
    void focusCell(0, props.table.inputs.length)
  } else if (at !== null) emit('set', withInputAt(props.table, at, input))
}
const removeInput = (at: number): void => emit('set', withoutInput(props.table, at))
function addOutput(): void {
  emit('set', withOutput(props.table))
  void nextTick(() => {
    const inputs = root.value?.querySelectorAll<HTMLInputElement>('[data-output]')
    inputs?.[inputs.length - 1]?.select()
  })
}
const removeOutput = (at: number): void => emit('set', withoutOutput(props.table, at))
const naming = ref<{ readonly at: number; readonly text: string } | null>(null)
function renameOutput(at: number, label: string): void {
  naming.value = null
  const name = label.trim()
  if (name !== '') emit('set', withOutputNamed(props.table, at, name, props.used(props.table.outputs[at]?.key ?? '')))
}
const retypeOutput = (at: number, type: TableOutput['type']): void =>
  emit('set', withOutputTyped(props.table, at, type))

async function bring(event: Event): Promise<void> {
  const input = event.target as HTMLInputElement
  const file = input.files?.[0]
  input.value = ''
  if (!file) return
  const { readDmn } = await import('#core/formats/dmn')
  const read = readDmn(await file.text(), names.value)
  if (read.ok) emit('set', read.value.table)
  else notices.tell({ tone: 'wrong', title: 'File not imported', text: sayProblem(read.problem) })
}
async function take(): Promise<void> {
  const { writeDmn } = await import('#core/formats/dmn')
  saveText(writeDmn(props.table, props.name, names.value), 'table.dmn', 'application/xml')
}
const copyTable = (): void => void navigator.clipboard.writeText(texts.asText())
function fill(at: number): void {
  const hole = coverage.value?.gaps[at]
  const next = hole && rowsForHole(props.table, hole.box)
  if (!next) return
  emit('set', next)
  void focusCell(props.table.rows.length, props.table.inputs.length)
}
</script>

<template>
  <div ref="root" class="mt-1 mb-2 font-sans text-[13px]" :data-table="stepId">
    <template v-for="(field, at) in fields" :key="at"
      ><NumberLine
        v-if="field && coverage && testedBy(field) === 'band'"
        :table="table"
        :at="at"
        :field="field"
        :coverage="coverage"
    /></template>
    <div class="overflow-x-auto">
      <table
        class="border-collapse border-y border-ink2"
        :role="editable ? 'grid' : undefined"
        :aria-label="`Decision table of ${name}`"
      >
        <thead @focusin="inHead = true" @focusout="inHead = false">
          <tr>
            <th class="w-7" scope="col"><span class="sr-only">Row</span></th>
            <th
              v-for="(input, at) in table.inputs"
              :key="at"
              scope="col"
              class="border-b border-hair px-2 py-1 text-left font-semibold whitespace-nowrap"
            >
              <button
                v-if="editable"
                type="button"
                class="word"
                :data-input="at"
                :data-head="at"
                :tabindex="inHead || table.rows.length === 0 ? 0 : -1"
                @keydown="headKey(at, $event)"
                :aria-label="`Input: ${sayInput(fields[at] ?? null, input.via)}. Change`"
                @click="picking = at"
              >
                {{ sayInput(fields[at] ?? null, input.via) }}</button><span v-else>{{
                sayInput(fields[at] ?? null, input.via)
              }}</span>
              <button
                v-if="editable"
                type="button"
                class="quiet ml-1 px-1"
                :tabindex="inHead ? 0 : -1"
                :aria-label="`Remove input ${fieldWord(fields[at] ?? null) ?? 'this column'}`"
                @click="removeInput(at)"
              >
                ×
              </button>
            </th>
            <th
              v-for="(output, at) in table.outputs"
              :key="output.key"
              scope="col"
              class="border-b border-l border-b-hair border-l-ink2 px-2 py-1 text-left font-semibold"
            >
              <template v-if="editable"
                ><input
                  :value="naming?.at === at ? naming.text : output.label"
                  data-output
                  :data-head="table.inputs.length + at"
                  :tabindex="inHead || table.rows.length === 0 ? 0 : -1"
                  @keydown="headKey(table.inputs.length + at, $event)"
                  :aria-label="`Result ${at + 1} name`"
                  class="block [field-sizing:content] min-w-16 bg-transparent font-semibold hover:bg-paper2"
                  maxlength="100"
                  @input="naming = { at, text: ($event.target as HTMLInputElement).value }"
                  @change="renameOutput(at, ($event.target as HTMLInputElement).value)"
                /><span class="flex whitespace-nowrap"
                  ><select
                    :value="output.type"
                    class="quiet bg-transparent"
                    :tabindex="inHead ? 0 : -1"
                    :aria-label="`Result ${at + 1} type`"
                    @change="retypeOutput(at, ($event.target as HTMLSelectElement).value as TableOutput['type'])"
                  >
                    <option v-for="type in OUTPUT_TYPES" :key="type" :value="type">
                      {{ OUTPUT_WORDS[type] }}
                    </option></select
                  ><button
                    type="button"
                    class="quiet px-1"
                    :tabindex="inHead ? 0 : -1"
                    :aria-label="`Remove result ${output.label}`"
                    @click="removeOutput(at)"
                  >
                    ×
                  </button></span
                ></template
              >
              <template v-else>{{ output.label }}</template>
            </th>
            <td v-if="editable" class="border-b border-hair" />
          </tr>
        </thead>
        <tbody>
          <tr v-for="(row, at) in table.rows" :key="row.id" class="group/row border-b border-hair">
            <th scope="row" class="pr-1 text-right font-normal text-ink2">{{ at + 1 }}</th>
            <template v-for="column in width" :key="column">
              <td
                class="p-0"
                :class="[
                  column - 1 >= table.inputs.length && 'border-l border-l-ink2',
                  wrongAt(at, column - 1) && 'bg-brick-t',
                ]"
                :title="wrongAt(at, column - 1) ?? undefined"
              >
                <input
                  v-if="editable"
                  :value="textAt(at, column - 1)"
                  :data-cell="`${at}.${column - 1}`"
                  class="[field-sizing:content] max-w-72 min-w-20 bg-transparent px-2 py-1 focus:bg-violet-t"
                  :class="[wrongAt(at, column - 1) && 'text-brick', textAt(at, column - 1) === '-' && 'text-ink2']"
                  :aria-label="`Row ${at + 1}, ${column - 1 < table.inputs.length ? fieldWord(fields[column - 1] ?? null) : table.outputs[column - 1 - table.inputs.length]?.label}`"
                  :aria-invalid="wrongAt(at, column - 1) !== null"
                  spellcheck="false"
                  :tabindex="isStop(at, column - 1) ? 0 : -1"
                  @focus="come(at, column - 1)"
                  @mousedown="goInside"
                  @input="texts.type(at, column - 1, ($event.target as HTMLInputElement).value)"
                  @change="texts.commit(at, column - 1, ($event.target as HTMLInputElement).value)"
                  @keydown="key(at, column - 1, $event)"
                  @paste="paste(at, column - 1, $event)"
                />
                <span v-else class="block px-2 py-1 whitespace-nowrap">{{ textAt(at, column - 1) }}</span>
                <span v-if="wrongAt(at, column - 1)" class="block max-w-56 px-2 pb-1 text-[12px] text-brick">{{
                  wrongAt(at, column - 1)
                }}</span>
              </td>
            </template>
            <td
              v-if="editable"
              class="whitespace-nowrap opacity-0 group-focus-within/row:opacity-100 group-hover/row:opacity-100"
            >
              <button
                type="button"
                class="quiet px-1"
                tabindex="-1"
                :disabled="at === 0"
                :aria-label="`Move row ${at + 1} up`"
                @click="texts.moveRow(at, -1)"
              >
                ↑</button
              ><button
                type="button"
                class="quiet px-1"
                tabindex="-1"
                :disabled="at === table.rows.length - 1"
                :aria-label="`Move row ${at + 1} down`"
                @click="texts.moveRow(at, 1)"
              >
                ↓</button
              ><button
                type="button"
                class="quiet px-1"
                tabindex="-1"
                :aria-label="`Remove row ${at + 1}`"
                @click="texts.removeRow(at)"
              >
                ×
              </button>
            </td>
          </tr>
        </tbody>
      </table>
    </div>
    <p v-if="coverage && coverage.gaps.length + coverage.overlaps.length > 0" class="mt-1 text-brick" data-holes>
      <span v-for="(hole, at) in coverage.gaps.slice(0, 4)" :key="`g${at}`" class="mr-3 inline-block"
        >{{ capital(sayBox(hole.box, known, here)) }} is not covered by any row
        <button v-if="editable" type="button" class="word" @click="fill(at)">Add row</button></span
      >
      <span v-for="(double, at) in coverage.overlaps.slice(0, 4)" :key="`o${at}`" class="mr-3 inline-block"
        >{{ capital(sayBox(double.box, known, here)) }} is covered by rows
        {{ listOf(double.rows.map((row) => String(row + 1))) }}</span
      >
      <span v-if="coverage.gaps.length > 4" class="inline-block"
        >and {{ coverage.gaps.length - 4 }} more {{ nounOf(coverage.gaps.length - 4, 'gap') }}</span
      >
    </p>
    <TableTools
      :table="table"
      :editable="editable"
      @set="emit('set', $event)"
      @add-input="picking = 'new'"
      @add-output="addOutput"
      @add-row="addRowAndGo"
      @copy="copyTable"
      @take="take"
      @bring="bring"
    />
    <PopOver
      v-if="picking !== null"
      :anchor="
        picking === 'new'
          ? `[data-table='${stepId}'] [data-add-input]`
          : `[data-table='${stepId}'] [data-input='${picking}']`
      "
      label="Inputs"
      @close="picking = null"
    >
      <OptionList :options="inputOptions" label="Input" placeholder="Search fields" @pick="pickInput" />
    </PopOver>
  </div>
</template>
