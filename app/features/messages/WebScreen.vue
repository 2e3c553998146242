<script setup lang="ts">
import { sayInstant } from '#core/time/say'
import { attempt, send } from '~/shared/api/api'
import { once } from '~/shared/api/once'
import { useSpoken } from '~/shared/keys/useSpoken'
import { useLiveQuery, type AnswerOf } from '~/shared/live/useLiveQuery'
import RefLink from '~/shared/record/RefLink.vue'
import { useCatalogue } from '~/shared/stores/catalogue'
import { onceReady } from '~/shared/onceReady'
import ConnectionDialog from './ConnectionDialog.vue'
import MessagesNav from './MessagesNav.vue'

const IntakeDialog = onceReady(() => import('./IntakeDialog.vue'))

/** Services outside, what rules asked of them, and what they answered. */
useHead({ title: 'Web requests' })
const store = useCatalogue()
const zone = computed(() => store.catalogue.workspace.zone)
const editable = computed(() => store.may('build'))
const { say } = useSpoken()
const { data: outside, refresh: refreshOutside } = await useLiveQuery('/api/v1/connections', {
  changedBy: ['catalogue'],
})
const { data, refresh } = await useLiveQuery('/api/v1/web-requests', {
  query: () => ({ limit: 50 }),
  changedBy: ['sent', 'run'],
})
type Request = AnswerOf<'/api/v1/web-requests'>['requests'][number]
type Connection = AnswerOf<'/api/v1/connections'>['connections'][number]
const connections = computed(() => (outside.value?.connections ?? []).filter((one) => !one.archived))
const { data: incoming, refresh: refreshIncoming } = await useLiveQuery('/api/v1/intakes', { changedBy: ['sent'] })
const { data: ruleList } = await useLiveQuery('/api/v1/rules', { query: () => ({ limit: 200 }), changedBy: ['rules'] })
const adding = ref(false)
const shown = ref<number | null>(null)
async function archiveIntake(id: number): Promise<void> {
  if (await attempt(() => send('PATCH', `/api/v1/intakes/${id}`, { archived: true }))) await refreshIncoming()
}
async function added(): Promise<void> {
  adding.value = false
  await refreshIncoming()
}
const editing = ref<Connection | 'new' | null>(null)
const open = ref<number | null>(null)
const simulated = reactive({ status: 200, body: '' })
// What is being written stays while anything else of the page changes.
watch(
  () => JSON.stringify(outside.value?.simulated),
  () => Object.assign(simulated, outside.value?.simulated),
  { immediate: true },
)
async function keepAnswer(): Promise<void> {
  if (await attempt(() => send('PUT', '/api/v1/simulated-answer', { ...simulated }))) say('Saved.')
}
async function archive(one: Connection): Promise<void> {
  if (await attempt(() => send('PATCH', `/api/v1/connections/${one.id}`, { archived: true }))) await refreshOutside()
}
const again = once(
  async (one: Request): Promise<void> => {
    if (await attempt(() => send('POST', `/api/v1/web-requests/${one.id}/again`, {}))) await refresh()
  },
  ({ id }) => id,
)
const sayState = (one: Request): string =>
  one.outcome === null
    ? one.attempts === 0
      ? 'on its way'
      : `tried ${one.attempts} times: ${one.lastError ?? ''}`
    : one.later && one.outcome === 'taken' && one.answeredAt === null
      ? `accepted, its answer comes later`
      : `${one.outcome === 'taken' ? 'accepted' : 'refused'}${one.status === null ? '' : `, ${one.status}`}`
const answer = once(
  async (one: Request): Promise<void> => {
    const { body } = simulated
    if (await attempt(() => send('POST', `/api/v1/web-requests/${one.id}/answer`, { body }))) await refresh()
  },
  ({ id }) => id,
)
async function kept(): Promise<void> {
  editing.value = null
  await refreshOutside()
}
</script>

