<script setup lang="ts">
import { countOrNone } from '#core/language/counts'
import type { ObjectKind } from '#core/records/kinds'
import { STEPS } from '#core/rules/steps'
import { valuesWithoutPath } from '#core/rules/steps/path-per-value'
import { branchLabel, objectInside, shortLabel, stepLabel } from '#core/rules/tree'
import type { Branch, Step } from '#core/rules/document'
import type { DecisionTable } from '#core/tables/table'
import { SHEET } from './context'
import { sayValue } from '#core/fields/say-value'
import { useHere } from '~/shared/words/useHere'
import SentenceWords from '~/shared/words/SentenceWords.vue'
import ConditionGroup from '~/shared/words/ConditionGroup.vue'
import { onceReady } from '~/shared/onceReady'

const TableSheet = onceReady(() => import('./TableSheet.vue'))

/** The steps of a rule, or of one of its ways: one line each, with the ways of a step indented under it. */
const props = defineProps<{ steps: readonly Step[]; object: ObjectKind; branch: string | null; prefix: string }>()
const here = useHere()
const sheet = inject(SHEET)!
const names = computed(() => ({ catalogue: here.value, object: props.object }))
const tableOf = (step: Step): DecisionTable => (step.params as { readonly table: DecisionTable }).table
const labelOf = (at: number): string => stepLabel(props.prefix, at)
const addPath = computed(() => (props.branch === null ? 'add:step' : `add:step:${props.branch}`))
const inside = (step: Step) => ({ catalogue: here.value, object: objectInside(step, props.object) })
const saysWay = (step: Step, branch: Branch, at: number): string =>
  STEPS[step.kind].ways?.label(branch, at, step.branches ?? [], step.params, inside(step)) ?? ''
/** A way that nobody chose, on which nothing is done: one quiet line, and none for those who only read. */
const isBareEnd = (step: Step, branch: Branch): boolean => !STEPS[step.kind].ways?.choose && branch.steps.length === 0
const shownBranches = (step: Step) =>
  (step.branches ?? [])
    .map((branch, at) => ({ branch, at }))
    .filter(({ branch }) => sheet.editable || !isBareEnd(step, branch))
    .filter(({ branch }) => !sheet.gone || STEPS[step.kind].ways?.single || sheet.gone.has(branch.id))
/** A path by conditions says them as lines of their own while it is open. */
const written = (branch: Branch): boolean => branch.when !== undefined && !sheet.folded.has(branch.id)
/** Values of the field that have no path yet: it may have gained a choice. */
const missing = (step: Step) =>
  step.kind === 'pathPerValue'
    ? valuesWithoutPath(step.branches ?? [], (step.params as { readonly field: string | null }).field, names.value)
    : []
const valueWord = (step: Step, value: string | boolean): string => {
  const field = here.value.field(props.object, String((step.params as { readonly field: string | null }).field))
  return field ? sayValue(value, field, here.value) : String(value)
}
/** What the line of time says beside a step. */
function timeAt(i: number): string {
  const [step, before] = [props.steps[i], props.steps[i - 1]]
  const own = step ? STEPS[step.kind].rail(step.params, names.value).own : null
  return own ?? (before ? STEPS[before.kind].rail(before.params, names.value).next : 'right away') ?? ''
}
const stepsWord = (n: number): string => countOrNone(n, 'step')
/** The line of time beside a step; it ends at the last one that nothing can be added behind. */
function railOf(step: Step, at: number): readonly (string | false)[] {
  const last = at === props.steps.length - 1 && props.branch === null && !sheet.editable && !step.branches
  return [last && 'bottom-auto! h-4', STEPS[step.kind].category === 'time' && 'ahead']
}
/** Whether a step has paths that can be folded away together. */
const foldable = (step: Step): boolean =>
  (step.branches ?? []).length > 1 && !step.branches?.every((branch) => isBareEnd(step, branch))
/** Opens all paths of a step when all are folded, else folds those that are open. */
function foldAll({ branches = [] }: Step): void {
  const all = branches.every((one) => sheet.folded.has(one.id))
  for (const one of branches) if (sheet.folded.has(one.id) === all) sheet.fold(one.id)
}
</script>

