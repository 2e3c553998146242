<script setup lang="ts">
import { OBJECTS, OBJECT_WORDS, type RecordKind } from '#core/records/kinds'
import { fieldWord } from '#core/fields/say-value'
import type { Into, Verify } from '#core/web/intake'
import { readPath } from '#core/web/json'
import { attempt, send } from '~/shared/api/api'
import { once } from '~/shared/api/once'
import AppDialog from '~/shared/dialog/AppDialog.vue'
import { useCatalogue } from '~/shared/stores/catalogue'

/** An address at which a service outside tells something, and what becomes of it, field by field on a real example. */
const props = defineProps<{
  rules: readonly { readonly id: number; readonly name: string; readonly object: string }[]
}>()
const emit = defineEmits<{ close: []; kept: [] }>()
const store = useCatalogue()
const name = ref('')
const verify = ref<Verify>('secret')
const to = ref<Into['to']>('record')
const object = ref<RecordKind>('contact')
const match = ref('email')
const activity = ref('form')
const email = ref('email')
const about = ref('')
const rule = ref<number | null>(null)
const rulePath = ref('')
const pairs = ref<{ key: string; path: string }[]>([{ key: 'email', path: '' }])
const example = ref('')
const made = shallowRef<{ address: string; secret: string } | null>(null)

const fields = computed(() => store.catalogue.fields(object.value).filter((one) => one.keptBy === null))
const kinds = computed(() =>
  store.catalogue.activities.names.flatMap((one) => store.catalogue.activities.get(one) ?? []),
)
const data = computed(() => store.catalogue.activities.get(activity.value)?.data ?? [])
const own = computed(() => props.rules.filter((one) => one.object === object.value))
const keys = computed(() =>
  to.value === 'record'
    ? fields.value.map((one) => ({ key: one.key, label: one.label }))
    : to.value === 'activity'
      ? data.value.map(({ key, label }) => ({ key, label }))
      : null,
)
/** Every place in the example that holds a single value. */
const places = computed((): readonly { path: string; value: string }[] => {
  const found: { path: string; value: string }[] = []
  const walk = (json: unknown, path: string): void => {
    if (found.length >= 100) return
    if (Array.isArray(json)) json.slice(0, 5).forEach((one, i) => walk(one, `${path}[${i}]`))
    else if (json !== null && typeof json === 'object')
      for (const [key, one] of Object.entries(json)) {
        const next = /^[A-Za-z_][\w-]*$/.test(key) ? `${path}.${key}` : `${path}['${key}']`
        if (readPath(next) !== null) walk(one, next)
      }
    else if (json !== null) found.push({ path, value: String(json) })
  }
  try {
    walk(JSON.parse(example.value), '$')
  } catch {
    return []
  }
  return found
})
watch([to, object, activity], () => {
  pairs.value = [
    {
      key: to.value === 'record' ? (fields.value.some((one) => one.key === 'email') ? 'email' : 'name') : '',
      path: '',
    },
  ]
  match.value = pairs.value[0]?.key || 'name'
})
const into = computed((): unknown => {
  const filled = pairs.value.filter(({ key, path }) => key !== '' && path.trim() !== '')
  if (to.value === 'record') return { to: 'record', object: object.value, match: match.value, fields: filled }
  if (to.value === 'activity')
    return { to: 'activity', kind: activity.value, email: email.value, about: about.value, data: filled }
  return {
    to: 'rule',
    rule: rule.value,
    object: object.value,
    match: match.value,
    path: rulePath.value,
    answers: filled,
  }
})
const keep = once(async (): Promise<void> => {
  const body = { name: name.value, verify: verify.value, into: into.value }
  made.value = (await attempt(() => send<{ address: string; secret: string }>('POST', '/api/v1/intakes', body))) ?? null
})
</script>

