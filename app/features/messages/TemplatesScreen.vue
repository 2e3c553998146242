<script setup lang="ts">
import { capital } from '#core/language/nouns'
import { CHANNEL_WORDS } from '#core/messages/guards'
import type { RecordRef } from '#core/records/kinds'
import { sayInstant } from '#core/time/say'
import { attempt, send } from '~/shared/api/api'
import { once } from '~/shared/api/once'
import UnsavedWork from '~/shared/draft/UnsavedWork.vue'
import { useLiveQuery, type AnswerOf } from '~/shared/live/useLiveQuery'
import LetterFrame from '~/shared/messages/LetterFrame.vue'
import RecordPicker from '~/shared/record/RecordPicker.vue'
import { useCatalogue } from '~/shared/stores/catalogue'
import PopOver from '~/shared/words/PopOver.vue'
import MessagesNav from './MessagesNav.vue'
import { templateDraft, type Written } from './templateDraft'

/** Stored texts of messages, each in one language or several. */
useHead({ title: 'Templates' })
const route = useRoute()
const store = useCatalogue()
const editable = computed(() => store.may('build'))
const zone = computed(() => store.catalogue.workspace.zone)
const { data, refresh } = await useLiveQuery('/api/v1/templates', { changedBy: ['catalogue'] })
type Template = AnswerOf<'/api/v1/templates'>['templates'][number]
const shown = computed(() => data.value?.templates.filter((one) => !one.archived) ?? [])
const archived = computed(() => data.value?.templates.filter((one) => one.archived) ?? [])
const folders = computed(() => [...new Set(shown.value.map((one) => one.folder))])
/** The one that was just made, until the address names it. */
const made = ref<number | null>(null)
const chosen = computed(
  (): Template | null =>
    data.value?.templates.find((one) => one.id === (made.value ?? Number(route.query.id))) ?? shown.value[0] ?? null,
)
const draft = templateDraft(() => chosen.value)
const { making, language, written, variant, dirty, elsewhere, addLanguage, removeLanguage } = draft
const work = useTemplateRef('work')
/** Begins a new one, or leaves it again, unless something stands here that is saved nowhere. */
async function make(on: boolean): Promise<void> {
  if (making.value !== on && ((await work.value?.mayLeave()) ?? true)) making.value = on
}
// Another address is another template: whether to go there was asked on the way.
watch(
  () => route.query.id,
  () => (making.value = false),
)
watch(written, () => void preview())
const missing = computed(() =>
  (data.value?.languages ?? []).filter((one) => !written.value.variants.some((v) => v.language === one)),
)
function speak(name: string): void {
  language.value = name
  void preview()
}
const keep = once(async (): Promise<void> => {
  await draft.save(async (body) => {
    const saved = await attempt(() =>
      making.value
        ? send<{ id: number }>('POST', '/api/v1/templates', body)
        : send<{ id?: number }>('PATCH', `/api/v1/templates/${chosen.value?.id}`, { template: body }),
    )
    if (!saved) return null
    await store.load()
    await refresh()
    if (making.value && saved.id !== undefined) {
      made.value = saved.id
      making.value = false
      await navigateTo({ query: { id: saved.id } })
      made.value = null
    }
    return saved
  })
})
async function archive(id: number, on: boolean): Promise<void> {
  if (!(await attempt(() => send('PATCH', `/api/v1/templates/${id}`, { archived: on })))) return
  await store.load()
  await refresh()
}

const person = shallowRef<{ id: number; name: string } | null>(null)
const choosing = ref(false)
type Letters = { letters: { subject: string; text: string; html: string; says: string; goes: string }[]; says: string }
const letter = shallowRef<Letters['letters'][number] | null>(null)
/** How it would read for somebody, as it stands written. */
async function preview(): Promise<void> {
  if (!person.value) return
  const { subject, text } = variant.value
  const found = await attempt(() =>
    send<Letters>('POST', '/api/v1/message-previews', {
      ref: { object: 'contact', id: person.value?.id },
      params: {
        channel: written.value.channel,
        subject: subject.trim() === '' ? ' ' : subject,
        body: text,
        answered: true,
      },
    }),
  )
  letter.value = found?.letters[0] ?? null
}
async function pick(ref: RecordRef): Promise<void> {
  choosing.value = false
  person.value = { id: ref.id, name: '' }
  const record = await attempt(() => $fetch<{ values: { name?: string } }>(`/api/v1/records/contact/${ref.id}`))
  person.value = { id: ref.id, name: record?.values.name ?? `contact ${ref.id}` }
  await preview()
}
const tested = ref('')
const test = once(async (): Promise<void> => {
  if (!chosen.value || !person.value) return
  const sent = await attempt(() =>
    send<{ address: string }>('POST', `/api/v1/templates/${chosen.value?.id}/tests`, {
      contactId: person.value?.id,
      language: language.value,
    }),
  )
  if (sent) tested.value = `Sent to ${sent.address}.`
})
type Versions = {
  versions: { version: number; variants: Written['variants']; changedBy: string | null; changedAt: number }[]
}
const versions = shallowRef<Versions['versions'] | null>(null)
async function showVersions(): Promise<void> {
  const found = await attempt(() => $fetch<Versions>(`/api/v1/templates/${chosen.value?.id}/versions`))
  versions.value = found?.versions ?? null
}
watch(
  () => chosen.value?.id,
  () => {
    versions.value = null
    tested.value = ''
  },
)
</script>

