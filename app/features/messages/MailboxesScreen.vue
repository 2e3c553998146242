<script setup lang="ts">
import { capital } from '#core/language/nouns'
import { CHANNEL_WORDS } from '#core/messages/guards'
import { sayInstant } from '#core/time/say'
import { attempt, send } from '~/shared/api/api'
import { once } from '~/shared/api/once'
import { useLiveQuery, type AnswerOf } from '~/shared/live/useLiveQuery'
import LetterFrame from '~/shared/messages/LetterFrame.vue'
import { useSpoken } from '~/shared/keys/useSpoken'
import { useCatalogue } from '~/shared/stores/catalogue'
import MessagesNav from './MessagesNav.vue'

/** What reached the simulated customers, and what they do with it. */
useHead({ title: 'Simulated mailboxes' })
const store = useCatalogue()
const zone = computed(() => store.catalogue.workspace.zone)
const { data, refresh } = await useLiveQuery('/api/v1/simulated-messages', { changedBy: ['sent'] })
type Message = AnswerOf<'/api/v1/simulated-messages'>['messages'][number]
const open = ref<string | null>(null)
const chosen = computed(
  (): Message | null => data.value?.messages.find((one) => one.key === open.value) ?? data.value?.messages[0] ?? null,
)
const text = ref('')
const taken = ref('')
const READY = [
  { label: 'Yes', text: 'Yes please, that sounds good.' },
  { label: 'No', text: 'No thank you, we are not interested.' },
  { label: 'Question', text: 'How much would a second unit be?' },
  { label: 'Something else', text: 'We are moving to a new building next month.' },
] as const
const WORDS: Record<string, string> = {
  answer: 'Taken as an answer.',
  automatic: 'Taken as an automatic reply: no answer.',
  bounce: 'Taken as undeliverable: the address gets nothing more.',
  stop: 'Opted out.',
  opened: 'Opened.',
  known: 'Known already.',
  unknown: 'It belongs to no one.',
}
const act = once(
  async (as: string, said = ''): Promise<void> => {
    if (!chosen.value) return
    const key = chosen.value.key
    const done = await attempt(() =>
      send<{ taken: string }>('POST', '/api/v1/simulated-messages', { key, as, text: said }),
    )
    if (!done) return
    // Meanwhile another one may have been chosen, an answer begun, or more been done: none of that is undone here.
    open.value ??= key
    if (said !== '' && text.value === said) text.value = ''
    if (as !== 'open' || taken.value === '') taken.value = WORDS[done.taken] ?? done.taken
    await refresh()
  },
  (...[as]) => `${as} ${chosen.value?.key}`,
)
const share = ref(data.value?.share ?? 0)
watch(
  () => data.value?.share,
  (now) => (share.value = now ?? 0),
)
async function letThem(): Promise<void> {
  const body = { share: share.value }
  if (!(await attempt(() => send('PUT', '/api/v1/simulated-messages', body)))) return
  say(body.share === 0 ? 'They do nothing by themselves.' : `They act on ${body.share}% of the messages from now on.`)
  await refresh()
}
const { say } = useSpoken()
const reading = useTemplateRef<HTMLElement>('reading')
function look(key: string): void {
  open.value = key
  taken.value = ''
  // On a small screen it stands below the list.
  void nextTick(() => reading.value?.scrollIntoView({ block: 'nearest' }))
  void act('open')
}
</script>