<template>
  <AppDialog title="New address for incoming requests" :width="720" @close="made ? emit('kept') : emit('close')">
    <template v-if="made">
      <p class="mt-3">Send requests as <code>POST</code> with JSON to</p>
      <p class="mt-1 rounded-[3px] bg-paper2 px-2 py-1 font-mono text-[13px] break-all" data-address>
        {{ made.address }}
      </p>
      <p class="mt-3">
        {{
          verify === 'secret'
            ? 'with the header “Authorization: Bearer” and this secret, shown this once:'
            : 'signed by Standard Webhooks with this secret, shown this once:'
        }}
      </p>
      <p class="mt-1 rounded-[3px] bg-paper2 px-2 py-1 font-mono text-[13px] break-all" data-secret>
        {{ made.secret }}
      </p>
      <p class="mt-3"><button type="button" class="button main" data-first @click="emit('kept')">Done</button></p>
    </template>
    <form v-else class="mt-3" @submit.prevent="keep">
      <div class="label-grid">
        <label for="intake-name">Name</label>
        <input id="intake-name" v-model.trim="name" class="entry" maxlength="100" required data-first />
        <label for="intake-verify">Checked by</label>
        <select id="intake-verify" v-model="verify" class="entry">
          <option value="secret">a secret in its header</option>
          <option value="signature">a signature (Standard Webhooks)</option>
        </select>
        <label for="intake-to">Becomes</label>
        <select id="intake-to" v-model="to" class="entry">
          <option value="record">a record, created or changed</option>
          <option value="activity">an activity of a contact</option>
          <option value="rule">a run of a rule that has a button</option>
        </select>
        <template v-if="to !== 'activity'">
          <label for="intake-object">Record type</label>
          <select id="intake-object" v-model="object" class="entry">
            <option v-for="one in OBJECTS" :key="one" :value="one">{{ OBJECT_WORDS[one].One }}</option>
          </select>
          <label for="intake-match">Found by</label>
          <select id="intake-match" v-model="match" class="entry">
            <option v-for="one in fields" :key="one.key" :value="one.key">{{ fieldWord(one) }}</option>
          </select>
        </template>
        <template v-if="to === 'rule'">
          <label for="intake-rule">Rule</label>
          <select id="intake-rule" v-model="rule" class="entry" required>
            <option v-for="one in own" :key="one.id" :value="one.id">{{ one.name }}</option>
          </select>
          <label for="intake-path">Its value at</label>
          <input id="intake-path" v-model.trim="rulePath" class="entry" list="intake-places" required />
        </template>
        <template v-if="to === 'activity'">
          <label for="intake-kind">Activity</label>
          <select id="intake-kind" v-model="activity" class="entry">
            <option v-for="one in kinds" :key="one.kind" :value="one.kind">{{ one.one }}</option>
          </select>
          <label for="intake-email">Email at</label>
          <input id="intake-email" v-model.trim="email" class="entry" list="intake-places" required />
          <label for="intake-about">About at</label>
          <input id="intake-about" v-model.trim="about" class="entry" list="intake-places" placeholder="optional" />
        </template>
        <label for="intake-example">Example</label>
        <textarea
          id="intake-example"
          v-model="example"
          rows="3"
          class="entry font-mono text-[13px]"
          placeholder="Paste a request as the service sends it: its places can be chosen below."
        />
      </div>
      <datalist id="intake-places">
        <option v-for="one in places" :key="one.path" :value="one.path">{{ one.value }}</option>
      </datalist>
      <fieldset class="mt-3">
        <legend class="quiet">{{ to === 'rule' ? 'Answers' : 'Filled from' }}</legend>
        <p v-for="(pair, at) in pairs" :key="at" class="mt-1 flex items-baseline gap-2">
          <select v-if="keys" v-model="pair.key" class="entry w-56" :aria-label="`Field ${at + 1}`">
            <option value="" />
            <option v-for="one in keys" :key="one.key" :value="one.key">{{ one.label }}</option>
          </select>
          <input v-else v-model.trim="pair.key" class="entry w-56" :aria-label="`Answer ${at + 1}`" placeholder="key" />
          from
          <input
            v-model.trim="pair.path"
            class="entry min-w-0 flex-1"
            list="intake-places"
            placeholder="$.person.email"
            :aria-label="`Place ${at + 1} in the request`"
          />
          <span class="quiet w-32 truncate">{{ places.find((one) => one.path === pair.path)?.value }}</span>
        </p>
        <p class="mt-2">
          <button type="button" class="button py-0.5!" @click="pairs = [...pairs, { key: '', path: '' }]">
            Add field
          </button>
        </p>
      </fieldset>
      <p class="mt-3 flex gap-2">
        <button type="submit" class="button main">Save</button>
        <button type="button" class="button" @click="emit('close')">Cancel</button>
      </p>
    </form>
  </AppDialog>
</template>
