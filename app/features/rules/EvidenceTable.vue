<script setup lang="ts">
import { figure } from '#core/language/counts'
import type { Seen } from '#core/conditions/compile'
import type { Field } from '#core/fields/field'
import { OBJECT_WORDS } from '#core/records/kinds'
import type { Values } from '#core/language/value'
import type { RuleDocument } from '#core/rules/document'
import type { Evidence } from '~~/server/views/evidence'
import { recordPath } from '~/shared/paths'
import { send, attempt } from '~/shared/api/api'
import { useCatalogue } from '~/shared/stores/catalogue'
import SeenList from '~/shared/run/SeenList.vue'

/** Records that match, and those that fail one condition; each can be opened and says what was asked of it. */
const props = defineProps<{ rule: RuleDocument; evidence: Evidence }>()
const emit = defineEmits<{ look: [missId: string | null]; ways: [ways: readonly string[] | null] }>()
const store = useCatalogue()
const many = computed(() => OBJECT_WORDS[props.rule.object].many)
const hasPaths = computed(() => props.rule.steps.some((step) => step.branches))
/** What the conditions look at comes first: that is what she wants to see. */
const columns = computed<readonly Field[]>(() =>
  [
    ...new Set([
      ...props.rule.conditions.items.flatMap((item) => (item.kind === 'condition' ? [item.field] : [])),
      ...(props.rule.object === 'deal' ? ['amount', 'stage', 'owner'] : ['owner']),
    ]),
  ]
    .filter((key) => key !== 'name')
    .slice(0, 3)
    .flatMap((key) => store.catalogue.field(props.rule.object, key) ?? []),
)
/** On a small screen there is no room for three: the third goes before names are cut to a few letters. */
const AS_ROOM = 'min-[900px]:max-[1199px]:w-0! min-[900px]:max-[1199px]:invisible min-[900px]:max-[1199px]:p-0!'
const roomFor = (at: number): string => (at === 2 ? AS_ROOM : '')
const cell = (values: Values, field: Field): string => {
  const text = store.show(values[field.key], field, values)
  return field.type === 'person' ? text.replace(/^(\S)\S* /, '$1. ') : text
}
/** Columns take what their longest value needs, within reason, so that names are cut as little as can be. */
const MOST_LETTERS = 11
const MOST_LETTERS_WHY = 28
const LETTER_PX = 7.6
const GAP_PX = 16
const roomOf = (texts: readonly string[], most: number): { readonly width: string } => ({
  width: `${Math.round(Math.min(Math.max(4, ...texts.map(({ length }) => length)), most) * LETTER_PX + GAP_PX)}px`,
})
const widths = computed(() => {
  const { rows, misses } = props.evidence
  if (rows.length > 0)
    return columns.value.map((field) =>
      roomOf(
        rows.map(({ values }) => cell(values, field)),
        MOST_LETTERS,
      ),
    )
  // Where nothing matches there is one column beside the name: why not.
  const why = roomOf(
    misses.map((miss) => miss.why),
    MOST_LETTERS_WHY,
  )
  return columns.value.map((_, at) => (at === 0 ? why : { width: '0' }))
})
const lines = computed(() => [
  ...props.evidence.rows.map(({ id, values }) => ({ id, values, why: null, missId: null, first: false })),
  ...props.evidence.misses.map(({ id, values, why, missId }, i) => ({ id, values, why, missId, first: i === 0 })),
])

/** The record whose conditions are looked at one by one. */
const open = ref<number | null>(null)
const looked = shallowRef<{ holds: boolean; seen: readonly Seen[]; ways: readonly string[] } | null>(null)
/** Whether the sheet shows only the paths that the looked-at record goes. */
const onlyItsWay = ref(false)
watch([looked, onlyItsWay], () => emit('ways', onlyItsWay.value && looked.value ? looked.value.ways : null))
async function see(id: number): Promise<void> {
  looked.value = await attempt(() =>
    send<{ holds: boolean; seen: readonly Seen[]; ways: readonly string[] }>('POST', '/api/v1/evidence/record', {
      document: props.rule,
      id,
    }),
  )
}
async function toggle(id: number): Promise<void> {
  open.value = open.value === id ? null : id
  looked.value = null
  if (open.value !== null) await see(id)
}
watch(
  () => props.evidence,
  () => {
    if (open.value !== null) void see(open.value)
  },
)

