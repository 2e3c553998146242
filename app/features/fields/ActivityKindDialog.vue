<script setup lang="ts">
import { valuesOfSchema } from '#core/activities/from-schema'
import { attempt, send } from '~/shared/api/api'
import { once } from '~/shared/api/once'
import AppDialog from '~/shared/dialog/AppDialog.vue'
import { newValue, valuesOf, VALUE_TYPES, writtenValue, type WrittenKind } from './activityKind'

/** Writes a kind of activity: its words, and what it tells. */
const props = defineProps<{ written: WrittenKind }>()
const emit = defineEmits<{ done: []; archive: [kind: string]; close: [] }>()
const kind = reactive({ ...props.written, data: props.written.data.map((one) => ({ ...one })) })
const WORDS = [
  { key: 'one', label: 'Name', hint: 'showroom visit' },
  { key: 'many', label: 'Several of them', hint: 'showroom visits' },
  { key: 'does', label: 'In a rule: a contact …', hint: 'visits the showroom' },
  { key: 'did', label: 'In a timeline: Ada …', hint: 'visited the showroom' },
  { key: 'about', label: 'Its one line of text is the …', hint: 'showroom' },
] as const
const schema = ref('')
const schemaProblem = ref('')
/** Takes the values that a schema describes; those of the same key stay what they are. */
function takeSchema(): void {
  schemaProblem.value = ''
  let read: unknown
  try {
    read = JSON.parse(schema.value)
  } catch (error) {
    schemaProblem.value = `This is not JSON: ${error instanceof Error ? error.message : ''}`
    return
  }
  const found = valuesOfSchema(read)
  if ('data' in found) {
    const known = kind.data.map((one) => one.key)
    kind.data.push(...found.data.filter((one) => !known.includes(one.key)).map(writtenValue))
    schema.value = ''
  } else schemaProblem.value = `${found.path === '' ? '' : `${found.path}: `}${found.text}`
}
const keep = once(async (): Promise<void> => {
  const { kind: name, did, does, one, many, about } = kind
  const body = { did, does, one, many, about, data: valuesOf(kind.data) }
  const kept = await attempt(() =>
    name === null
      ? send('POST', '/api/v1/activity-kinds', body)
      : send('PATCH', `/api/v1/activity-kinds/${name}`, body),
  )
  if (kept) emit('done')
})
</script>

<template>
  <AppDialog :title="kind.kind === null ? 'New activity' : 'Change activity'" :width="640" @close="emit('close')">
    <form class="mt-3" @submit.prevent="keep">
      <div class="label-grid">
        <template v-for="(word, at) in WORDS" :key="word.key">
          <label :for="`kind-${word.key}`">{{ word.label }}</label>
          <input
            :id="`kind-${word.key}`"
            v-model.trim="kind[word.key]"
            class="entry"
            maxlength="60"
            required
            :placeholder="word.hint"
            :data-first="at === 0 ? '' : undefined"
          />
        </template>
      </div>
      <fieldset class="mt-4">
        <legend class="font-serif text-[17px]">What else it tells</legend>
        <p v-if="kind.data.length === 0" class="quiet">Nothing yet.</p>
        <div v-for="(value, at) in kind.data" :key="at" class="mt-1.5 flex flex-wrap items-start gap-2">
          <input
            v-model.trim="value.label"
            class="entry w-48"
            maxlength="60"
            required
            :aria-label="`Value ${at + 1}: label`"
            placeholder="rooms looked at"
          />
          <select
            v-model="value.type"
            class="entry"
            :disabled="value.key !== null"
            :aria-label="`Value ${at + 1}: type`"
          >
            <option v-for="one in VALUE_TYPES" :key="one.type" :value="one.type">{{ one.label }}</option>
          </select>
          <textarea
            v-if="value.type === 'choice'"
            v-model="value.choices"
            class="entry min-w-0 flex-1"
            rows="2"
            required
            :aria-label="`Value ${at + 1}: choices, one per line`"
            placeholder="One choice per line"
          />
          <button type="button" class="button" :aria-label="`Remove value ${at + 1}`" @click="kind.data.splice(at, 1)">
            Remove
          </button>
        </div>
        <p class="mt-2 flex flex-wrap items-baseline gap-3">
          <button type="button" class="button" @click="kind.data.push(newValue())">Add value</button>
        </p>
        <details class="mt-2">
          <summary class="cursor-pointer">Values from a JSON Schema</summary>
          <textarea
            v-model="schema"
            class="entry mt-1 w-full font-mono text-[12px]"
            rows="5"
            aria-label="JSON Schema"
            spellcheck="false"
            placeholder='{ "type": "object", "properties": { "rooms": { "type": "number" } } }'
          />
          <p v-if="schemaProblem" class="text-brick" role="alert">{{ schemaProblem }}</p>
          <button type="button" class="button mt-1" :disabled="schema.trim() === ''" @click="takeSchema">
            Add its values
          </button>
        </details>
      </fieldset>
      <p class="mt-4 flex gap-2">
        <button type="submit" class="button main">Save</button>
        <button type="button" class="button" @click="emit('close')">Cancel</button>
        <button v-if="kind.kind !== null" type="button" class="button ml-auto" @click="emit('archive', kind.kind)">
          Archive
        </button>
      </p>
    </form>
  </AppDialog>
</template>
