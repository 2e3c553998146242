<script setup lang="ts">
import { count } from '#core/language/counts'
import { idsIn, type GroupMode } from '#core/conditions/document'
import type { Value } from '#core/language/value'
import type { ObjectKind } from '#core/records/kinds'
import {
  activityAt,
  addBranch,
  addCondition,
  addGroup,
  addLinked,
  addStep,
  addTrigger,
  atEnd,
  conditionPartOf,
  moveBranch,
  moveStep,
  objectAt,
  objectOfPlace,
  partOf,
  removeBranch,
  removePart,
  setGroupMode,
  setWord,
  stepOf,
  type PartKind,
  type PartRef,
} from '#core/rules/edit'
import { STEPS, STEP_NAMES, type StepName } from '#core/rules/steps'
import { changeTrigger, duplicateStep } from '#core/rules/edit-kind'
import { TRIGGERS, TRIGGER_NAMES, type TriggerName } from '#core/rules/triggers'
import { catalogues, resultKey, withResults } from '#core/rules/results'
import { placedBranches } from '#core/rules/tree'
import type { DecisionTable } from '#core/tables/table'
import { linkedOptions } from '~/shared/words/linkedOptions'
import { useSheetKeys } from './useSheetKeys'
import type { RuleDraft } from './useRuleDraft'
import { SHEET, TONES, type Pinned } from './context'
import { HERE } from '~/shared/words/useHere'
import { useWords } from '~/shared/words/useWords'
import { useCatalogue } from '~/shared/stores/catalogue'
import ConditionGroup from '~/shared/words/ConditionGroup.vue'
import TriggerLines from './TriggerLines.vue'
import StepLines from './StepLines.vue'
import { useAskedFor } from '~/shared/keys/useTypedAhead'
import TargetLines from './TargetLines.vue'
import { isOwn } from './isOwn'
import WithCatalogue from './WithCatalogue.vue'
import PopOver from '~/shared/words/PopOver.vue'
import { onceReady } from '~/shared/onceReady'

// Nothing of this is shown before a word is pressed; it comes with the editors of words.
const OptionList = onceReady(() => import('~/shared/words/OptionList.vue'))
const FieldPicker = onceReady(() => import('~/shared/words/FieldPicker.vue'))
const WordPop = onceReady(() => import('~/shared/words/WordPop.vue'))

/** The sheet: When, Only if, Then, in sentences whose words are edited where they stand. */
const props = defineProps<{
  draft: RuleDraft
  editable: boolean
  missId: string | null
  /** The ways that the looked-at record goes; all are shown without. */ gone?: ReadonlySet<string> | null
}>()
const store = useCatalogue()
const { target, openKey, open, close, goOn, begin } = useWords()
const rule = computed(() => props.draft.document.value)
/** With the results of all steps, for saying and changing the rule; what one step can use is narrower. */
const whole = computed(() => withResults(rule.value, store.catalogue))
provide(HERE, whole)
const usable = computed(() => catalogues(rule.value, store.catalogue))
const evidence = computed(() => props.draft.evidence.value)

/** The words of each part that are still to be fixed. */
const bad = computed(() => {
  const found: Record<string, string[]> = {}
  for (const finding of props.draft.findings.value) (found[finding.id] ??= []).push(finding.param)
  return found
})
const findingsOf = (id: string): readonly Pinned[] => [
  ...props.draft.findings.value
    .filter((finding) => finding.id === id && (finding.part === 'branch' || finding.problem.code !== 'missing'))
    .map(({ text }) => ({ text, tone: TONES.error })),
  ...props.draft.noted.value
    .filter(
      (finding) => finding.id === id && finding.id !== '' && finding.accepted === null && finding.kind !== 'tableHoles',
    )
    .map(({ text, severity }) => ({ text, tone: TONES[severity] })),
]

