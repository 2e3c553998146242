<script setup lang="ts">
import { count, listOf } from '#core/language/counts'
import type { Missing, MissingWord } from '#core/formats/csv/missing'
import { FIELD_TYPES } from '#core/fields/types'
import { FIELD_TYPE_NAMES, type FieldTypeName } from '#core/language/field-types'
import { capital } from '#core/language/nouns'
import type { ObjectKind } from '#core/records/kinds'
import { send, attempt } from '~/shared/api/api'
import { useCatalogue } from '~/shared/stores/catalogue'

/** What a file names that is not in the workspace: looked through, completed and created all together. */
const props = defineProps<{
  importId: number
  object: ObjectKind
  missing: Missing
  /** Columns that somebody has just set to go nowhere. */
  skipped: ReadonlySet<number>
}>()
const emit = defineEmits<{ made: [] }>()
const store = useCatalogue()

/** More of one kind are hardly meant: then each is chosen. */
const TICKED_MOST = 30
const TYPES = FIELD_TYPE_NAMES.filter((type) => type !== 'stage' && type !== 'pipeline')

interface Line extends MissingWord {
  readonly key: string
}
interface Group {
  readonly key: string
  readonly title: string
  readonly lines: readonly Line[]
}
const lines = (key: string, words: readonly MissingWord[]): readonly Line[] =>
  words.map(({ text, rows }) => ({ key: `${key}/${text}`, text, rows }))
const stageKey = (i: number): string => `stages/${props.missing.stages[i]?.named ?? ''}`
const choices = computed((): readonly Group[] =>
  props.missing.choices.map(({ field, words }) => ({
    key: `choices/${field}`,
    title: `Choices of ${store.catalogue.field(props.object, field)?.label ?? field}`,
    lines: lines(`choices/${field}`, words),
  })),
)
const stages = computed(() =>
  props.missing.stages.map((group, i): Group & typeof group => ({
    ...group,
    key: stageKey(i),
    title: group.pipeline === null && group.named !== null ? `Pipeline ${group.named}, with its stages` : 'Stages',
    lines: lines(stageKey(i), group.stages),
  })),
)
const people = computed((): Group => ({ key: 'people', title: 'People', lines: lines('people', props.missing.people) }))
const fields = computed((): Group => ({
  key: 'fields',
  title: 'Fields',
  lines: props.missing.fields.map(({ column, label, rows }) => ({ key: `fields/${column}`, text: label, rows })),
}))

// What somebody chose stays while the preview is read anew.
const chosen = reactive<Record<string, boolean>>({})
const emails = reactive<Record<string, string>>({})
const outcomes = reactive<Record<string, 'open' | 'won' | 'lost'>>({})
const pipelines = reactive<Record<string, string>>({})
const types = reactive<Record<string, FieldTypeName>>({})

const ticked = (group: Group, key: string): boolean =>
  chosen[key] ??
  (group.lines.length <= TICKED_MOST && !(group.key === 'fields' && props.skipped.has(Number(key.slice(7)))))
const wanted = (group: Group): readonly Line[] => group.lines.filter(({ key }) => ticked(group, key))
function tickAll(group: Group, on: boolean): void {
  for (const { key } of group.lines) chosen[key] = on
}

/** All that is ticked, as it is sent. */
const order = computed((): Missing => {
  const { missing } = props
  return {
    choices: choices.value
      .map((group, i) => ({ field: missing.choices[i]?.field ?? '', words: wanted(group).map(plain) }))
      .filter(({ words }) => words.length > 0),
    stages: stages.value
      .map((group) => ({
        pipeline: pipelines[group.key] ?? group.pipeline,
        named: group.named,
        stages: group.stages
          .filter(({ text }) => ticked(group, `${group.key}/${text}`))
          .map((stage) => ({ ...stage, outcome: outcomes[`${group.key}/${stage.text}`] ?? stage.outcome })),
      }))
      .filter((group) => group.stages.length > 0),
    people: missing.people
      .filter(({ text }) => ticked(people.value, `people/${text}`))
      .map((person) => ({ ...person, email: person.email ?? emails[person.text]?.trim() ?? null })),
    fields: missing.fields
      .filter(({ column }) => ticked(fields.value, `fields/${column}`))
      .map((field) => ({ ...field, type: types[field.column] ?? field.type }))
      .map((field) => ({ ...field, choices: isChoice(field.type) ? field.choices : [] })),
  }
})
const plain = ({ text, rows }: Line): MissingWord => ({ text, rows })
const isChoice = (type: FieldTypeName): boolean => type === 'choice' || type === 'choices'
/** A column that does not look like choices has no list of them to begin with. */
const typesOf = (field: Missing['fields'][number]): readonly FieldTypeName[] =>
  field.choices.length > 0 ? TYPES : TYPES.filter((type) => !isChoice(type))