/** Tab comes to one record, the arrows lead to the others. */
const held = ref<number | null>(null)
const stop = computed(() => (lines.value.find(({ id }) => id === held.value) ?? lines.value[0])?.id)
const table = useTemplateRef<HTMLElement>('table')
function arrows(event: KeyboardEvent): void {
  const by = event.key === 'ArrowDown' ? 1 : event.key === 'ArrowUp' ? -1 : 0
  if (by === 0 || !(event.target instanceof HTMLElement) || event.target.dataset.see === undefined) return
  event.preventDefault()
  const all = [...(table.value?.querySelectorAll<HTMLElement>('[data-see]') ?? [])]
  all[all.indexOf(event.target) + by]?.focus()
}
</script>

<template>
  <div
    class="mt-3 min-h-0 flex-1 overflow-auto pb-6"
    tabindex="0"
    role="region"
    aria-label="Matching records and near misses"
  >
    <table ref="table" class="list table-fixed" @keydown="arrows">
      <caption class="sr-only">
        Matching records, then records that fail one condition
      </caption>
      <colgroup>
        <col />
        <col v-for="(field, at) in columns" :key="field.key" :style="widths[at]" :class="roomFor(at)" />
      </colgroup>
      <thead class="sr-only">
        <tr>
          <th scope="col">Name</th>
          <th v-for="field in columns" :key="field.key" scope="col">{{ field.label }}</th>
        </tr>
      </thead>
      <tbody>
        <template v-for="line in lines" :key="line.id">
          <tr v-if="line.first">
            <th
              :colspan="columns.length + 1"
              scope="colgroup"
              class="pt-3! text-left font-serif text-[15px] font-normal"
            >
              Fail one condition
            </th>
          </tr>
          <tr
            :class="line.why !== null && 'hover:bg-brick-t'"
            @mouseenter="emit('look', line.missId)"
            @mouseleave="emit('look', null)"
            @focusin="emit('look', line.missId)"
            @focusout="emit('look', null)"
          >
            <td class="truncate" :title="String(line.values.name)">
              <button
                type="button"
                class="name-link max-w-full truncate text-left"
                :aria-expanded="open === line.id"
                :data-see="line.id"
                :tabindex="line.id === stop ? 0 : -1"
                @focus="held = line.id"
                @click="toggle(line.id)"
              >
                {{ line.values.name }}
              </button>
            </td>
            <td v-if="line.why !== null" :colspan="columns.length" class="text-brick">{{ line.why }}</td>
            <template v-else>
              <td
                v-for="(field, at) in columns"
                :key="field.key"
                class="truncate"
                :class="[field.type === 'currency' && 'num', roomFor(at)]"
              >
                {{ cell(line.values, field) }}
              </td>
            </template>
          </tr>
          <tr v-if="open === line.id">
            <td :colspan="columns.length + 1" class="bg-paper!">
              <SeenList v-if="looked" :seen="looked.seen" :mode="rule.conditions.mode" /><label
                v-if="looked && hasPaths"
                class="flex items-baseline gap-1.5 py-0.5 text-[13px]"
                ><input v-model="onlyItsWay" type="checkbox" />Show only the path it takes</label
              ><NuxtLink
                v-if="rule.object !== 'none'"
                :to="recordPath({ object: rule.object, id: line.id })"
                class="word"
                >Open {{ line.values.name }}</NuxtLink
              >
            </td>
          </tr>
        </template>
      </tbody>
    </table>
    <p v-if="evidence.matched > evidence.rows.length" class="quiet pt-2">
      Showing {{ evidence.rows.length }} of {{ figure(evidence.matched) }}.
    </p>
    <p v-if="evidence.matched === 0" class="pt-3 font-serif text-[16px]">
      <template v-if="evidence.total > 0">No {{ many }} match now.</template>
      <template v-else>No {{ many }} yet. <NuxtLink to="/data" class="word">Import some</NuxtLink></template>
    </p>
  </div>
</template>
