<script setup lang="ts">
import type { RuleDocument } from '#core/rules/document'
import { sayProblem } from '#core/language/problems'
import { saveText } from '~/shared/api/saveText'
import { useCatalogue } from '~/shared/stores/catalogue'
import { useNotices } from '~/shared/stores/notices'
import PopOver from '~/shared/words/PopOver.vue'
import { ruleToText } from '#core/formats/rule-words'

/** The rule as text: to be read, kept as a file, or taken from one. */
const props = defineProps<{ ruleId: number; rule: RuleDocument; editable: boolean; hasRun: boolean }>()
const emit = defineEmits<{ take: [rule: RuleDocument]; close: [] }>()
const store = useCatalogue()
const notices = useNotices()
async function copyWords(): Promise<void> {
  await navigator.clipboard.writeText(ruleToText(props.rule, store.catalogue))
  emit('close')
  notices.tell({ tone: 'plain', title: 'Copied', text: 'The rule is on your clipboard as text.' })
}
async function keepFile(as: 'yaml' | 'json'): Promise<void> {
  const { ruleToJson, ruleToYaml } = await import('#core/formats/rule-text')
  const text = as === 'yaml' ? ruleToYaml(props.rule) : ruleToJson(props.rule)
  saveText(text, `rule-${props.ruleId}.${as}`, `application/${as}`)
  emit('close')
}
const refuse = (title: string, text: string): number => notices.tell({ tone: 'wrong', title, text })
async function fromFile(event: Event): Promise<void> {
  const file = (event.target as HTMLInputElement).files?.[0]
  emit('close')
  if (!file) return
  const { readRuleText } = await import('#core/formats/rule-text')
  const found = readRuleText(await file.text())
  if (!found.ok) refuse('File not imported', sayProblem(found.problem))
  else if (found.value.object !== props.rule.object && props.hasRun)
    refuse('File not imported', 'The record type of a rule can’t change once it has been switched on.')
  else emit('take', found.value)
}
</script>

<template>
  <PopOver anchor="[data-as-text]" label="Export rule" @close="emit('close')">
    <div class="flex flex-col items-start gap-1.5 p-1 text-[14px]">
      <button type="button" class="word" @vue:mounted="($event.el as HTMLElement).focus()" @click="copyWords">
        Copy as text
      </button>
      <button type="button" class="word" @click="keepFile('yaml')">Download YAML</button>
      <button type="button" class="word" @click="keepFile('json')">Download JSON</button>
      <label v-if="editable" class="word cursor-pointer focus-within:outline-2"
        >Replace from file…<input type="file" class="sr-only" accept=".yaml,.yml,.json" @change="fromFile"
      /></label>
      <span class="quiet"
        >Both formats follow the same
        <a class="word" href="/api/v1/rule-schema" download="rule.schema.json">schema</a>.</span
      >
    </div>
  </PopOver>
</template>
