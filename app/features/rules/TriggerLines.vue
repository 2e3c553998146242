<script setup lang="ts">
import { count } from '#core/language/counts'
import { plainSentence } from '#core/language/sentence'
import type { RuleDocument } from '#core/rules/document'
import { goesByTime, goesOnAsUsual, goingOnSentence } from '#core/rules/going-on'
import { repeatSentence } from '#core/rules/repeats'
import { TRIGGERS, type TriggerName } from '#core/rules/triggers'
import { onceReady } from '~/shared/onceReady'
import SentenceWords from '~/shared/words/SentenceWords.vue'
import { useHere } from '~/shared/words/useHere'
import { SHEET, type TriggerOption } from './context'
import { neighbours } from './neighbours'
import TriggerActs from './TriggerActs.vue'

const TriggerMoments = onceReady(() => import('./TriggerMoments.vue'))

/** The part “When” of a sheet: the triggers, how often a record may go through, and how a rule of the clock goes on. */
const props = defineProps<{ rule: RuleDocument; options: readonly TriggerOption[] }>()
const emit = defineEmits<{ change: [id: string, kind: TriggerName] }>()
const sheet = inject(SHEET)!
const here = useHere()
const names = computed(() => ({ catalogue: here.value, object: props.rule.object }))
/** How often a trigger would have started the rule, and what counts; of times of the clock their moments are shown. */
function often({
  id,
  kind,
}: RuleDocument['triggers'][number]): { readonly says: string; readonly hint: string } | null {
  const started = sheet.evidence?.started[id]
  if (started === undefined || TRIGGERS[kind].byClock) return null
  const inPart = sheet.evidence?.inPart.includes(id)
  return {
    says: `${inPart ? 'at least ' : ''}${count(started, 'time')} in the last 30 days`,
    hint: inPart
      ? 'Changes that only a new day brings are recorded while a rule that is on uses them.'
      : TRIGGERS[kind].hint,
  }
}
/** How often a record may go through, and how a rule goes on: folded while both are as usual. */
const asUsual = ref(false)
const usualLines = computed(() => [
  ...(props.rule.repeats || props.rule.object === 'none' ? [] : [plainSentence(repeatSentence(undefined))]),
  ...(goesByTime(props.rule) && goesOnAsUsual(props.rule) ? [plainSentence(goingOnSentence(props.rule))] : []),
])
</script>

<template>
  <section aria-label="When">
    <h2 class="part">When</h2>
    <div v-if="rule.triggers.length > 0" role="list" aria-label="Triggers">
      <div v-for="(trigger, i) in rule.triggers" :key="trigger.id" role="listitem">
        <div :data-line="`trigger:${trigger.id}`" class="group/line relative flex items-baseline gap-3 py-0.5">
          <p class="min-w-0 flex-1 font-serif text-[18px] leading-normal">
            <span v-if="i > 0">or </span
            ><SentenceWords
              :parts="TRIGGERS[trigger.kind].sentence(trigger.params, names)"
              :path="`trigger:${trigger.id}`"
              :editable="sheet.editable"
              :open="sheet.openKey"
              :bad="sheet.bad[trigger.id]"
              @edit="sheet.edit(`trigger:${trigger.id}`, $event)"
            />
            <span
              v-for="finding in sheet.findingsOf(trigger.id)"
              :key="finding.text"
              class="ml-2 inline-block rounded-[3px] px-1.5 font-sans text-[13px] font-medium"
              :class="finding.tone"
              >{{ finding.text }}</span
            >
          </p>
          <TriggerActs
            v-if="sheet.editable"
            :trigger="trigger"
            :say="plainSentence(TRIGGERS[trigger.kind].sentence(trigger.params, names))"
            :options="options"
            :title="often(trigger) ? `${often(trigger)?.says}. ${often(trigger)?.hint}` : undefined"
            @change="emit('change', trigger.id, $event)"
            @remove="sheet.remove(`trigger:${trigger.id}`)"
          />
          <span
            v-if="often(trigger)"
            class="quiet whitespace-nowrap group-hover/line:opacity-0 peer-focus-within:opacity-0"
            :title="often(trigger)?.hint"
            >{{ often(trigger)?.says }}</span
          >
        </div>
        <TriggerMoments
          v-if="sheet.evidence?.clocks[trigger.id]"
          :trigger-id="trigger.id"
          :object="rule.object"
          :clock="sheet.evidence.clocks[trigger.id]!"
        />
        <p v-if="neighbours(sheet.evidence?.kinds, trigger.kind) !== ''" class="quiet pb-0.5" data-neighbours>
          Other triggers: {{ neighbours(sheet.evidence?.kinds, trigger.kind) }}
        </p>
      </div>
    </div>
    <p
      v-if="rule.object !== 'none' && rule.triggers.length > 0 && (rule.repeats || (sheet.editable && asUsual))"
      class="py-0.5 font-serif text-[15px] text-ink2"
      data-line="repeats:rule"
    >
      <SentenceWords
        :parts="repeatSentence(rule.repeats)"
        path="repeats:rule"
        :editable="sheet.editable"
        :open="sheet.openKey"
        @edit="sheet.edit('repeats:rule', $event)"
      />
    </p>
    <p
      v-if="goesByTime(rule) && (!goesOnAsUsual(rule) || (sheet.editable && asUsual))"
      class="py-0.5 font-serif text-[15px] text-ink2"
      data-line="goingOn:rule"
    >
      <SentenceWords
        :parts="goingOnSentence(rule)"
        path="goingOn:rule"
        :editable="sheet.editable"
        :open="sheet.openKey"
        @edit="sheet.edit('goingOn:rule', $event)"
      />
    </p>
    <p v-if="sheet.editable" class="flex items-center gap-3 pb-1">
      <button
        type="button"
        class="act"
        :class="rule.triggers.length === 0 && 'word text-[18px]!'"
        :data-missing="rule.triggers.length === 0 ? '' : undefined"
        data-word="add:trigger/kind"
        @click="sheet.open('add:trigger', 'kind')"
      >
        {{ rule.triggers.length ? 'Or when…' : 'Add trigger' }}</button><button
        v-if="rule.triggers.length > 0 && usualLines.length > 0"
        type="button"
        class="more-usual"
        :aria-expanded="asUsual"
        :aria-label="`Usual settings: ${usualLines.join('; ')}`"
        :title="usualLines.join('; ')"
        data-usual
        @click="asUsual = !asUsual"
      >
        {{ asUsual ? '‹' : '…' }}
      </button>
    </p>
  </section>
</template>
