<script setup lang="ts">
import { capital } from '#core/language/nouns'
import { count, figure } from '#core/language/counts'
import { fieldWord } from '#core/fields/say-value'
import { FIELD_TYPES } from '#core/fields/types'
import { OBJECT_WORDS } from '#core/records/kinds'
import type { RetypePlan } from '~~/server/engine/retype'
import type { FieldLine } from '~~/server/views/field-sheet'
import { FIELD_TYPE_NAMES, type FieldTypeName } from '#core/language/field-types'
import { send, attempt } from '~/shared/api/api'
import UnsavedWork from '~/shared/draft/UnsavedWork.vue'
import { useCatalogue } from '~/shared/stores/catalogue'

/** One field: what it is called and says, its choices, what stands in it, and the rules that name it. */
const props = defineProps<{ line: FieldLine; total: number; editable: boolean }>()
const emit = defineEmits<{ changed: []; close: [] }>()
const store = useCatalogue()
const field = computed(() => props.line.field)
const label = ref(field.value.label)
const phrase = ref(field.value.phrase ?? '')
const description = ref(field.value.description)
const required = ref(field.value.required)
const adding = ref('')
const renaming = ref<{ id: string; label: string } | null>(null)
// What others changed comes in, but never over what is being typed.
watch(field, (now, before) => {
  if (label.value === before.label) label.value = now.label
  if (phrase.value === (before.phrase ?? '')) phrase.value = now.phrase ?? ''
  if (description.value === before.description) description.value = now.description
  if (required.value === before.required) required.value = now.required
})
const dirty = computed(
  () =>
    !props.line.archived &&
    (label.value.trim() !== field.value.label ||
      phrase.value.trim() !== (field.value.phrase ?? '') ||
      description.value.trim() !== field.value.description.trim() ||
      required.value !== field.value.required),
)
const work = useTemplateRef('work')
const mayLeave = async (): Promise<boolean> => (await work.value?.mayLeave()) ?? true
defineExpose({ mayLeave })
async function close(): Promise<void> {
  if (await mayLeave()) emit('close')
}
const path = computed(() => `/api/v1/fields/${field.value.id}`)
async function change(body: object): Promise<void> {
  if (await attempt(() => send('PATCH', path.value, body))) emit('changed')
}
async function keep(): Promise<void> {
  await change({
    label: label.value,
    phrase: phrase.value.trim() || null,
    description: description.value,
    ...(props.line.kept ? {} : { required: required.value }),
  })
}
async function addChoice(): Promise<void> {
  if (!(await attempt(() => send('POST', `${path.value}/choices`, { label: adding.value })))) return
  adding.value = ''
  emit('changed')
}
async function rename(): Promise<void> {
  const { id = '', label: word = '' } = renaming.value ?? {}
  if (!(await attempt(() => send('PATCH', `${path.value}/choices/${encodeURIComponent(id)}`, { label: word })))) return
  renaming.value = null
  emit('changed')
}
async function move(index: number, by: -1 | 1): Promise<void> {
  const rest = field.value.choices.map((choice) => choice.id)
  const [id = ''] = rest.splice(index, 1)
  const before = rest[index + by] ?? null
  if (!(await attempt(() => send('PATCH', `${path.value}/choices/${encodeURIComponent(id)}`, { before })))) return
  emit('changed')
  await nextTick()
  document.querySelector<HTMLElement>(`[data-choice="${id}"] [data-rename]`)?.focus()
}
/** The type that is tried on; nothing while none is being changed. */
const retyping = ref<FieldTypeName | '' | null>(null)
const plan = shallowRef<RetypePlan | null>(null)
const types = computed(() =>
  FIELD_TYPE_NAMES.filter((type) => type !== 'stage' && type !== 'pipeline' && type !== field.value.type),
)
async function tryType(type: FieldTypeName): Promise<void> {
  retyping.value = type
  plan.value = null
  const found = await attempt(() => send<RetypePlan>('POST', `${path.value}/type`, { type, try: true }))
  if (retyping.value === type) plan.value = found
}
async function giveType(): Promise<void> {
  if (!(await attempt(() => send('POST', `${path.value}/type`, { type: retyping.value })))) return
  retyping.value = null
  plan.value = null
  emit('changed')
}
/** The choice that is being taken out, and what records get instead. */
const leaving = ref<string | null>(null)
const into = ref('')
function ask(id: string): void {
  leaving.value = leaving.value === id ? null : id
  into.value = ''
}
async function takeOut(id: string): Promise<void> {
  const query = into.value ? `?into=${encodeURIComponent(into.value)}` : ''
  if (!(await attempt(() => send('DELETE', `${path.value}/choices/${encodeURIComponent(id)}${query}`)))) return
  leaving.value = null
  emit('changed')
}
const held = (id: string): string => {
  const { records = 0, rules = 0 } = props.line.choices[id] ?? {}
  return [count(records, 'record'), ...(rules > 0 ? [count(rules, 'rule')] : [])].join(', ')
}
</script>

