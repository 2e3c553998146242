<script setup lang="ts">
import { ANSWER_KIND_CHOICES, type AnswerKind } from '#core/messages/answer-kind'
import { CHANNEL_WORDS, type MessageChannel } from '#core/messages/guards'
import { capital } from '#core/language/nouns'
import type { RecordRef } from '#core/records/kinds'
import { sayInstant } from '#core/time/say'
import { attempt, send } from '~/shared/api/api'
import { once } from '~/shared/api/once'
import UnsavedWork from '~/shared/draft/UnsavedWork.vue'
import { useLiveQuery, type AnswerOf } from '~/shared/live/useLiveQuery'
import { useCatalogue } from '~/shared/stores/catalogue'

/** What was written to a contact, or to the contacts of a record, by which rule, and what they answered. */
const props = defineProps<{ of: RecordRef }>()
const store = useCatalogue()
const zone = computed(() => store.catalogue.workspace.zone)
const { data, refresh } = await useLiveQuery('/api/v1/records/:object/:id/messages', {
  params: () => ({ object: props.of.object, id: props.of.id }),
  changedBy: ['sent'],
})
type Message = AnswerOf<'/api/v1/records/:object/:id/messages'>['messages'][number]
const STATE: Record<Message['state'], string> = {
  waiting: 'on its way',
  sent: 'sent',
  failed: 'not delivered',
  bounced: 'came back',
  received: 'received',
}
const older = ref<readonly Message[]>([])
const shown = computed(() => [...(data.value?.messages ?? []), ...older.value])
const next = ref<number | null | undefined>(undefined)
const more = computed(() => (next.value === undefined ? (data.value?.next ?? null) : next.value))
async function showOlder(): Promise<void> {
  const found = await attempt(() =>
    $fetch<AnswerOf<'/api/v1/records/:object/:id/messages'>>(
      `/api/v1/records/${props.of.object}/${props.of.id}/messages`,
      { query: { before: more.value } },
    ),
  )
  if (!found) return
  older.value = [...older.value, ...found.messages]
  next.value = found.next
}

const written = reactive({ open: false, contactId: 0, channel: 'mail' as MessageChannel, subject: '', text: '' })
const answerTo = ref<Message | null>(null)
const said = ref('')
const box = useTemplateRef<HTMLTextAreaElement>('box')
const work = useTemplateRef('work')
/** Puts away what is being written, once whoever wrote it lets it go. */
async function putAway(): Promise<boolean> {
  if (!((await work.value?.mayLeave()) ?? true)) return false
  written.open = false
  return true
}
async function write(to: Message | null = null): Promise<void> {
  if (!(await putAway())) return
  answerTo.value = to
  said.value = ''
  Object.assign(written, {
    open: true,
    contactId: to?.contactId ?? data.value?.contacts[0]?.id ?? 0,
    channel: to?.channel ?? 'mail',
    subject: to && to.subject !== '' ? to.subject.replace(/^(re: )?/i, 'Re: ') : '',
    text: '',
  })
  void nextTick(() => box.value?.focus())
}
const sendIt = once(async (): Promise<void> => {
  const { contactId, channel, subject, text } = written
  const sent = await attempt(() =>
    send<{ says: string }>('POST', '/api/v1/messages', {
      contactId,
      channel,
      subject,
      text,
      answerTo: answerTo.value?.id ?? null,
    }),
  )
  if (!sent) return
  written.open = false
  said.value = sent.says === 'sent' ? 'Sent.' : `${capital(sent.says)}.`
  await refresh()
})
async function correct(id: number, kind: AnswerKind): Promise<void> {
  if (await attempt(() => send('PATCH', `/api/v1/messages/${id}`, { kind }))) await refresh()
}
/** One key each: the first letter of a kind, on the answer that has the focus. */
function byKey(event: KeyboardEvent, message: Message): void {
  if (message.way !== 'in' || message.kind === 'automatic' || event.ctrlKey || event.metaKey || event.altKey) return
  const kind = ANSWER_KIND_CHOICES.find(({ id }) => id.startsWith(event.key))
  if (!kind || (event.target as HTMLElement).tagName === 'SELECT') return
  event.preventDefault()
  void correct(message.id, kind.id)
}
const stops = computed(() =>
  (data.value?.contacts ?? []).flatMap((contact) =>
    contact.addresses
      .filter((one) => one.stopped)
      .map((one) => `${contact.name}, ${one.address}: no ${CHANNEL_WORDS[one.channel].many} (${one.stopped})`),
  ),
)
</script>