const refOf = (path: string): PartRef => {
  const [part, id] = path.split(':')
  return { part: part as PartKind, id: id ?? '' }
}
const editing = computed(() =>
  target.value && !/^(add|linked):/.test(target.value.path) ? partOf(rule.value, refOf(target.value.path)) : null,
)
const asked = computed(() =>
  target.value?.path.startsWith('condition:') ? conditionPartOf(rule.value, refOf(target.value.path).id) : null,
)
/** The kind of record that the open word is about. */
const about = computed(
  (): ObjectKind =>
    asked.value?.object ??
    (target.value?.path.startsWith('step:') ? stepOf(rule.value, refOf(target.value.path).id)?.object : null) ??
    rule.value.object,
)
/** What can be named where the open word stands. */
const placeCatalogue = computed(() => {
  const [part, id = ''] = target.value?.path.split(':') ?? []
  if (part === 'step') return usable.value.get(id) ?? store.catalogue
  const branch = placedBranches(rule.value).find(({ branch: one }) => one.when && idsIn(one.when).includes(id))
  return (branch && usable.value.get(branch.branch.id)) ?? store.catalogue
})
const groupObject = computed((): ObjectKind => objectAt(rule.value, target.value?.path.split(':')[1] ?? ''))
const groupActivity = computed(() => activityAt(rule.value, target.value?.path.split(':')[1] ?? ''))
/** The way into which the step that is being chosen goes; `null` for the rule itself. */
const intoBranch = computed((): string | null => /^add:step:(.+)$/.exec(target.value?.path ?? '')?.[1] ?? null)

function edit(path: string, param: string): void {
  if (!props.editable) return
  const part = partOf(rule.value, refOf(path))
  if (part?.form[param]?.widget === 'toggle') {
    props.draft.set(setWord(rule.value, refOf(path), param, part.params[param] !== true, whole.value))
    void nextTick(() => document.querySelector<HTMLElement>(`[data-word="${path}/${param}"]`)?.focus())
    return
  }
  if (part?.form[param]?.widget === 'table') {
    const table = document.querySelector<HTMLElement>(`[data-table="${refOf(path).id}"]`)
    const cell = table?.querySelector<HTMLElement>('[data-cell]')
    if (cell) cell.focus()
    else table?.querySelector<HTMLElement>('[data-add-input]')?.click()
    return
  }
  if (openKey.value === `${path}/${param}`) close()
  else open(path, param)
}

function set(value: unknown): void {
  if (!target.value) return
  const { path, param } = target.value
  props.draft.set(setWord(rule.value, refOf(path), param, value, whole.value))
  void goOn(path, param)
}

function setAt(at: 'now' | 'before'): void {
  if (!target.value) return
  const { path, param } = target.value
  props.draft.set(setWord(rule.value, refOf(path), 'at', at, whole.value))
  void goOn(path, param)
}

function pickLinked(other: ObjectKind): void {
  const made = addLinked(rule.value, target.value?.path.slice('linked:'.length) ?? rule.value.conditions.id, other)
  props.draft.set(made.rule)
  target.value = null
  void begin(`condition:${made.id}`)
}

function remove(path: string): void {
  props.draft.set(removePart(rule.value, refOf(path)))
  void nextTick(() => document.querySelector<HTMLElement>('[data-word="add:step/kind"]')?.focus())
}

function pickTrigger(kind: TriggerName): void {
  const made = addTrigger(rule.value, kind, store.catalogue)
  props.draft.set(made.rule)
  target.value = null
  void begin(`trigger:${made.id}`)
}

/** The same step once more, behind it. */
function duplicate(id: string): void {
  const made = duplicateStep(rule.value, id)
  if (!made) return
  props.draft.set(made.rule)
  void nextTick(() => document.querySelector<HTMLElement>(`[data-line="step:${made.id}"] .word`)?.focus())
}

function pickCondition(field: string): void {
  const groupId = target.value?.path.slice('add:'.length) ?? rule.value.conditions.id
  const made = addCondition(rule.value, groupId, field, whole.value)
  props.draft.set(made.rule)
  target.value = null
  void begin(`condition:${made.id}`)
}