<template>
  <section class="bg-paper2 px-5 pt-4 pb-12" :aria-label="field.label" @keydown.escape="close">
    <p class="quiet">
      {{ FIELD_TYPES[field.type].word }} · <code>{{ field.object }}.{{ field.key }}</code
      ><template v-if="line.archived"> · Archived</template>
    </p>
    <form v-if="editable && !line.archived" class="mt-2" @submit.prevent="keep">
      <h2 class="sr-only">{{ field.label }}</h2>
      <label class="quiet block"
        >Name<br /><input
          v-model="label"
          data-first
          class="entry w-full font-serif text-[17px]"
          required
          maxlength="100"
      /></label>
      <label class="quiet mt-2 block"
        >In sentences<br /><input
          v-model="phrase"
          class="entry w-full"
          maxlength="60"
          :placeholder="fieldWord({ ...field, phrase: null }) ?? ''"
          :title="`As in “its ${phrase.trim() || fieldWord({ ...field, phrase: null })} is empty”`"
      /></label>
      <label class="quiet mt-2 block"
        >Description<br /><textarea
          v-model="description"
          class="entry w-full"
          rows="2"
          maxlength="500"
          placeholder="What is this field for?"
        />
      </label>
      <label v-if="!line.kept" class="mt-2 flex items-center gap-1.5"
        ><input v-model="required" type="checkbox" /> Required when creating a record</label
      >
      <label v-if="field.type === 'text' && field.key !== 'name'" class="quiet mt-2 block"
        >Synonyms<br /><select
          class="entry w-full"
          :value="field.synonyms ?? ''"
          @change="change({ synonyms: Number(($event.target as HTMLSelectElement).value) || null })"
        >
          <option value="">None</option>
          <option v-for="set in store.catalogue.data.synonyms" :key="set.id" :value="set.id">
            {{ set.name }}
          </option>
        </select></label
      >
      <p v-if="field.synonyms !== null" class="quiet mt-1">
        Different spellings count as one value.
        <NuxtLink :to="`/synonyms?set=${field.synonyms}`" class="word">Show set</NuxtLink>
      </p>
      <p v-if="!line.kept" class="mt-2">
        <button
          type="button"
          class="quiet underline decoration-hair hover:text-ink"
          :aria-expanded="retyping !== null"
          @click="retyping = retyping === null ? '' : null"
        >
          Change type…
        </button>
      </p>
      <p v-if="line.kept && field.keptBy" class="quiet mt-2">Read-only: {{ field.keptBy }}.</p>
      <p v-if="field.made?.by === 'formula' || field.made?.by === 'rollUp'" class="mt-2">
        <NuxtLink :to="`/calculated-fields?field=${field.id}`" class="word" data-edit-made>Edit formula…</NuxtLink>
      </p>
      <p v-else-if="field.made?.by === 'score'" class="mt-2">
        <NuxtLink :to="`/scorecards?card=${field.made.card}`" class="word">Open scorecard…</NuxtLink>
      </p>
      <ul v-if="line.madeInto.length > 0" class="quiet mt-2">
        <li v-for="one in line.madeInto" :key="one.id">
          {{ one.label }} ({{ OBJECT_WORDS[one.object].many }}) depends on this field
        </li>
      </ul>
      <p class="mt-3 flex gap-2">
        <button type="submit" class="button main">Save</button
        ><button
          v-if="!line.kept || field.made?.by === 'formula' || field.made?.by === 'rollUp'"
          type="button"
          class="button"
          data-put-away
          @click="change({ archived: true })"
        >
          Archive
        </button>
      </p>
    </form>
    <template v-else>
      <h2 class="mt-1">{{ field.label }}</h2>
      <p class="mt-1">{{ field.description }}</p>
      <p v-if="editable && line.archived" class="mt-2">
        <button type="button" class="button main" @click="change({ archived: false })">Restore</button>
        <span class="quiet ml-1">with its values</span>
      </p>
    </template>

    <div
      v-if="retyping !== null && editable && !line.archived"
      class="mt-3 rounded-[3px] border border-hair p-3"
      role="group"
      aria-label="Change type"
      @keydown.escape.stop="retyping = null"
    >
      <label class="quiet"
        >New type
        <select
          class="entry ml-1"
          :value="retyping"
          @change="tryType(($event.target as HTMLSelectElement).value as FieldTypeName)"
          @vue:mounted="($event.el as HTMLElement).focus()"
        >
          <option value="" disabled>Choose</option>
          <option v-for="type in types" :key="type" :value="type">{{ capital(FIELD_TYPES[type].word) }}</option>
        </select></label
      >
      <template v-if="plan">
        <p class="mt-2">
          {{ count(plan.fit, 'record') }} can be converted.<template v-if="plan.wrongRecords">
            <b class="text-brick">{{ count(plan.wrongRecords, 'record') }} can’t</b>: change these values
            first.</template
          >
        </p>
        <p v-for="one in plan.wrong.slice(0, 8)" :key="one.text" class="flex gap-3 border-b border-hair py-0.5">
          <span class="min-w-0 flex-1 truncate" :title="one.why">{{ one.text }}</span><span class="quiet">{{
            one.count
          }}</span>
        </p>
        <p v-if="plan.choices.length && plan.wrongRecords === 0" class="quiet mt-1">
          Choices: {{ plan.choices.slice(0, 12).join(', ') }}{{ plan.choices.length > 12 ? '…' : '' }}
        </p>
        <p class="mt-2">
          <button type="button" class="button main" :disabled="plan.wrongRecords > 0" @click="giveType">
            Change type
          </button>
        </p>
      </template>
    </div>

    <template v-if="field.type === 'choice' || field.type === 'choices'">
      <h3 class="mt-5 font-serif text-[17px]">Choices</h3>
      <ol class="mt-1">
        <template v-for="(choice, i) in field.choices" :key="choice.id">
          <li class="group flex items-baseline gap-2 border-b border-hair py-1" :data-choice="choice.id">
            <form
              v-if="renaming?.id === choice.id"
              class="flex flex-1 gap-2"
              @submit.prevent="rename"
              @keydown.escape.stop="renaming = null"
            >
              <input
                v-model="renaming.label"
                class="entry flex-1 py-0.5!"
                required
                maxlength="100"
                :aria-label="`New name for ${choice.label}`"
                @vue:mounted="($event.el as HTMLElement).focus()"
              /><button type="submit" class="button py-0.5!">Rename</button>
            </form>
            <template v-else>
              <button
                v-if="editable"
                type="button"
                data-rename
                class="min-w-0 flex-1 truncate rounded-[2px] text-left hover:bg-violet-t"
                :aria-label="`Rename ${choice.label}`"
                @click="renaming = { id: choice.id, label: choice.label }"
              >
                {{ choice.label }}
              </button>
              <span v-else class="min-w-0 flex-1 truncate">{{ choice.label }}</span>
              <span class="quiet">{{ held(choice.id) }}</span>
              <button
                v-if="editable && field.choices.length > 1"
                type="button"
                class="quiet px-1 opacity-0 group-hover:opacity-100 focus:opacity-100"
                :aria-label="`Remove ${choice.label}`"
                :aria-expanded="leaving === choice.id"
                @click="ask(choice.id)"
              >
                Remove
              </button>
              <span v-if="editable" class="flex gap-1"
                ><button
                  type="button"
                  class="quiet px-1"
                  :disabled="i === 0"
                  :aria-label="`Move ${choice.label} up`"
                  @click="move(i, -1)"
                >
                  ↑</button
                ><button
                  type="button"
                  class="quiet px-1"
                  :disabled="i === field.choices.length - 1"
                  :aria-label="`Move ${choice.label} down`"
                  @click="move(i, 1)"
                >
                  ↓
                </button></span
              >
            </template>
          </li>
          <li v-if="leaving === choice.id" class="border-b border-hair bg-paper py-2 pl-3">
            <form
              class="flex flex-wrap items-center gap-2"
              @submit.prevent="takeOut(choice.id)"
              @keydown.escape.stop="leaving = null"
            >
              <label v-if="(line.choices[choice.id]?.records ?? 0) > 0" class="quiet"
                >Replace with<select
                  v-model="into"
                  class="entry ml-2"
                  required
                  @vue:mounted="($event.el as HTMLElement).focus()"
                >
                  <option value="" disabled>Choose</option>
                  <option
                    v-for="other in field.choices.filter((one) => one.id !== choice.id)"
                    :key="other.id"
                    :value="other.id"
                  >
                    {{ other.label }}
                  </option>
                </select></label
              >
              <button type="submit" class="button">
                {{ (line.choices[choice.id]?.records ?? 0) > 0 ? 'Replace and remove' : 'Remove' }}</button><button
                type="button"
                class="button"
                @click="leaving = null"
              >
                Cancel
              </button>
            </form>
          </li>
        </template>
      </ol>
      <form v-if="editable && !line.archived" class="mt-2 flex gap-2" @submit.prevent="addChoice">
        <input
          v-model="adding"
          class="entry flex-1"
          required
          maxlength="100"
          placeholder="New choice"
          aria-label="New choice"
        /><button type="submit" class="button">Add</button>
      </form>
    </template>

    <h3 class="mt-5 font-serif text-[17px]">Values</h3>
    <p v-if="line.filled === 0" class="quiet">Empty in all {{ count(total, field.object) }}.</p>
    <template v-else>
      <p class="quiet">Filled in {{ figure(line.filled) }} of {{ count(total, field.object) }}</p>
      <p v-for="sample in line.samples" :key="sample.text" class="flex gap-3 border-b border-hair py-0.5">
        <span class="min-w-0 flex-1 truncate">{{ sample.text }}</span><span class="quiet">{{
          figure(sample.count)
        }}</span>
      </p>
    </template>
    <h3 class="mt-5 font-serif text-[17px]">Used in rules</h3>
    <p v-if="line.uses.length === 0" class="quiet">Not used in any rule.</p>
    <p v-for="use in line.uses" :key="use.ruleId" class="flex gap-3 border-b border-hair py-0.5">
      <NuxtLink :to="`/rules/${use.ruleId}`" class="name-link min-w-0 flex-1 truncate">{{ use.name }}</NuxtLink><span
        class="quiet"
        >{{ use.state }}</span
      >
    </p>
    <UnsavedWork ref="work" :dirty="dirty" />
  </section>
</template>