const sum = computed(() => {
  const { choices: made, stages: into, people: persons, fields: columns } = order.value
  const newPipelines = into.filter(({ pipeline }) => pipeline === null).length
  return listOf(
    (
      [
        [made.reduce((total, { words }) => total + words.length, 0), 'choice'],
        [newPipelines, 'pipeline'],
        [into.reduce((total, group) => total + group.stages.length, 0), 'stage'],
        [persons.length, 'person'],
        [columns.length, 'field'],
      ] as const
    )
      .filter(([n]) => n > 0)
      .map(([n, noun]) => count(n, noun)),
  )
})

const busy = ref(false)
async function make(): Promise<void> {
  busy.value = true
  const made = await attempt(() => send('POST', `/api/v1/imports/${props.importId}/missing`, order.value))
  busy.value = false
  if (made !== null) emit('made')
}
</script>

<template>
  <form class="mt-5 rounded-[3px] border border-ink2/40 px-4 pt-3 pb-4" data-missing @submit.prevent="make">
    <div class="flex flex-wrap items-baseline gap-x-4">
      <h2>Not in the workspace yet</h2>
      <p class="quiet">
        Rows that name these are rejected until they are created. Columns that are not imported can become fields.
      </p>
    </div>
    <div class="mt-2 grid grid-cols-[repeat(auto-fit,minmax(min(340px,100%),1fr))] gap-x-8 gap-y-4">
      <fieldset v-for="group in [...choices, ...stages]" :key="group.key" class="min-w-0">
        <legend class="flex w-full items-baseline gap-2 border-b border-hair pb-1 font-medium">
          <label class="flex min-w-0 items-baseline gap-2"
            ><input
              type="checkbox"
              :checked="wanted(group).length === group.lines.length"
              :indeterminate="wanted(group).length > 0 && wanted(group).length < group.lines.length"
              @change="tickAll(group, ($event.target as HTMLInputElement).checked)"
            /><span class="truncate">{{ group.title }}</span></label
          >
          <template v-if="'stages' in group && group.named === null"
            ><span class="font-normal">in</span>
            <select
              class="entry min-w-0 py-0.5!"
              aria-label="Pipeline of the new stages"
              :value="pipelines[group.key] ?? group.pipeline"
              @change="pipelines[group.key] = ($event.target as HTMLSelectElement).value"
            >
              <option v-for="one in store.catalogue.pipelines" :key="one.id" :value="one.id">{{ one.name }}</option>
            </select></template
          >
          <span v-else-if="'stages' in group && group.pipeline !== null" class="quiet truncate">{{
            store.catalogue.pipeline(group.pipeline)?.name
          }}</span>
        </legend>
        <ul class="max-h-52 overflow-auto pt-1">
          <li v-for="line in group.lines" :key="line.key" class="flex items-baseline gap-2 py-0.5">
            <label class="flex min-w-0 flex-1 items-baseline gap-2"
              ><input
                type="checkbox"
                :checked="ticked(group, line.key)"
                @change="chosen[line.key] = ($event.target as HTMLInputElement).checked"
              /><span class="truncate" :title="line.text">{{ line.text }}</span></label
            >
            <select
              v-if="'stages' in group"
              class="entry py-0.5!"
              :aria-label="`Outcome of ${line.text}`"
              :value="outcomes[line.key] ?? group.stages.find((stage) => stage.text === line.text)?.outcome"
              @change="outcomes[line.key] = ($event.target as HTMLSelectElement).value as 'open'"
            >
              <option value="open">Open</option>
              <option value="won">Won</option>
              <option value="lost">Lost</option>
            </select>
            <span class="quiet w-20 flex-none text-right">{{ count(line.rows, 'row') }}</span>
          </li>
        </ul>
      </fieldset>

      <fieldset v-if="people.lines.length > 0" class="min-w-0">
        <legend class="w-full border-b border-hair pb-1 font-medium">
          <label class="flex items-baseline gap-2"
            ><input
              type="checkbox"
              :checked="wanted(people).length === people.lines.length"
              :indeterminate="wanted(people).length > 0 && wanted(people).length < people.lines.length"
              @change="tickAll(people, ($event.target as HTMLInputElement).checked)"
            />People</label
          >
        </legend>
        <ul class="max-h-52 overflow-auto pt-1">
          <li v-for="person in missing.people" :key="person.text" class="flex flex-wrap items-baseline gap-x-2 py-0.5">
            <label class="flex min-w-32 flex-1 items-baseline gap-2"
              ><input
                type="checkbox"
                :checked="ticked(people, `people/${person.text}`)"
                @change="chosen[`people/${person.text}`] = ($event.target as HTMLInputElement).checked"
              /><span class="truncate" :title="person.name">{{ person.name }}</span></label
            >
            <span v-if="person.email !== null" class="quiet max-w-full truncate">{{ person.email }}</span>
            <input
              v-else
              v-model="emails[person.text]"
              type="email"
              class="entry w-[150px] py-0.5!"
              maxlength="300"
              :aria-label="`Email of ${person.name}`"
              placeholder="Email"
              required
              :disabled="!ticked(people, `people/${person.text}`)"
            />
            <span class="quiet ml-auto w-14 flex-none text-right">{{ count(person.rows, 'row') }}</span>
          </li>
        </ul>
        <p class="quiet mt-1">They own records and can’t sign in until they get a password in People.</p>
      </fieldset>

      <fieldset v-if="fields.lines.length > 0" class="min-w-0">
        <legend class="w-full border-b border-hair pb-1 font-medium">
          <label class="flex items-baseline gap-2"
            ><input
              type="checkbox"
              :checked="wanted(fields).length === fields.lines.length"
              :indeterminate="wanted(fields).length > 0 && wanted(fields).length < fields.lines.length"
              @change="tickAll(fields, ($event.target as HTMLInputElement).checked)"
            />Fields</label
          >
        </legend>
        <ul class="max-h-52 overflow-auto pt-1">
          <li v-for="field in missing.fields" :key="field.column" class="flex items-baseline gap-2 py-0.5">
            <label class="flex min-w-0 flex-1 items-baseline gap-2"
              ><input
                type="checkbox"
                :checked="ticked(fields, `fields/${field.column}`)"
                @change="chosen[`fields/${field.column}`] = ($event.target as HTMLInputElement).checked"
              /><span class="truncate" :title="field.label">{{ field.label }}</span></label
            >
            <select
              class="entry w-[172px] py-0.5!"
              :aria-label="`Type of ${field.label}`"
              :title="field.choices.join(', ')"
              :value="types[field.column] ?? field.type"
              @change="types[field.column] = ($event.target as HTMLSelectElement).value as FieldTypeName"
            >
              <option v-for="type in typesOf(field)" :key="type" :value="type">
                {{ capital(FIELD_TYPES[type].word)
                }}{{ isChoice(type) ? ` (${count(field.choices.length, 'choice')})` : '' }}
              </option>
            </select>
            <span class="quiet w-16 flex-none text-right">{{ count(field.rows, 'row') }}</span>
          </li>
        </ul>
      </fieldset>
    </div>
    <button
      type="submit"
      class="button main mt-3 max-w-full text-left whitespace-normal!"
      :disabled="busy || sum === ''"
      data-make-missing
    >
      {{ sum === '' ? 'Create' : `Create ${sum}` }}
    </button>
  </form>
</template>
