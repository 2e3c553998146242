<script setup lang="ts">
import { isEmpty, sameValue, type Value } from '#core/language/value'
import type { Field } from '#core/fields/field'
import { sayInstant } from '#core/time/say'
import type { RecordPage } from '~~/server/views/record'
import { focusSoon } from '~/shared/keys/focus'
import { problemOf, read, send, attempt } from '~/shared/api/api'
import { useCatalogue } from '~/shared/stores/catalogue'
import PopOver from '~/shared/words/PopOver.vue'
import FieldPast from './FieldPast.vue'
import ValueEditor from '~/shared/words/ValueEditor.vue'

/** A record's fields as a narrow list; each value is edited where it stands and says who wrote it. */
const props = defineProps<{ page: RecordPage; editable: boolean }>()
const emit = defineEmits<{ changed: [] }>()
const store = useCatalogue()
const fields = computed(() => store.catalogue.fields(props.page.ref.object))
const editing = ref<string | null>(null)
/** What stood in the field when she began to change it. */
let base: { version: number; value: Value } = { version: 0, value: null }
/** Somebody changed the same field meanwhile: both values, to choose from. */
const both = ref<{ key: string; mine: Value; theirs: Value; version: number } | null>(null)
const field = computed(() => (editing.value ? store.catalogue.field(props.page.ref.object, editing.value) : null))

/** The field whose past is looked at. */
const asked = ref<string | null>(null)
function closePast(): void {
  const key = asked.value
  asked.value = null
  void nextTick(() => document.querySelector<HTMLElement>(`[data-past="${key}"]`)?.focus())
}
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
function begin(key: string): void {
  both.value = null
  base = { version: props.page.version, value: props.page.values[key] ?? null }
  editing.value = key
}
async function set(value: Value): Promise<void> {
  const key = editing.value
  close()
  if (key) await write(key, value, base.version)
}
/**
 * Writes for the version it was made for. A change of other fields meanwhile is no matter; one of this field is asked
 * about.
 */
async function write(key: string, value: Value, version: number): Promise<void> {
  const path = `/api/v1/records/${props.page.ref.object}/${props.page.ref.id}`
  const done = await attempt(async () => {
    for (let tried = version, times = 0; ; times++) {
      try {
        return await send('PATCH', path, { values: { [key]: value } }, { 'if-match': `"${tried}"` })
      } catch (error) {
        if (problemOf(error).status !== 412 || times > 5) throw error
        const now = await read<RecordPage>(path)
        const theirs = now.values[key] ?? null
        if (!sameValue(theirs, base.value) && !sameValue(theirs, value)) {
          both.value = { key, mine: value, theirs, version: now.version }
          return now
        }
        tried = now.version
      }
    }
  })
  if (done) emit('changed')
}
const bothField = computed(() => (both.value ? store.catalogue.field(props.page.ref.object, both.value.key) : null))
const say = (value: Value): string =>
  bothField.value ? store.show(value, bothField.value, props.page.values) || 'empty' : ''
function leave(): void {
  const key = both.value?.key
  both.value = null
  void nextTick(() => document.querySelector<HTMLElement>(`[data-fact="${key}"]`)?.focus())
}
async function keepMine(): Promise<void> {
  const asked = both.value
  if (!asked) return
  leave()
  base = { version: asked.version, value: asked.theirs }
  await write(asked.key, asked.mine, asked.version)
}
</script>

<template>
  <dl class="text-[13.5px]">
    <div
      v-for="one in fields"
      :key="one.key"
      class="group/fact relative grid grid-cols-[130px_1fr] gap-2 border-b border-hair py-[3px]"
    >
      <dt class="text-ink2" :title="one.description">{{ one.label }}</dt>
      <dd class="min-w-0">
        <button
          v-if="canEdit(one)"
          type="button"
          class="w-full truncate rounded-[2px] text-left hover:bg-violet-t"
          :class="isEmpty(page.values[one.key]) && 'text-ink2 italic'"
          :data-fact="one.key"
          :title="writer(one.key)"
          :aria-label="`Edit ${one.label}: ${store.show(page.values[one.key], one, page.values) || 'empty'}`"
          @click="begin(one.key)"
        >
          {{ store.show(page.values[one.key], one, page.values) || 'Empty' }}
        </button>
        <span
          v-else
          class="block truncate"
          :title="
            one.keptBy
              ? `Read-only: ${one.keptBy}. ${writer(one.key) ? `Changed by ${writer(one.key)}` : ''}`
              : writer(one.key)
          "
          >{{ store.show(page.values[one.key], one, page.values) || '–' }}</span
        >
        <span v-if="page.writers[one.key]?.doer.by === 'rule'" class="block truncate text-[12px] text-violet"
          ><span class="mark data mr-1.5 scale-75" aria-hidden="true" />{{ page.writers[one.key]?.doer.name }}</span
        >
        <button
          v-if="page.writers[one.key]"
          type="button"
          class="quiet absolute top-[3px] right-0 rounded-[2px] bg-paper2 px-1 opacity-0 group-hover/fact:opacity-100 focus:opacity-100"
          :data-past="one.key"
          :aria-label="`History of ${one.label}`"
          @click="asked = asked === one.key ? null : one.key"
        >
          History
        </button>
      </dd>
    </div>
    <PopOver v-if="asked" :anchor="`[data-past='${asked}']`" label="Field history" wide @close="closePast"
      ><FieldPast :key="asked" :of="page.ref" :field="asked"
    /></PopOver>
    <PopOver v-if="editing && field" :anchor="`[data-fact='${editing}']`" :label="`Edit ${field.label}`" @close="close">
      <ValueEditor :field="field" :value="page.values[field.key] ?? null" @set="set" />
    </PopOver>
    <PopOver
      v-if="both && bothField"
      :anchor="`[data-fact='${both.key}']`"
      :label="`Conflict in ${bothField.label}`"
      @close="leave"
    >
      <div class="w-[320px] p-3" data-both>
        <h2>Changed by someone else</h2>
        <p class="mt-1">
          {{ page.writers[both.key]?.doer.name ?? 'Someone' }} changed {{ bothField.label }} while you were editing.
        </p>
        <dl class="mt-2 grid grid-cols-[90px_1fr] gap-y-1">
          <dt class="text-ink2">Current value</dt>
          <dd class="font-medium break-words">{{ say(both.theirs) }}</dd>
          <dt class="text-ink2">Your value</dt>
          <dd class="font-medium break-words">{{ say(both.mine) }}</dd>
        </dl>
        <div class="mt-3 flex gap-2">
          <button
            type="button"
            class="button main"
            @vue:mounted="({ el }: { readonly el: unknown }) => focusSoon(el)"
            @click="leave"
          >
            Keep current value</button
          ><button type="button" class="button" @click="keepMine">Save mine</button>
        </div>
      </div>
    </PopOver>
  </dl>
</template>
