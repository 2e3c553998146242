<script setup lang="ts">
import { count, figure, plural } from '#core/language/counts'
import type { Group } from '#core/conditions/document'
import type { Value } from '#core/language/value'
import { OBJECT_WORDS, type ObjectKind } from '#core/records/kinds'
import type { BulkPreview } from '~~/server/engine/bulk-edit'
import { send, attempt } from '~/shared/api/api'
import { once } from '~/shared/api/once'
import { useCatalogue } from '~/shared/stores/catalogue'
import FieldPicker from '~/shared/words/FieldPicker.vue'
import ValueEditor from '~/shared/words/ValueEditor.vue'

/** Writes one value into a field of all records that are looked at: first what it would do, in numbers. */
const props = defineProps<{ object: ObjectKind; filter: Group; words: string; matched: number }>()
const emit = defineEmits<{ close: []; done: [] }>()
const store = useCatalogue()
const key = ref<string | null>(null)
const field = computed(() => (key.value ? store.catalogue.field(props.object, key.value) : null))
const value = ref<Value | undefined>(undefined)
const preview = shallowRef<BulkPreview | null>(null)
const busy = ref(false)
const made = ref<{ changed: number; runs: number } | null>(null)
const body = computed(() => ({
  object: props.object,
  filter: props.filter,
  words: props.words,
  field: key.value,
  value: value.value ?? null,
}))
async function look(): Promise<void> {
  preview.value = null
  if (key.value === null || value.value === undefined) return
  preview.value = await attempt(() => send<BulkPreview>('POST', '/api/v1/bulk-edits/preview', body.value))
}
watch([() => props.filter, () => props.words], look)
function choose(next: string): void {
  key.value = next
  value.value = undefined
  preview.value = null
}
function take(next: Value): void {
  value.value = next
  void look()
}
const write = once(async (): Promise<void> => {
  busy.value = true
  made.value = await attempt(() => send<{ changed: number; runs: number }>('POST', '/api/v1/bulk-edits', body.value))
  busy.value = false
  if (made.value) emit('done')
})

const many = (n: number): string => count(n, props.object)
</script>

<template>
  <section
    class="mt-2 max-h-[46vh] overflow-auto rounded-[3px] bg-paper2 px-4 py-3"
    aria-label="Edit all"
    @keydown.escape="emit('close')"
  >
    <p v-if="made" class="font-serif text-[17px]" role="status">
      {{ many(made.changed) }} changed.<template v-if="made.runs">
        Rules ran {{ count(made.runs, 'time') }} as a result.</template
      >
      <button type="button" class="button ml-2" @click="emit('close')">Close</button>
    </p>
    <div v-else class="flex flex-wrap items-start gap-6">
      <div class="w-64">
        <p class="quiet mb-1">For {{ many(matched) }}, set</p>
        <p v-if="field">
          <button type="button" class="word" @click="key = null">{{ field.label }}</button> to
          <button v-if="value !== undefined" type="button" class="word" @click="value = undefined">
            {{ value === null ? 'empty' : store.show(value, field) }}
          </button>
        </p>
        <FieldPicker v-else :object="object" writable @pick="choose" />
        <template v-if="field && value === undefined">
          <ValueEditor :key="field.key" class="mt-1" :field="field" :value="null" @set="take" />
          <button v-if="!field.required" type="button" class="button mt-2" @click="take(null)">Clear field</button>
        </template>
      </div>
      <div v-if="preview" class="min-w-72 flex-1" aria-live="polite">
        <p class="font-serif text-[17px]">
          <b class="font-medium">{{ many(preview.changed) }}</b> will change.<template v-if="preview.same">
            {{ figure(preview.same) }} already {{ plural(preview.same, 'has', 'have') }} this value.</template
          >
        </p>
        <p v-if="preview.tooMany" class="text-brick" role="alert">
          More than 10,000 {{ OBJECT_WORDS[object].many }} match. Narrow the filter first.
        </p>
        <p v-if="preview.refused.length" class="text-brick">
          {{ figure(preview.refused.length) }} can’t be changed, for example {{ preview.refused[0]?.name }}:
          {{ preview.refused[0]?.why }}
        </p>
        <p v-if="preview.rules.length" class="mt-1">
          Rules this can trigger:
          <template v-for="(rule, i) in preview.rules" :key="rule.ruleId"
            >{{ i > 0 ? ', ' : ''
            }}<NuxtLink v-if="store.may('readRules')" :to="`/rules/${rule.ruleId}`" class="word">{{
              rule.name
            }}</NuxtLink
            ><template v-else>{{ rule.name }}</template></template
          >.
        </p>
        <p v-else class="quiet mt-1">This triggers no rules.</p>
        <p class="mt-2 flex gap-2">
          <button
            type="button"
            class="button main"
            :disabled="preview.changed === 0 || preview.tooMany || busy"
            @click="write"
          >
            {{ busy ? 'Saving…' : `Save for ${many(preview.changed)}` }}</button><button
            type="button"
            class="button"
            @click="emit('close')"
          >
            Cancel
          </button>
        </p>
      </div>
      <table
        v-if="preview && preview.sample.length"
        class="list max-w-[420px]"
        aria-label="Some of the records, before and after"
      >
        <tbody>
          <tr v-for="one in preview.sample.slice(0, 8)" :key="one.id">
            <td class="max-w-52 truncate">{{ one.name }}</td>
            <td>
              <s class="text-ink2 decoration-hair">{{ one.old }}</s> → {{ one.new }}
            </td>
          </tr>
        </tbody>
      </table>
      <button v-if="!preview" type="button" class="button ml-auto" @click="emit('close')">Cancel</button>
    </div>
  </section>
</template>