<template>
  <div class="screen h-full overflow-auto px-8 pt-4 pb-16 max-[599px]:px-4">
    <div class="flex flex-wrap items-baseline gap-x-4 gap-y-1">
      <h1>Web requests</h1>
      <MessagesNav current="web" />
    </div>
    <section class="mt-4" aria-labelledby="connections-title">
      <div class="flex items-baseline gap-3">
        <h2 id="connections-title">Connections</h2>
        <button v-if="editable" type="button" class="button py-0.5!" @click="editing = 'new'">New connection…</button>
      </div>
      <p class="quiet max-w-[80ch]">
        Services that the step “send a web request” may ask. Each request is signed (Standard Webhooks), and addresses
        inside this network are never reached.
      </p>
      <table v-if="connections.length > 0" class="list mt-2 max-w-[900px]" aria-label="Connections">
        <tbody>
          <tr v-for="one in connections" :key="one.id" data-connection>
            <td class="w-56 font-medium max-[599px]:w-28">{{ one.name }}</td>
            <td>
              {{ one.address || 'Simulated receiver: nothing leaves this computer.'
              }}<span v-if="one.headers.length" class="quiet"> · with {{ one.headers.join(', ') }}</span>
            </td>
            <td v-if="editable" class="w-44 text-right max-[599px]:w-20">
              <span class="inline-flex flex-wrap justify-end gap-x-3 gap-y-1">
                <button type="button" class="word min-h-6" @click="editing = one">Change</button>
                <button type="button" class="word min-h-6" @click="archive(one)">Archive</button>
              </span>
            </td>
          </tr>
        </tbody>
      </table>
      <p v-else class="mt-2 font-serif text-[16px]">No connections yet.</p>
    </section>
    <section v-if="editable" class="mt-6" aria-labelledby="receiver-title">
      <h2 id="receiver-title">Simulated receiver</h2>
      <form class="mt-1 flex max-w-[900px] flex-wrap items-start gap-3" @submit.prevent="keepAnswer">
        <label
          ><span class="quiet block">Status</span
          ><input v-model.number="simulated.status" type="number" min="200" max="599" class="entry w-24" required
        /></label>
        <label class="min-w-0 flex-1"
          ><span class="quiet block">Answer</span
          ><textarea v-model="simulated.body" rows="2" maxlength="20000" class="entry w-full font-mono text-[13px]" />
        </label>
        <button type="submit" class="button mt-5">Save</button>
      </form>
    </section>
    <section class="mt-6" aria-labelledby="requests-title">
      <h2 id="requests-title">Requests</h2>
      <ul v-if="data && data.requests.length > 0" aria-label="Web requests, newest first">
        <li v-for="one in data.requests" :key="one.id" class="border-b border-hair py-1.5" data-web-request>
          <button
            type="button"
            class="flex w-full flex-wrap items-baseline gap-x-3 text-left"
            :aria-expanded="open === one.id"
            @click="open = open === one.id ? null : one.id"
          >
            <span class="mark outside flex-none" aria-hidden="true" />
            <b class="font-medium">{{ one.method }} {{ one.path || '/' }}</b>
            <span class="quiet">{{ one.connection }}</span>
            <span :class="one.outcome === 'refused' ? 'text-brick' : 'text-moss'">{{ sayState(one) }}</span>
            <span class="quiet ml-auto">{{ sayInstant(one.atMs, zone) }}</span>
          </button>
          <div v-if="open === one.id" class="mt-1 ml-6">
            <p>
              <RefLink :of="one.ref" class="name-link">{{ one.recordName }}</RefLink>
              <span class="quiet"> · rule “{{ one.ruleName }}” · </span
              ><NuxtLink :to="`/journal/${one.runId}`" class="word">Show run</NuxtLink>
            </p>
            <template v-if="one.body !== null">
              <p class="quiet mt-1">Sent</p>
              <pre class="max-h-48 overflow-auto rounded-[3px] bg-paper2 px-2 py-1 text-[13px] whitespace-pre-wrap">{{
                one.body
              }}</pre>
            </template>
            <template v-if="one.answer">
              <p class="quiet mt-1">Answered</p>
              <pre class="max-h-48 overflow-auto rounded-[3px] bg-paper2 px-2 py-1 text-[13px] whitespace-pre-wrap">{{
                one.answer
              }}</pre>
            </template>
            <button v-if="editable && one.outcome !== null" type="button" class="button mt-2" @click="again(one)">
              Send again
            </button>
            <button
              v-if="editable && one.simulated && one.later && one.outcome === 'taken' && one.answeredAt === null"
              type="button"
              class="button mt-2 ml-2"
              @click="answer(one)"
            >
              Send the receiver’s answer
            </button>
          </div>
        </li>
      </ul>
      <p v-else class="mt-2 font-serif text-[16px]">No requests yet.</p>
    </section>
    <section class="mt-6" aria-labelledby="incoming-title">
      <div class="flex items-baseline gap-3">
        <h2 id="incoming-title">Incoming</h2>
        <button v-if="editable" type="button" class="button py-0.5!" @click="adding = true">New address…</button>
      </div>
      <p class="quiet max-w-[80ch]">
        Addresses at which other services tell something: each is checked, kept, and taken once.
      </p>
      <table v-if="incoming && incoming.intakes.length > 0" class="list mt-2 max-w-[900px]" aria-label="Incoming">
        <tbody>
          <tr v-for="one in incoming.intakes" :key="one.id" data-intake>
            <td class="w-56 font-medium max-[599px]:w-28">{{ one.name }}</td>
            <td>
              <span class="font-mono text-[12.5px] break-all">{{ one.address }}</span>
              <span class="quiet block">{{ one.says }}</span>
            </td>
            <td v-if="editable" class="w-28 text-right">
              <button type="button" class="word" @click="archiveIntake(one.id)">Archive</button>
            </td>
          </tr>
        </tbody>
      </table>
      <ul v-if="incoming && incoming.requests.length > 0" class="mt-2" aria-label="What came in, newest first">
        <li v-for="one in incoming.requests" :key="one.id" class="border-b border-hair py-1.5" data-came-in>
          <button
            type="button"
            class="flex w-full flex-wrap items-baseline gap-x-3 text-left"
            :aria-expanded="shown === one.id"
            @click="shown = shown === one.id ? null : one.id"
          >
            <b class="font-medium">{{ one.name }}</b>
            <span :class="one.state === 'refused' ? 'text-brick' : 'text-moss'"
              >{{ one.state === 'refused' ? 'refused: ' : '' }}{{ one.says }}</span
            >
            <span class="quiet ml-auto">{{ sayInstant(one.atMs, zone) }}</span>
          </button>
          <div v-if="shown === one.id" class="mt-1">
            <p v-if="one.ref">
              <RefLink :of="one.ref" class="name-link">{{ one.recordName }}</RefLink>
            </p>
            <pre class="max-h-48 overflow-auto rounded-[3px] bg-paper2 px-2 py-1 text-[13px] whitespace-pre-wrap">{{
              one.body
            }}</pre>
          </div>
        </li>
      </ul>
      <p v-else class="mt-2 font-serif text-[16px]">Nothing has come in yet.</p>
    </section>
    <IntakeDialog v-if="adding" :rules="ruleList?.rules ?? []" @close="adding = false" @kept="added" />
    <ConnectionDialog v-if="editing" :of="editing === 'new' ? null : editing" @close="editing = null" @kept="kept" />
  </div>
</template>
