<script setup lang="ts">
import { isEmpty, type Value } from '#core/fields/value'
import type { Field } from '#core/fields/field'
import { sayInstant } from '#core/time/say'
import type { RecordPage } from '~~/server/views/record'

/** A record's fields as a narrow ledger; each value is edited where it stands and says who wrote it. */
const props = defineProps<{ page: RecordPage; editable: boolean }>()
const emit = defineEmits<{ changed: [] }>()
const store = useCatalogue()
const fields = computed(() => store.catalogue.fields(props.page.ref.object))
const editing = ref<string | null>(null)
const field = computed(() => (editing.value ? store.catalogue.field(props.page.ref.object, editing.value) : null))

const canEdit = (one: Field): boolean => props.editable && one.keptBy === null
function writer(key: string): string {
  const found = props.page.writers[key]
  return found ? `${found.doer.name}, ${sayInstant(found.atMs, store.catalogue.workspace.zone)}` : ''
}
function close(): void {
  const key = editing.value
  editing.value = null
  void nextTick(() => document.querySelector<HTMLElement>(`[data-fact="${key}"]`)?.focus())
}
async function set(value: Value): Promise<void> {
  const key = editing.value
  close()
  if (key && await attempt(() => $fetch(`/api/v1/records/${props.page.ref.object}/${props.page.ref.id}`, { method: 'PATCH', body: { values: { [key]: value } } }))) emit('changed')
}
</script>

<template>
  <dl class="text-[13.5px]">
    <div v-for="one in fields" :key="one.key" class="grid grid-cols-[130px_1fr] gap-2 border-b border-hair py-[3px]">
      <dt class="text-ink2" :title="one.description">{{ one.label }}</dt>
      <dd class="min-w-0">
        <button v-if="canEdit(one)" type="button" class="w-full truncate rounded-[2px] text-left hover:bg-violet-t" :class="isEmpty(page.values[one.key]) && 'text-ink2 italic'" :data-fact="one.key" :title="writer(one.key)" :aria-label="`${one.label}: ${store.show(page.values[one.key], one, page.values) || 'empty'}. Change`" @click="editing = one.key">{{ store.show(page.values[one.key], one, page.values) || 'empty' }}</button>
        <span v-else class="block truncate" :title="one.keptBy ? `Kept: ${one.keptBy}. ${writer(one.key)}` : writer(one.key)">{{ store.show(page.values[one.key], one, page.values) || '—' }}</span>
        <span v-if="page.writers[one.key]?.doer.by === 'rule'" class="block truncate text-[12px] text-violet"><span class="mark data mr-1.5 scale-75" aria-hidden="true" />{{ page.writers[one.key]?.doer.name }}</span>
      </dd>
    </div>
    <PopOver v-if="editing && field" :anchor="`[data-fact='${editing}']`" :label="`Set ${field.label}`" @close="close">
      <ValueEditor :field="field" :value="page.values[field.key] ?? null" @set="set" />
    </PopOver>
  </dl>
</template>