<template>
  <div>
    <div class="flex flex-wrap items-baseline gap-3">
      <button
        v-if="store.may('work') && data && data.contacts.length > 0"
        type="button"
        class="button"
        data-write
        @click="write()"
      >
        Write…
      </button>
      <span v-if="said" class="quiet" role="status">{{ said }}</span>
    </div>
    <p v-for="line in stops" :key="line" class="mt-2 text-brick">{{ line }}</p>
    <form
      v-if="written.open"
      class="mt-3 max-w-[720px] rounded-[3px] bg-paper2 p-3"
      aria-label="Write a message"
      @submit.prevent="sendIt"
      @keydown.escape="putAway"
    >
      <div class="flex flex-wrap gap-2">
        <label v-if="data && data.contacts.length > 1" class="quiet"
          >To<br /><select v-model="written.contactId" class="entry">
            <option v-for="one in data.contacts" :key="one.id" :value="one.id">{{ one.name }}</option>
          </select></label
        >
        <label class="quiet"
          >By<br /><select v-model="written.channel" class="entry" :disabled="answerTo !== null">
            <option value="mail">email</option>
            <option value="text">text message</option>
          </select></label
        >
        <label v-if="written.channel === 'mail'" class="quiet min-w-0 flex-1"
          >Subject<br /><input v-model="written.subject" class="entry w-full" maxlength="200" required
        /></label>
      </div>
      <label class="quiet mt-2 block"
        >Text<textarea
          ref="box"
          v-model="written.text"
          class="entry mt-0.5 w-full"
          rows="5"
          maxlength="10000"
          required
        />
      </label>
      <p class="mt-2 flex gap-2">
        <button type="submit" class="button main">Send</button>
        <button type="button" class="button" @click="written.open = false">Cancel</button>
      </p>
    </form>
    <ol v-if="shown.length > 0" class="mt-4 max-w-[760px] space-y-3" aria-label="Messages">
      <li
        v-for="message in shown"
        :key="message.id"
        class="rounded-[3px] border-l-2 px-3 py-2"
        :class="
          message.way === 'out'
            ? 'ml-10 border-violet bg-paper2 max-[599px]:ml-4'
            : 'mr-10 border-moss bg-paper2 max-[599px]:mr-4'
        "
        :data-message="message.id"
        tabindex="0"
        @keydown="byKey($event, message)"
      >
        <p class="quiet">
          <b class="font-medium text-ink">{{ message.way === 'out' ? message.from : message.contact }}</b>
          {{ message.way === 'out' ? 'to' : 'from' }} {{ message.address }},
          {{ sayInstant(message.atMs, zone) }}
          <template v-if="message.way === 'out'"
            >·
            <span :class="message.state === 'failed' || message.state === 'bounced' ? 'text-brick' : ''">{{
              STATE[message.state]
            }}</span><template v-if="message.openedAt">, opened</template
            ><template v-if="message.answeredAt">, answered</template
            ><template v-if="message.reason">: {{ message.reason }}</template></template
          >
        </p>
        <p v-if="message.subject" class="font-serif text-[17px]">{{ message.subject }}</p>
        <p class="break-words whitespace-pre-line">{{ message.text }}</p>
        <p class="quiet mt-1 flex flex-wrap items-center gap-x-3 gap-y-1">
          <NuxtLink v-if="message.rule" :to="`/journal/${message.rule.runId}`" class="name-link text-violet"
            >Rule “{{ message.rule.name }}”</NuxtLink
          ><span v-else-if="message.way === 'out'">written by hand</span>
          <span v-if="message.label">Report label “{{ message.label }}”</span>
          <template v-if="message.way === 'in'">
            <span v-if="message.kind === 'automatic'">automatic reply, not an answer</span>
            <label v-else
              >Kind of answer:
              <select
                class="entry sized py-0.5!"
                :value="message.kind"
                :disabled="!store.may('work')"
                @change="correct(message.id, ($event.target as HTMLSelectElement).value as AnswerKind)"
              >
                <option v-for="one in ANSWER_KIND_CHOICES" :key="one.id" :value="one.id">{{ one.label }}</option>
              </select></label
            >
            <span v-if="message.corrected">corrected by hand</span>
            <span v-else-if="message.phrase">because of “{{ message.phrase }}”</span>
            <button v-if="store.may('work')" type="button" class="word" @click="write(message)">Answer</button>
          </template>
        </p>
      </li>
    </ol>
    <p v-else-if="data" class="quiet mt-4">No messages yet.</p>
    <button v-if="more !== null" type="button" class="button mt-3" @click="showOlder">Show older</button>
    <p v-if="shown.some((one) => one.way === 'in')" class="quiet mt-4">
      On an answer, <kbd>p</kbd> <kbd>n</kbd> <kbd>q</kbd> <kbd>o</kbd> say that it is positive, negative, a question or
      other.
    </p>
    <UnsavedWork ref="work" :dirty="written.open && written.text !== ''" />
  </div>
</template>