<template>
  <div
    v-if="steps.length > 0"
    class="contents"
    role="list"
    :aria-label="prefix === '' ? 'Steps' : `Steps of path ${prefix}`"
  >
    <div v-for="(step, i) in steps" :key="step.id" class="contents" role="listitem">
      <div
        class="pt-[5px] text-right text-[12px] leading-tight"
        :class="timeAt(i) === 'right away' ? 'text-ink2' : 'font-medium text-saffron'"
      >
        {{ branch === null ? timeAt(i) : '' }}
      </div>
      <div class="relative">
        <span class="rail" :class="railOf(step, i)" /><span
          class="mark absolute top-2 left-[5px]"
          :class="STEPS[step.kind].category"
          aria-hidden="true"
        />
      </div>
      <div
        :data-line="`step:${step.id}`"
        class="group/line relative flex min-w-0 items-baseline gap-2 py-0.5 max-[639px]:flex-wrap"
      >
        <span
          class="min-w-4 flex-none text-[13px] font-semibold whitespace-nowrap text-ink2"
          :title="shortLabel(labelOf(i)) === labelOf(i) ? undefined : `Step ${labelOf(i)}`"
          ><span class="sr-only">{{ labelOf(i) }}</span
          ><span aria-hidden="true">{{ shortLabel(labelOf(i)) }}</span></span
        >
        <p class="min-w-0 flex-1 font-serif leading-normal" :class="branch === null ? 'text-[18px]' : 'text-[17px]'">
          <SentenceWords
            :parts="STEPS[step.kind].sentence(step.params, names)"
            :path="`step:${step.id}`"
            :editable="sheet.editable"
            :open="sheet.openKey"
            :bad="sheet.bad[step.id]"
            @edit="sheet.edit(`step:${step.id}`, $event)"
          />
          <span
            v-for="finding in sheet.findingsOf(step.id)"
            :key="finding.text"
            class="ml-2 inline-block rounded-[3px] px-1.5 font-sans text-[13px] font-medium"
            :class="finding.tone"
            >{{ finding.text }}</span
          >
        </p>
        <button
          v-if="foldable(step)"
          type="button"
          class="quiet flex-none px-1"
          :aria-label="`Expand or collapse all paths of step ${labelOf(i)}`"
          @click="foldAll(step)"
        >
          {{ step.branches?.every((one) => sheet.folded.has(one.id)) ? 'Expand all' : 'Collapse all' }}
        </button>
        <span
          v-if="sheet.editable"
          data-step-acts
          class="flex-none bg-paper opacity-0 group-hover/line:opacity-100 focus-within:opacity-100 max-[639px]:hidden max-[639px]:w-full max-[639px]:group-focus-within/line:block max-[639px]:group-focus-within/line:opacity-100 max-[639px]:group-hover/line:block min-[640px]:absolute min-[640px]:bottom-0.5"
          :class="foldable(step) ? 'min-[640px]:right-24' : 'min-[640px]:right-0'"
        >
          <button
            type="button"
            class="quiet px-1"
            :disabled="i === 0 && branch === null"
            :aria-label="`Move step ${labelOf(i)} up`"
            @click="sheet.shift(step.id, -1)"
          >
            ↑
          </button>
          <button
            type="button"
            class="quiet px-1"
            :disabled="i === steps.length - 1 && branch === null"
            :aria-label="`Move step ${labelOf(i)} down`"
            @click="sheet.shift(step.id, 1)"
          >
            ↓
          </button>
          <button
            type="button"
            class="quiet px-1"
            tabindex="-1"
            title="By keyboard: copy and paste the step"
            :aria-label="`Duplicate step ${labelOf(i)}`"
            @click="sheet.duplicate(step.id)"
          >
            Duplicate
          </button>
          <button
            type="button"
            class="quiet px-1"
            :aria-label="`Remove step ${labelOf(i)}`"
            @click="sheet.remove(`step:${step.id}`)"
          >
            Remove
          </button>
        </span>
      </div>
      <template v-if="step.kind === 'decide'">
        <div />
        <div class="relative"><span class="rail" /></div>
        <TableSheet
          class="ml-5"
          :table="tableOf(step)"
          :step-id="step.id"
          :name="sheet.name"
          :object="object"
          :editable="sheet.editable"
          :used="(key) => sheet.usesResult(step.id, key)"
          :fresh="sheet.newTable === step.id"
          @stands="sheet.tableStands"
          @set="sheet.setTable(step.id, $event)"
        />
      </template>
      <template v-if="step.branches">
        <div
          v-if="shownBranches(step).length > 0"
          class="contents"
          role="list"
          :aria-label="`Paths of step ${labelOf(i)}`"
        >
          <div v-for="{ branch: way, at } in shownBranches(step)" :key="way.id" class="contents" role="listitem">
            <div />
            <div class="relative"><span class="rail" /></div>
            <div
              :data-line="`branch:${way.id}`"
              class="ml-3 min-w-0 border-l border-hair pl-2 max-[639px]:ml-0 max-[639px]:pl-1.5"
              :class="at > 0 && 'mt-0.5'"
            >
              <div class="group/way flex items-baseline gap-2 py-0.5 max-[639px]:flex-wrap">
                <template v-if="isBareEnd(step, way)">
                  <span class="flex-none text-[13px] font-semibold whitespace-nowrap text-ink2">{{
                    branchLabel(step, labelOf(i), at)
                  }}</span>
                  <span class="font-serif text-[15px] text-ink2 italic">{{ saysWay(step, way, at) }}</span>
                  <button
                    type="button"
                    class="act"
                    :aria-label="`Add step ${saysWay(step, way, at)}`"
                    :data-word="`add:step:${way.id}/kind`"
                    @click="sheet.open(`add:step:${way.id}`, 'kind')"
                  >
                    Add step
                  </button>
                </template>
                <button
                  v-else
                  type="button"
                  class="flex min-w-0 flex-1 items-baseline gap-2 text-left"
                  :aria-expanded="!sheet.folded.has(way.id)"
                  :aria-label="`Path ${branchLabel(step, labelOf(i), at)}: ${saysWay(step, way, at)}`"
                  @click="sheet.fold(way.id)"
                >
                  <span class="flex-none text-[13px] font-semibold whitespace-nowrap text-ink2">{{
                    branchLabel(step, labelOf(i), at)
                  }}</span>
                  <span class="min-w-0 truncate font-serif text-[17px] italic">{{
                    written(way) && way.when!.items.length > 0
                      ? STEPS[step.kind].ways?.single
                        ? 'only if'
                        : 'if'
                      : saysWay(step, way, at)
                  }}</span>
                  <span v-if="sheet.folded.has(way.id)" class="quiet flex-none">{{ stepsWord(way.steps.length) }}</span>
                </button>
                <span
                  v-for="finding in sheet.findingsOf(way.id)"
                  :key="finding.text"
                  class="flex-none rounded-[3px] px-1.5 text-[13px] font-medium"
                  :class="finding.tone"
                  >{{ finding.text }}</span
                >
                <span
                  v-if="sheet.editable && STEPS[step.kind].ways?.otherwise && at < step.branches.length - 1"
                  class="flex-none opacity-0 group-focus-within/way:opacity-100 group-hover/way:opacity-100 max-[639px]:hidden max-[639px]:group-focus-within/way:block max-[639px]:group-hover/way:block"
                >
                  <button
                    type="button"
                    class="quiet px-1"
                    :disabled="at === 0"
                    :aria-label="`Move path ${branchLabel(step, labelOf(i), at)} up`"
                    @click="sheet.shiftBranch(way.id, -1)"
                  >
                    ↑
                  </button>
                  <button
                    type="button"
                    class="quiet px-1"
                    :disabled="at >= step.branches.length - 2"
                    :aria-label="`Move path ${branchLabel(step, labelOf(i), at)} down`"
                    @click="sheet.shiftBranch(way.id, 1)"
                  >
                    ↓
                  </button>
                  <button
                    type="button"
                    class="quiet px-1"
                    :aria-label="`Remove path ${branchLabel(step, labelOf(i), at)}`"
                    @click="sheet.removeBranch(way.id)"
                  >
                    Remove
                  </button>
                </span>
              </div>
              <template v-if="!sheet.folded.has(way.id) && !isBareEnd(step, way)">
                <ConditionGroup
                  v-if="way.when && (sheet.editable || way.when.items.length > 0)"
                  :group="way.when"
                  :object="objectInside(step, object)"
                  :editable="sheet.editable"
                  :open-word="sheet.openKey"
                  :miss-id="null"
                  :bad="sheet.bad"
                  :notes="sheet.findingsOf"
                  nested
                  of-linked
                  @edit="(id, param) => sheet.edit(`condition:${id}`, param)"
                  @mode="(id, mode) => sheet.setMode(id, mode)"
                  @add="sheet.open(`add:${$event}`, 'condition')"
                  @add-group="sheet.addGroup($event)"
                  @add-linked="sheet.open(`linked:${$event}`, 'object')"
                  @remove="sheet.remove(`condition:${$event}`)"
                />
                <div
                  class="in-path grid grid-cols-[0_18px_minmax(0,1fr)] gap-x-1.5 max-[639px]:grid-cols-[0_0_minmax(0,1fr)] max-[639px]:gap-x-0"
                >
                  <StepLines
                    :steps="way.steps"
                    :object="objectInside(step, object)"
                    :branch="way.id"
                    :prefix="branchLabel(step, labelOf(i), at)"
                  />
                </div>
              </template>
            </div>
          </div>
        </div>
        <template v-if="sheet.editable && STEPS[step.kind].ways?.otherwise && !sheet.gone">
          <div />
          <div class="relative"><span class="rail" /></div>
          <p class="ml-3 flex flex-wrap gap-4 border-l border-hair pb-1 pl-2 text-[14px] max-[639px]:ml-0">
            <button
              v-if="step.kind !== 'pathPerValue'"
              type="button"
              class="act"
              :data-add-branch="step.id"
              @click="sheet.addBranch(step.id)"
            >
              Add path
            </button>
            <button
              v-for="value in missing(step)"
              :key="String(value)"
              type="button"
              class="act"
              @click="sheet.addBranch(step.id, value)"
            >
              Add path for {{ valueWord(step, value as string | boolean) }}
            </button>
          </p>
        </template>
      </template>
    </div>
  </div>
  <template v-if="sheet.editable">
    <div />
    <div class="relative"><span class="rail bottom-auto! h-4" /></div>
    <p class="py-0.5">
      <button
        type="button"
        class="act"
        :class="[branch === null ? 'text-[17px]' : 'text-[15px]', steps.length === 0 && branch === null && 'word']"
        :data-missing="steps.length === 0 && branch === null ? '' : undefined"
        :data-word="`${addPath}/kind`"
        @click="sheet.open(addPath, 'kind')"
      >
        <kbd v-if="branch === null" class="not-italic">/</kbd>
        {{ steps.length ? 'Add step' : branch === null ? 'Add step' : 'No steps yet. Add step' }}
      </button>
    </p>
  </template>
</template>