<template>
  <div class="screen flex h-full min-h-0 flex-col px-8 pt-4 max-[599px]:px-4">
    <div class="flex flex-none flex-wrap items-baseline gap-x-4 gap-y-1">
      <h1>Templates</h1>
      <MessagesNav current="templates" />
      <button v-if="editable && !making" type="button" class="button main ml-auto" @click="make(true)">
        New template
      </button>
    </div>
    <div class="split mt-3 grid min-h-0 flex-1 grid-cols-[250px_minmax(0,1fr)_minmax(0,420px)] gap-6">
      <nav class="min-h-0 overflow-auto border-r border-hair pr-3 pb-8" aria-label="Templates" tabindex="0">
        <p v-if="shown.length === 0" class="quiet">No templates yet.</p>
        <div v-for="folder in folders" :key="folder">
          <h2 v-if="folder" class="mt-3 text-[15px]!">{{ folder }}</h2>
          <NuxtLink
            v-for="one in shown.filter((each) => each.folder === folder)"
            :key="one.id"
            :to="{ query: { id: one.id } }"
            class="block rounded-[3px] px-2 py-1"
            :class="!making && one.id === chosen?.id ? 'bg-violet-t' : ''"
            :aria-current="!making && one.id === chosen?.id ? 'true' : undefined"
            @click="Number(route.query.id) === one.id && make(false)"
          >
            {{ one.name }}
            <span class="quiet block"
              >{{ CHANNEL_WORDS[one.channel].one }}, used by {{ one.rules.length }}
              {{ one.rules.length === 1 ? 'rule' : 'rules'
              }}<span v-if="one.findings.length > 0" class="text-brick">
                · {{ one.findings.length }} to look at</span
              ></span
            >
          </NuxtLink>
        </div>
        <template v-if="archived.length > 0">
          <h2 class="mt-4 text-[15px]!">Archived</h2>
          <p v-for="one in archived" :key="one.id" class="px-2 py-1">
            {{ one.name }}
            <button v-if="editable" type="button" class="word" @click="archive(one.id, false)">Restore</button>
          </p>
        </template>
      </nav>
      <form
        v-if="making || chosen"
        class="min-h-0 overflow-auto pb-12"
        aria-label="Template"
        tabindex="0"
        @submit.prevent="keep"
        @keydown.escape="make(false)"
      >
        <div class="flex flex-wrap gap-2">
          <label class="quiet min-w-0 flex-1"
            >Name<br /><input
              v-model.trim="written.name"
              class="entry w-full"
              maxlength="100"
              required
              :readonly="!editable"
          /></label>
          <label class="quiet"
            >Folder<br /><input v-model.trim="written.folder" class="entry w-32" maxlength="60" :readonly="!editable"
          /></label>
          <label class="quiet"
            >Sent as<br /><select v-model="written.channel" class="entry" :disabled="!making">
              <option value="mail">email</option>
              <option value="text">text message</option>
            </select></label
          >
        </div>
        <div class="mt-3 flex flex-wrap items-baseline gap-3" role="group" aria-label="Language">
          <button
            v-for="one in written.variants"
            :key="one.language"
            type="button"
            class="font-serif text-[16px]"
            :class="one.language === variant.language ? 'border-b-2 border-ink font-medium' : 'text-ink2 italic'"
            :aria-pressed="one.language === variant.language"
            @click="speak(one.language)"
          >
            {{ one.language || 'Everyone else' }}
          </button>
          <select
            v-if="editable && missing.length > 0"
            class="entry py-0.5!"
            aria-label="Add a language"
            value=""
            @change="addLanguage(($event.target as HTMLSelectElement).value)"
          >
            <option value="">Add a language</option>
            <option v-for="one in missing" :key="one" :value="one">{{ one }}</option>
          </select>
          <button v-if="editable && variant.language" type="button" class="word" @click="removeLanguage">
            Remove {{ variant.language }}
          </button>
        </div>
        <label v-if="written.channel === 'mail'" class="quiet mt-2 block"
          >Subject<input
            v-model="variant.subject"
            class="entry mt-0.5 w-full"
            maxlength="200"
            required
            :readonly="!editable"
            @change="preview"
        /></label>
        <label class="quiet mt-2 block"
          >Text<textarea
            v-model="variant.text"
            class="entry mt-0.5 w-full font-serif! text-[16px]! leading-snug!"
            :rows="written.channel === 'mail' ? 12 : 4"
            maxlength="10000"
            required
            :readonly="!editable"
            @change="preview"
          />
        </label>
        <p class="quiet mt-1">
          <code v-pre>{{contact.firstName or "there"}}</code> prints a value, or the words behind it where there is
          none.
          <template v-if="written.channel === 'mail'"
            >**Bold**, *italic*, lists and [links](https://…) as in Markdown.</template
          >
          <template v-else>{{ variant.text.length }} characters.</template>
        </p>
        <UnsavedWork ref="work" :dirty="dirty" :elsewhere="elsewhere" @take="draft.take()">
          {{ chosen?.changedBy ? store.personName(chosen.changedBy) : 'Someone else' }} saved another version while you
          were writing. If you save, yours replaces it; theirs stays in Earlier texts.
        </UnsavedWork>
        <p v-if="editable" class="mt-3 flex flex-wrap gap-2">
          <button type="submit" class="button main" :disabled="!dirty && !making">
            {{ making ? 'Create template' : 'Save' }}
          </button>
          <button v-if="making" type="button" class="button" @click="making = false">Cancel</button>
          <button v-else-if="chosen && !chosen.archived" type="button" class="button" @click="archive(chosen.id, true)">
            Archive
          </button>
        </p>
        <template v-if="chosen && !making">
          <ul v-if="chosen.findings.length > 0" class="mt-4 space-y-1" aria-label="To look at">
            <li v-for="one in chosen.findings" :key="one" class="rounded-[3px] bg-brick-t px-2.5 py-1 text-brick">
              {{ one }}
            </li>
          </ul>
          <h2 class="mt-5 text-[17px]!">Used by</h2>
          <p v-if="chosen.rules.length === 0" class="quiet">No rule yet.</p>
          <p v-for="rule in chosen.rules" :key="rule.id">
            <NuxtLink :to="`/rules/${rule.id}`" class="name-link">{{ rule.name }}</NuxtLink>
          </p>
          <p class="quiet mt-3">
            Version {{ chosen.version
            }}<template v-if="chosen.changedBy">, by {{ store.personName(chosen.changedBy) }}</template
            >, {{ sayInstant(chosen.changedAt, zone) }}
            <button v-if="chosen.version > 1" type="button" class="word" @click="showVersions">Earlier texts</button>
          </p>
          <details v-for="one in versions ?? []" :key="one.version" class="mt-1">
            <summary class="cursor-pointer">
              Version {{ one.version }}, {{ one.changedBy }}, {{ sayInstant(one.changedAt, zone) }}
            </summary>
            <div v-for="v in one.variants" :key="v.language" class="border-l-2 border-hair pl-3">
              <p class="font-serif">{{ v.subject }}</p>
              <p class="whitespace-pre-line">{{ v.text }}</p>
            </div>
          </details>
        </template>
      </form>
      <p v-else class="py-16 text-center font-serif text-[20px]">
        No templates yet.
        <button v-if="editable" type="button" class="word" @click="make(true)">Write the first one</button>
      </p>
      <aside v-if="making || chosen" class="min-h-0 overflow-auto px-1 pt-1 pb-12" aria-label="Preview" tabindex="0">
        <h2 class="text-[17px]!">
          As it reads for
          <button type="button" class="word" data-word="preview/contact" @click="choosing = true">
            {{ person ? person.name || '…' : 'a contact…' }}
          </button>
        </h2>
        <PopOver v-if="choosing" anchor="[data-word='preview/contact']" label="Contact" @close="choosing = false">
          <RecordPicker
            label="Contact"
            placeholder="Search contacts"
            :fits="(ref) => ref.object === 'contact'"
            :hint="() => ''"
            @pick="pick"
          />
        </PopOver>
        <template v-if="letter">
          <p class="mt-2 font-serif text-[17px]">{{ letter.subject }}</p>
          <LetterFrame v-if="written.channel === 'mail'" class="mt-1" :html="letter.html" title="Preview" />
          <p v-else class="mt-1 rounded-[10px] bg-paper2 px-3 py-2 whitespace-pre-line">{{ letter.text }}</p>
          <p class="quiet mt-2" :class="letter.goes === 'never' ? 'text-brick!' : ''">{{ capital(letter.says) }}</p>
          <p v-if="chosen && !making && editable" class="mt-2">
            <button type="button" class="button" :disabled="dirty" @click="test">Send it to me</button>
            <span v-if="tested" class="quiet ml-2" role="status">{{ tested }}</span>
          </p>
        </template>
      </aside>
    </div>
  </div>
</template>
