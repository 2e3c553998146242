<script setup lang="ts">
import type { Seen } from '#core/conditions/compile'
import type { RunLine } from '#core/engine/run-sheet'
import type { RunState } from '#core/engine/world'
import { sayInstant } from '#core/time/say'
import { useCatalogue } from '~/shared/stores/catalogue'
import RefLink from '~/shared/record/RefLink.vue'

/** A run as its sheet, with the values of that moment written in. */
const {
  lines,
  until = Infinity,
  timed = false,
} = defineProps<{
  triggers: readonly string[]
  because: string
  doer: string | null
  mode: 'all' | 'any' | 'none'
  seen: readonly Pick<Seen, 'id' | 'text' | 'value' | 'holds'>[]
  state: RunState
  lines: readonly RunLine[]
  /** How many lines are told by now, where it is gone through step by step. */
  until?: number
  /** Each step with its moment. */
  timed?: boolean
}>()
const MODES = { all: 'all of these are true', any: 'any of these is true', none: 'none of these is true' } as const
const store = useCatalogue()
const shown = (i: number): boolean => i < until
const pale = (i: number): boolean => !shown(i) || lines[i]?.state === null
</script>

<template>
  <div class="grid grid-cols-[22px_minmax(0,1fr)] gap-x-3">
    <div class="relative">
      <span class="rail top-3" /><span class="mark start absolute top-2 left-[5px]" aria-hidden="true" />
    </div>
    <div>
      <h2 class="part">When</h2>
      <p v-for="(trigger, i) in triggers" :key="trigger" class="font-serif text-[18px]">
        {{ i ? 'or ' : '' }}{{ trigger }}
      </p>
      <p class="pb-2 text-[14px]">
        <b class="font-semibold">{{ because }}</b>
        <span v-if="doer !== null && !because.includes(doer)" class="quiet">by {{ doer }}</span>
      </p>
    </div>
    <div class="relative"><span class="rail" /></div>
    <div>
      <h2 class="part">
        Only if <span v-if="seen.length > 1" class="font-sans text-[13px] not-italic">{{ MODES[mode] }}</span>
      </h2>
      <p v-if="seen.length === 0" class="pb-2 font-serif text-[18px] text-ink2">
        {{ state === 'stopped' ? 'Not checked' : 'No conditions' }}
      </p>
      <ul v-else aria-label="Conditions">
        <li v-for="one in seen" :key="one.id" class="flex items-baseline justify-between gap-4 py-0.5">
          <span class="font-serif text-[18px]" :class="!one.holds && 'text-brick'">{{ one.text }}</span><span
            class="text-[13px] whitespace-nowrap"
            :class="one.holds ? 'text-moss' : 'text-brick'"
            >then {{ one.value }} · {{ one.holds ? '✓ true' : '✗ not true' }}</span
          >
        </li>
      </ul>
    </div>
    <div class="relative"><span class="rail" /></div>
    <h2 class="part pt-1">Then</h2>
    <div class="contents" role="list" aria-label="Steps">
      <div
        v-for="(step, i) in lines"
        :key="`${step.id}-${i}`"
        class="contents"
        role="listitem"
        :aria-level="step.depth + 1"
      >
        <div class="relative">
          <span class="rail" :class="i === lines.length - 1 && 'last'" /><span
            v-if="step.category !== null"
            class="mark absolute top-2 left-[5px]"
            :class="shown(i) && (step.state === 'failed' ? 'stop' : step.state === 'done' ? step.category : '')"
            aria-hidden="true"
          />
        </div>
        <div
          v-if="step.category === null"
          :style="{ paddingLeft: `${step.depth * 18}px` }"
          class="flex min-w-0 items-baseline gap-2 pb-1"
          :class="pale(i) && 'text-ink2'"
        >
          <span class="flex-none text-[13px] font-semibold text-ink2">{{ step.label }}</span>
          <span class="min-w-0 truncate font-serif text-[17px] italic" :title="step.sentence">{{ step.sentence }}</span>
          <span class="flex-none text-[13px]" :class="step.state === 'done' ? 'text-moss' : 'text-ink2'">{{
            step.result
          }}</span>
        </div>
        <div v-else class="pb-2" :style="{ paddingLeft: `${step.depth * 18}px` }" :class="pale(i) && 'text-ink2'">
          <p class="font-serif text-[18px]">
            <span class="mr-2 font-sans text-[13px] font-semibold text-ink2">{{ step.label }}</span>{{
              ` ${step.sentence} `
            }}<RefLink v-if="step.on" :of="step.on.ref" class="name-link ml-2 font-sans text-[14px] font-semibold">{{
              step.on.name
            }}</RefLink>
          </p>
          <p
            v-if="shown(i)"
            class="ml-5 text-[14px]"
            :class="step.state === 'failed' ? 'text-brick' : step.state === 'done' ? '' : 'text-ink2'"
          >
            <span v-if="timed && step.atMs !== null" class="mr-2 text-saffron tabular-nums">{{
              sayInstant(step.atMs, store.catalogue.workspace.zone)
            }}</span><b v-if="step.state === 'done'" class="font-semibold">{{
              lines[i + 1]?.category === null ? 'Why: ' : 'Changed: '
            }}</b
            >{{ step.result }}
          </p>
        </div>
      </div>
    </div>
  </div>
</template>