/** A table that was just added: it is edited on the sheet itself, and asks what it decides by once it stands there. */
const newTable = ref<string | null>(null)
useAskedFor(() => newTable.value !== null)

function pickStep(kind: StepName): void {
  const made = addStep(rule.value, kind, atEnd(intoBranch.value), store.catalogue)
  props.draft.set(made.rule)
  target.value = null
  if ('table' in STEPS[kind].form) newTable.value = made.id
  else void begin(`step:${made.id}`)
}

const stepOptions = computed(() =>
  STEP_NAMES.filter((name) => STEPS[name].objects.includes(objectOfPlace(rule.value, intoBranch.value))).map(
    (name) => ({ value: name, label: STEPS[name].does, words: STEPS[name].alsoCalled.join(' ') }),
  ),
)
const triggerOptions = computed(() =>
  TRIGGER_NAMES.filter((name) => TRIGGERS[name].objects.includes(rule.value.object)).map((name) => ({
    value: name,
    label: TRIGGERS[name].does,
    words: TRIGGERS[name].hint,
    hint: evidence.value?.kinds[name] === undefined ? '' : `${count(evidence.value.kinds[name], 'time')} in 30 days`,
  })),
)
const folded = ref<ReadonlySet<string>>(new Set())
function fold(id: string): void {
  const next = new Set(folded.value)
  if (!next.delete(id)) next.add(id)
  folded.value = next
}
const branchCount = computed(() => placedBranches(rule.value).length)
function addWay(stepId: string, value?: Value): void {
  const made = addBranch(rule.value, stepId, value)
  props.draft.set(made.rule)
  void nextTick(() => document.querySelector<HTMLElement>(`[data-line="branch:${made.id}"] [data-word]`)?.focus())
}
provide(
  SHEET,
  reactive({
    editable: toRef(props, 'editable'),
    openKey,
    bad,
    missId: toRef(props, 'missId'),
    evidence,
    folded,
    gone: computed(() => props.gone ?? null),
    findingsOf: (id: string) => findingsOf(id),
    edit,
    open,
    remove,
    shift: (id: string, by: -1 | 1) => void shift(id, by),
    duplicate,
    setMode: (id: string, mode: GroupMode) => props.draft.set(setGroupMode(rule.value, id, mode)),
    addGroup: (id: string) => props.draft.set(addGroup(rule.value, id).rule),
    fold,
    addBranch: addWay,
    removeBranch: (id: string) => props.draft.set(removeBranch(rule.value, id)),
    shiftBranch: (id: string, by: -1 | 1) => props.draft.set(moveBranch(rule.value, id, by)),
    setTable: (id: string, table: DecisionTable) =>
      props.draft.set(setWord(rule.value, { part: 'step', id }, 'table', table, whole.value)),
    newTable,
    tableStands: () => (newTable.value = null),
    usesResult: (id: string, key: string) => JSON.stringify(rule.value.steps).includes(resultKey(id, key)),
    name: computed(() => rule.value.name),
  }),
)

async function shift(id: string, by: -1 | 1): Promise<void> {
  const word = (document.activeElement as HTMLElement | null)?.dataset.word
  props.draft.set(moveStep(rule.value, id, by))
  await nextTick()
  if (word) document.querySelector<HTMLElement>(`[data-word="${word}"]`)?.focus()
}

useSheetKeys(props, { open, remove, shift })
defineExpose({ open, edit })
</script>

