<script setup lang="ts">
import { useVirtualizer } from '@tanstack/vue-virtual'
import type { Field } from '#core/fields/field'
import { FIELD_TYPES } from '#core/fields/types'
import { OBJECT_WORDS, type ObjectKind } from '#core/records/kinds'
import { recordPath } from '~/shared/paths'
import { useCatalogue } from '~/shared/stores/catalogue'
import type { ListRow } from './listPages'

/** Records as a table of which only what is looked at stands on the page. */
const props = defineProps<{
  object: ObjectKind
  fields: readonly Field[]
  /** Rows by where they stand; those that have not come yet are missing. */
  rows: ReadonlyMap<number, ListRow>
  matched: number
  sort: string
  down: boolean
}>()
const emit = defineEmits<{ sort: [key: string]; need: [index: number] }>()
defineSlots<{ empty: () => unknown }>()
const store = useCatalogue()

const ROW_PX = 29
const scroller = useTemplateRef<HTMLElement>('scroller')
const virtualizer = useVirtualizer(
  computed(() => ({
    count: props.matched,
    getScrollElement: () => scroller.value,
    estimateSize: () => ROW_PX,
    overscan: 12,
    initialRect: { width: 1200, height: 620 },
  })),
)
const visible = computed(() => virtualizer.value.getVirtualItems())
watch([visible, () => props.rows], ([items]) => {
  for (const item of items) emit('need', item.index)
})
const isNumber = (field: Field): boolean => FIELD_TYPES[field.type].widget === 'number'
const grid = computed(() => {
  const others = props.fields.slice(1).map((field) => (isNumber(field) ? 'minmax(80px,0.8fr)' : 'minmax(90px,1fr)'))
  return `minmax(220px,2fr) ${others.join(' ')}`
})
</script>

<template>
  <div
    ref="scroller"
    class="fills min-h-0 flex-1 overflow-auto"
    tabindex="0"
    role="region"
    :aria-label="`${OBJECT_WORDS[object].Many} table`"
  >
    <div
      role="table"
      :aria-label="OBJECT_WORDS[object].many"
      :aria-rowcount="matched + 1"
      class="min-w-[900px] text-[13.5px]"
    >
      <div role="rowgroup" class="sticky top-0 z-10 bg-paper">
        <div role="row" class="grid gap-3 border-b border-ink2" :style="{ gridTemplateColumns: grid }">
          <span
            v-for="field in fields"
            :key="field.key"
            role="columnheader"
            :aria-sort="sort === field.key ? (down ? 'descending' : 'ascending') : 'none'"
            :class="isNumber(field) && 'text-right'"
          >
            <button
              type="button"
              class="py-1 text-[12px] font-semibold text-ink2 hover:text-ink"
              @click="emit('sort', field.key)"
            >
              {{ field.label }} {{ sort === field.key ? (down ? '↓' : '↑') : '' }}
            </button>
          </span>
        </div>
      </div>
      <div role="rowgroup" class="relative" :style="{ height: `${virtualizer.getTotalSize()}px` }">
        <div
          v-for="{ index, start } in visible"
          :key="index"
          role="row"
          :aria-rowindex="index + 2"
          class="absolute inset-x-0 grid items-center gap-3 border-b border-hair hover:bg-paper2"
          :style="{ gridTemplateColumns: grid, height: `${ROW_PX}px`, transform: `translateY(${start}px)` }"
        >
          <template v-for="row in [rows.get(index)]" :key="row?.id ?? 'coming'">
            <template v-if="row">
              <span
                v-for="(field, i) in fields"
                :key="field.key"
                role="cell"
                class="truncate"
                :class="isNumber(field) && 'text-right'"
              >
                <NuxtLink v-if="i === 0" :to="recordPath({ object, id: row.id })" class="name-link font-medium">{{
                  row.values.name
                }}</NuxtLink>
                <template v-else>{{ store.show(row.values[field.key], field, row.values) }}</template>
              </span>
            </template>
            <span v-else role="cell" class="quiet">…</span>
          </template>
        </div>
      </div>
    </div>
    <slot v-if="matched === 0" name="empty" />
  </div>
</template>
