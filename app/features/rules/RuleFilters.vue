<script setup lang="ts">
import { capital } from '#core/language/nouns'
import { OBJECT_WORDS, RULE_OBJECTS, type ObjectKind } from '#core/records/kinds'
import { TRIGGERS, TRIGGER_NAMES } from '#core/rules/triggers'
import { useCatalogue } from '~/shared/stores/catalogue'
import { RULE_FILTERS, TROUBLES, type ListedRule, type RuleFilter, type RuleFilterName } from './ruleFilter'

/** What the list of rules is narrowed to: of each thing only what some rule has. */
const props = defineProps<{ rules: readonly ListedRule[]; asked: RuleFilter }>()
const emit = defineEmits<{ ask: [name: RuleFilterName, value: string]; clear: [] }>()
const store = useCatalogue()
const sorted = (names: readonly string[]): readonly string[] => [...new Set(names)].sort((a, b) => a.localeCompare(b))
const named = (names: readonly string[]) => sorted(names).map((one) => ({ value: one, label: one }))
const fields = computed(() =>
  [...new Set(props.rules.flatMap((rule) => rule.fields))]
    .flatMap((name) => {
      const [object = '', key = ''] = name.split('.')
      const found = store.catalogue.field(object as ObjectKind, key)
      return found ? [{ value: name, label: `${OBJECT_WORDS[object as ObjectKind].One}: ${found.label}` }] : []
    })
    .sort((a, b) => a.label.localeCompare(b.label)),
)

interface Choice {
  readonly name: RuleFilterName
  readonly label: string
  readonly any: string
  readonly options: readonly { readonly value: string; readonly label: string }[]
  /** Only where there is something to choose. */
  readonly needed?: true
}
const STATES = ['on', 'off', 'draft', 'archived'].map((value) => ({ value, label: capital(value) }))
const RECORDS = RULE_OBJECTS.map((value) => ({ value, label: OBJECT_WORDS[value].Many }))
const TROUBLE_OPTIONS = TROUBLES.slice(1).map(({ value, said }) => ({ value, label: said }))
const choices = computed((): readonly Choice[] =>
  (
    [
      { name: 'state', label: 'State', any: 'Not archived', options: STATES },
      { name: 'of', label: 'Records', any: 'All', options: RECORDS },
      {
        name: 'start',
        label: 'Trigger',
        any: 'Any',
        options: TRIGGER_NAMES.filter((name) => props.rules.some((rule) => rule.triggers.includes(name))).map(
          (value) => ({ value, label: capital(TRIGGERS[value].does) }),
        ),
      },
      { name: 'field', label: 'Uses field', any: 'Any', options: fields.value },
      {
        name: 'by',
        label: 'Person',
        any: 'Anyone',
        options: named(props.rules.flatMap((rule) => [rule.changedBy, rule.createdBy])),
      },
      {
        name: 'folder',
        label: 'Folder',
        any: 'Any',
        options: named(props.rules.flatMap((rule) => rule.folder ?? [])),
        needed: true,
      },
      {
        name: 'label',
        label: 'Label',
        any: 'Any',
        options: named(props.rules.flatMap((rule) => rule.labels)),
        needed: true,
      },
      { name: 'trouble', label: 'Problem', any: 'Any', options: TROUBLE_OPTIONS },
    ] satisfies readonly Choice[]
  ).filter((choice: Choice) => !choice.needed || choice.options.length > 0),
)
const filtered = computed(() => RULE_FILTERS.some((name) => props.asked[name] !== ''))
</script>

<template>
  <p
    class="flex flex-none flex-wrap items-baseline gap-x-1.5 gap-y-1 font-serif text-[16px]"
    role="group"
    aria-label="Filter rules"
  >
    <label v-for="{ name, label, any, options } in choices" :key="name" class="pick-label"
      >{{ label }}
      <select class="pick" @change="emit('ask', name, ($event.currentTarget as HTMLSelectElement).value)">
        <option value="" :selected="asked[name] === ''">{{ any }}</option>
        <option
          v-for="option in options"
          :key="option.value"
          :value="option.value"
          :selected="asked[name] === option.value"
        >
          {{ option.label }}
        </option>
      </select></label
    >
    <button v-if="filtered" type="button" class="word ml-2 font-sans text-[13px]" @click="emit('clear')">
      Clear filters
    </button>
  </p>
</template>

<style scoped>
.pick-label {
  color: var(--ink2);
  font: 400 13px var(--font-sans);
}
.pick {
  margin-right: 8px;
  font-family: var(--font-serif);
  font-size: 15px;
  color: var(--ink);
  background: transparent;
  text-decoration: underline;
  text-decoration-color: var(--violet);
  text-underline-offset: 4px;
  max-width: 190px;
  font-weight: 500;
  field-sizing: content;
}
.pick option {
  background: var(--paper);
  color: var(--ink);
}
</style>
