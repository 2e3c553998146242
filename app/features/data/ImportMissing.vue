<script setup lang="ts">
import { count, listOf } from '#core/language/counts'
import type { Missing, MissingWord } from '#core/formats/csv/missing'
import { FIELD_TYPES } from '#core/fields/types'
import { FIELD_TYPE_NAMES, type FieldTypeName } from '#core/language/field-types'
import { capital } from '#core/language/nouns'
import type { ObjectKind } from '#core/records/kinds'
import { send, attempt } from '~/shared/api/api'
import { useCatalogue } from '~/shared/stores/catalogue'
import MissingGroup, { type MissingLine } from './MissingGroup.vue'

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

/** Of more than these not all are meant: nothing is ticked then. */
const TICKED_MOST = 30
const TYPES = FIELD_TYPE_NAMES.filter((type) => type !== 'stage' && type !== 'pipeline')

interface Group {
  readonly key: string
  readonly title: string
  readonly lines: readonly MissingLine[]
}
const lines = (key: string, words: readonly MissingWord[]): readonly MissingLine[] =>
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
const people = computed((): Group => ({
  key: 'people',
  title: 'People',
  lines: props.missing.people.map(({ text, name, rows }) => ({ key: `people/${text}`, text: name, rows })),
}))
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
const wanted = (group: Group): readonly MissingLine[] => group.lines.filter(({ key }) => ticked(group, key))
function tick(keys: readonly string[], on: boolean): void {
  for (const key of keys) chosen[key] = on
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
      .map((person) => ({ ...person, email: person.email ?? emails[`people/${person.text}`]?.trim() ?? null })),
    fields: missing.fields
      .filter(({ column }) => ticked(fields.value, `fields/${column}`))
      .map((field) => ({ ...field, type: types[`fields/${field.column}`] ?? field.type }))
      .map((field) => ({ ...field, choices: isChoice(field.type) ? field.choices : [] })),
  }
})
const plain = ({ text, rows }: MissingLine): MissingWord => ({ text, rows })
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
      <MissingGroup
        v-for="group in choices"
        :key="group.key"
        :title="group.title"
        :lines="group.lines"
        :ticked="(key) => ticked(group, key)"
        @tick="tick"
      />
      <MissingGroup
        v-for="group in stages"
        :key="group.key"
        :title="group.title"
        :lines="group.lines"
        :ticked="(key) => ticked(group, key)"
        @tick="tick"
      >
        <template #head>
          <template v-if="group.named === null"
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
          <span v-else-if="group.pipeline !== null" class="quiet truncate">{{
            store.catalogue.pipeline(group.pipeline)?.name
          }}</span>
        </template>
        <template #default="{ line, index }">
          <select
            class="entry py-0.5!"
            :aria-label="`Outcome of ${line.text}`"
            :value="outcomes[line.key] ?? group.stages[index]?.outcome"
            @change="outcomes[line.key] = ($event.target as HTMLSelectElement).value as 'open'"
          >
            <option value="open">Open</option>
            <option value="won">Won</option>
            <option value="lost">Lost</option>
          </select>
        </template>
      </MissingGroup>
      <MissingGroup
        v-if="people.lines.length > 0"
        :title="people.title"
        :lines="people.lines"
        :ticked="(key) => ticked(people, key)"
        @tick="tick"
      >
        <template #default="{ line, index }">
          <span v-if="missing.people[index]?.email" class="quiet max-w-full truncate">{{
            missing.people[index]?.email
          }}</span>
          <input
            v-else
            v-model="emails[line.key]"
            type="email"
            class="entry w-[150px] py-0.5!"
            maxlength="300"
            :aria-label="`Email of ${line.text}`"
            placeholder="Email"
            required
            :disabled="!ticked(people, line.key)"
          />
        </template>
        <template #foot>
          <p class="quiet mt-1">They own records and can’t sign in until they get a password in People.</p>
        </template>
      </MissingGroup>
      <MissingGroup
        v-if="fields.lines.length > 0"
        :title="fields.title"
        :lines="fields.lines"
        :ticked="(key) => ticked(fields, key)"
        @tick="tick"
      >
        <template #default="{ line, index }">
          <select
            v-if="missing.fields[index]"
            class="entry w-[150px] py-0.5!"
            :aria-label="`Type of ${line.text}`"
            :title="missing.fields[index].choices.join(', ')"
            :value="types[line.key] ?? missing.fields[index].type"
            @change="types[line.key] = ($event.target as HTMLSelectElement).value as FieldTypeName"
          >
            <option v-for="type in typesOf(missing.fields[index])" :key="type" :value="type">
              {{ capital(FIELD_TYPES[type].word)
              }}{{ isChoice(type) ? ` (${missing.fields[index].choices.length})` : '' }}
            </option>
          </select>
        </template>
      </MissingGroup>
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