<template>
  <div class="screen flex h-full min-h-0 flex-col px-8 pt-4 max-[599px]:px-4">
    <div class="flex flex-none flex-wrap items-baseline gap-x-4 gap-y-1">
      <h1>Simulated mailboxes</h1>
      <MessagesNav current="mailboxes" />
    </div>
    <p class="quiet mt-1 flex-none">
      What reached your contacts here. Nothing leaves this computer: answer in their place, and see what your rules do.
    </p>
    <form
      v-if="store.may('build')"
      class="mt-1 flex flex-none flex-wrap items-baseline gap-2"
      @submit.prevent="letThem"
    >
      <label
        >By themselves, customers act on
        <input v-model.number="share" type="number" min="0" max="100" step="1" required class="entry w-20" /> % of new
        messages within 30 hours</label
      >
      <button type="submit" class="button" :disabled="share === data?.share">Save</button>
      <span class="quiet">{{
        data?.share ? 'They answer, open, or object.' : 'Now they only do what you do for them.'
      }}</span>
    </form>
    <div
      v-if="data && data.messages.length > 0"
      class="split mt-3 grid min-h-0 flex-1 grid-cols-[380px_minmax(0,1fr)] gap-6"
    >
      <ul class="min-h-0 overflow-auto border-r border-hair pr-2 pb-8" aria-label="Messages received" tabindex="0">
        <li v-for="one in data.messages" :key="one.key">
          <button
            type="button"
            class="w-full rounded-[3px] px-2 py-1.5 text-left"
            :class="one.key === chosen?.key ? 'bg-violet-t' : ''"
            :aria-pressed="one.key === chosen?.key"
            :data-simulated="one.key"
            @click="look(one.key)"
          >
            <span class="flex justify-between gap-2"
              ><b class="truncate font-medium">{{ one.name }}</b
              ><span class="quiet flex-none">{{ sayInstant(one.atMs, zone) }}</span></span
            >
            <span class="block truncate font-serif text-[15px]">{{ one.subject || one.body }}</span>
            <span class="quiet"
              >{{ CHANNEL_WORDS[one.channel].one }}<template v-if="one.answers.length > 0">, answered</template></span
            >
          </button>
        </li>
      </ul>
      <section v-if="chosen" ref="reading" class="min-h-0 overflow-auto pb-12" aria-label="Message" tabindex="0">
        <h2>{{ chosen.subject || capital(CHANNEL_WORDS[chosen.channel].one) }}</h2>
        <p class="quiet">
          From {{ chosen.senderName }} ({{ chosen.sender }}) to
          <NuxtLink
            v-if="chosen.contactId"
            :to="`/records/contacts/${chosen.contactId}?show=messages`"
            class="name-link"
            >{{ chosen.name }}</NuxtLink
          >
          ({{ chosen.recipient }})<template v-if="chosen.rule"
            >, by rule
            <NuxtLink :to="`/journal/${chosen.rule.runId}`" class="word">“{{ chosen.rule.name }}”</NuxtLink></template
          >
        </p>
        <LetterFrame v-if="chosen.html" class="mt-3" :html="chosen.html" :title="`Email to ${chosen.name}`" />
        <p v-else class="mt-3 max-w-[360px] rounded-[10px] bg-paper2 px-3 py-2 whitespace-pre-line">
          {{ chosen.body }}
        </p>
        <div v-for="(answer, i) in chosen.answers" :key="i" class="mt-3 ml-8 border-l-2 border-moss pl-3">
          <p class="quiet">
            {{ chosen.name }}, {{ sayInstant(answer.atMs, zone)
            }}<template v-if="answer.kind">: {{ answer.kind }}</template>
          </p>
          <p class="whitespace-pre-line">{{ answer.text }}</p>
        </div>
        <form class="mt-4 max-w-[640px]" aria-label="Answer as the customer" @submit.prevent="act('answer', text)">
          <label class="quiet block"
            >Answer as {{ chosen.name }}
            <textarea v-model="text" class="entry mt-0.5 w-full" rows="3" maxlength="10000" required />
          </label>
          <p class="mt-1.5 flex flex-wrap gap-2">
            <button type="submit" class="button main">Send answer</button>
            <button v-for="one in READY" :key="one.label" type="button" class="button" @click="text = one.text">
              {{ one.label }}
            </button>
          </p>
        </form>
        <p class="mt-4 flex flex-wrap gap-2">
          <button
            v-if="chosen.channel === 'mail'"
            type="button"
            class="button"
            @click="act('automatic', 'I am out of office until Monday.')"
          >
            Out of office
          </button>
          <button type="button" class="button" @click="act('bounce')">Undeliverable</button>
          <button v-if="chosen.channel === 'mail'" type="button" class="button" @click="act('optOut')">
            Opt out by link
          </button>
          <button v-else type="button" class="button" @click="act('stop')">Answer STOP</button>
        </p>
        <p v-if="taken" class="mt-2" role="status">{{ taken }}</p>
      </section>
    </div>
    <p v-else-if="data" class="py-16 text-center font-serif text-[20px]">
      No messages yet. They appear here when a rule writes to a contact.
    </p>
  </div>
</template>