<template>
  <div
    class="grid grid-cols-[86px_22px_minmax(0,1fr)] gap-x-2 max-[499px]:grid-cols-[44px_22px_minmax(0,1fr)]"
    role="group"
    aria-label="Rule sheet"
  >
    <div />
    <div class="relative">
      <span class="rail top-3" /><span class="mark start absolute top-2 left-[5px]" aria-hidden="true" />
    </div>
    <TriggerLines
      :rule="rule"
      :options="triggerOptions"
      @change="(id, kind) => draft.set(changeTrigger(rule, id, kind, store.catalogue))"
    />

    <div />
    <div class="relative"><span class="rail" /></div>
    <section v-if="rule.object === 'none' && rule.conditions.items.length === 0" aria-label="Only if" class="pt-1">
      <h2 class="part">Only if</h2>
      <p class="py-0.5 font-serif text-[15px] text-ink2">No conditions: the rule is about no record.</p>
    </section>
    <section v-else aria-label="Only if" class="pt-1">
      <ConditionGroup
        :group="rule.conditions"
        :object="rule.object"
        :editable="editable"
        :open-word="openKey"
        :alone="evidence?.alone"
        :total="evidence?.total"
        :miss-id="missId"
        :bad="bad"
        :notes="findingsOf"
        @edit="(id, param) => edit(`condition:${id}`, param)"
        @mode="(id, mode) => draft.set(setGroupMode(rule, id, mode))"
        @add="open(`add:${$event}`, 'condition')"
        @add-group="draft.set(addGroup(rule, $event).rule)"
        @add-linked="open(`linked:${$event}`, 'object')"
        @remove="remove(`condition:${$event}`)"
      />
      <p v-if="!editable && rule.conditions.items.length === 0" class="font-serif text-[18px] text-ink2">
        No conditions
      </p>
    </section>

    <div />
    <div class="relative"><span class="rail" /></div>
    <section aria-label="Then" class="contents">
      <div class="flex items-baseline justify-between pt-1">
        <h2 class="part">Then</h2>
        <button
          v-if="branchCount > 2"
          type="button"
          class="quiet font-sans text-[13px] not-italic"
          @click="folded = folded.size > 0 ? new Set() : new Set(placedBranches(rule).map(({ branch }) => branch.id))"
        >
          {{ folded.size > 0 ? 'Expand all paths' : `Collapse all ${branchCount} paths` }}
        </button>
      </div>
      <StepLines :steps="rule.steps" :object="rule.object" :branch="null" prefix="" />
    </section>

    <template v-if="rule.object !== 'none' && (rule.goal || editable)">
      <div />
      <div />
      <TargetLines
        :draft="draft"
        :editable="editable"
        :open-word="openKey"
        :bad="bad"
        :notes="findingsOf"
        @edit="edit"
        @open="open"
        @remove="remove"
      />
    </template>

    <WithCatalogue :catalogue="placeCatalogue">
      <PopOver
        v-if="target?.path === 'add:trigger'"
        anchor="[data-word='add:trigger/kind']"
        label="Trigger"
        @close="close"
      >
        <OptionList :options="triggerOptions" label="Trigger" placeholder="Search triggers" @pick="pickTrigger" />
      </PopOver>
      <PopOver
        v-else-if="target?.path === 'add:step' || intoBranch !== null"
        :anchor="`[data-word='${target?.path}/kind']`"
        label="Step"
        @close="close"
      >
        <OptionList :options="stepOptions" label="Step" placeholder="Search steps" @pick="pickStep" />
      </PopOver>
      <PopOver
        v-else-if="target?.path.startsWith('add:')"
        :anchor="`[data-word='${openKey}']`"
        label="Field"
        @close="close"
      >
        <FieldPicker :object="groupObject" :activity="groupActivity" asks @pick="pickCondition" />
      </PopOver>
      <PopOver
        v-else-if="target?.path.startsWith('linked:')"
        :anchor="`[data-word='${openKey}']`"
        label="Linked records"
        @close="close"
      >
        <OptionList
          :options="linkedOptions(groupObject)"
          label="Linked records"
          placeholder="Search record types"
          @pick="pickLinked"
        />
      </PopOver>
      <WordPop
        v-else-if="target && editing"
        :target="target"
        :object="about"
        :params="editing.params"
        :form="editing.form"
        :condition="asked?.condition ?? null"
        :has-before="asked !== null && asked.object === rule.object && isOwn(rule, asked.condition?.id)"
        @set="set"
        @at="setAt"
        @close="close"
      />
    </WithCatalogue>
  </div>
</template>
