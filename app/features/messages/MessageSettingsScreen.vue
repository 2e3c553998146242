<script setup lang="ts">
import { ANSWER_KINDS } from '#core/messages/answer-kind'
import type { Messaging } from '#core/messages/settings'
import { readMinute, sayMinute } from '#core/time/moments'
import { attempt, send } from '~/shared/api/api'
import { draftOf } from '~/shared/draft/draftOf'
import UnsavedWork from '~/shared/draft/UnsavedWork.vue'
import { useLiveQuery } from '~/shared/live/useLiveQuery'
import { useCatalogue } from '~/shared/stores/catalogue'
import MessagesNav from './MessagesNav.vue'
import SendingAccounts from './SendingAccounts.vue'
import StoppedAddresses from './StoppedAddresses.vue'

/** When customers may be written to, how often, by whom, and what tells a yes from a no. */
useHead({ title: 'Sending messages' })
const store = useCatalogue()
const editable = computed(() => store.may('build'))
const { data, refresh } = await useLiveQuery('/api/v1/message-settings', { changedBy: ['catalogue'] })

interface WrittenHours {
  from: string
  to: string
  days: number[]
}
const hoursOf = ({ from, to, days }: Messaging['hours']): WrittenHours => ({
  from: sayMinute(from),
  to: to === 1440 ? '24:00' : sayMinute(to),
  days: [...days],
})
const read = (text: string): number => (text.trim() === '24:00' ? 1440 : (readMinute(text) ?? -1))
const readHours = ({ from, to, days }: WrittenHours): Messaging['hours'] => ({
  from: read(from),
  to: read(to),
  days: [...days].sort((a, b) => a - b),
})
const writtenOf = (one: Messaging) => ({
  hours: hoursOf(one.hours),
  countries: one.countries.map(({ name, zone, hours }) => ({ name, zone: zone ?? '', hours: hoursOf(hours) })),
  senders: one.senders.map((sender) => ({ ...sender })),
  personDay: one.personDay,
  ruleHour: one.ruleHour,
  phrases: Object.fromEntries(ANSWER_KINDS.map((kind) => [kind, one.phrases[kind].join('\n')])) as Record<
    (typeof ANSWER_KINDS)[number],
    string
  >,
})
const { written, dirty, elsewhere, take, save } = draftOf(() => (data.value ? writtenOf(data.value.messaging) : null))
const DAYS = ['Mon', 'Tue', 'Wed', 'Thu', 'Fri', 'Sat', 'Sun'] as const
const teams = computed(() => [...new Set(store.catalogue.people.map((one) => one.team).filter((one) => one !== ''))])
/** Hours that never come, by their row; the server would say the same. */
const wrong = computed((): string | null => {
  if (!written.value) return null
  const rows = [written.value.hours, ...written.value.countries.map((one) => one.hours)]
  for (const [at, { from, to, days }] of rows.entries()) {
    if (read(from) < 0 || read(to) < 0) return `Row ${at + 1}: enter times such as 8:00 and 20:00.`
    if (read(to) <= read(from)) return `Row ${at + 1}: the end must be later than the beginning.`
    if (days.length === 0) return `Row ${at + 1}: choose at least one day.`
  }
  return null
})
async function keep(): Promise<void> {
  const given = written.value
  if (!given || wrong.value) return
  const lines = (text: string): string[] =>
    text
      .split('\n')
      .map((line) => line.trim())
      .filter((line) => line !== '')
  const body = {
    ...given,
    hours: readHours(given.hours),
    countries: given.countries.map((one) => ({
      name: one.name,
      zone: one.zone.trim() === '' ? null : one.zone.trim(),
      hours: readHours(one.hours),
    })),
    phrases: Object.fromEntries(ANSWER_KINDS.map((kind) => [kind, lines(given.phrases[kind])])),
  }
  await save(async () => {
    const saved = await attempt(() => send('PUT', '/api/v1/message-settings', body))
    if (!saved) return null
    await store.load()
    await refresh()
    return saved
  })
}
const HELP: Record<(typeof ANSWER_KINDS)[number], string> = {
  negative: 'Negative, tried first',
  question: 'Question, tried second',
  positive: 'Positive, tried last',
}
</script>

<template>
  <div class="h-full overflow-auto px-8 pt-4 pb-12 max-[599px]:px-4" tabindex="0">
    <div class="flex flex-wrap items-baseline gap-x-4 gap-y-1">
      <h1>Sending</h1>
      <MessagesNav current="settings" />
    </div>
    <UnsavedWork :dirty="dirty" :elsewhere="elsewhere" @take="take" />
    <form v-if="written" aria-label="Sending" @submit.prevent="keep">
      <fieldset :disabled="!editable" class="min-w-0">
        <legend class="sr-only">Hours, limits, senders and phrases</legend>
        <h2 class="mt-4">Decent hours</h2>
        <p class="quiet max-w-[80ch]">
          By the clock of whoever gets the message: their own time zone, otherwise their company’s country’s, otherwise
          {{ store.catalogue.workspace.zone }}. Outside these hours a message waits for the next time.
        </p>
        <div class="overflow-x-auto" tabindex="0" role="region" aria-label="Decent hours">
          <table class="list mt-2 max-w-[900px]" aria-label="Decent hours">
            <thead>
              <tr>
                <th>Country</th>
                <th>Time zone</th>
                <th>From</th>
                <th>Until</th>
                <th>Days</th>
                <th><span class="sr-only">Remove</span></th>
              </tr>
            </thead>
            <tbody>
              <tr
                v-for="(one, at) in [{ name: 'Everywhere else', zone: '', hours: written.hours }, ...written.countries]"
                :key="at"
              >
                <td>
                  <template v-if="at === 0">Everywhere else</template
                  ><input v-else v-model="one.name" class="entry w-36" required :aria-label="`Country ${at}`" />
                </td>
                <td>
                  <input
                    v-if="at > 0"
                    v-model="one.zone"
                    class="entry w-40"
                    placeholder="Pacific/Auckland"
                    :aria-label="`Time zone of country ${at}`"
                  />
                </td>
                <td><input v-model="one.hours.from" class="entry w-16" :aria-label="`From, row ${at + 1}`" /></td>
                <td><input v-model="one.hours.to" class="entry w-16" :aria-label="`Until, row ${at + 1}`" /></td>
                <td class="whitespace-nowrap">
                  <label v-for="(day, d) in DAYS" :key="day" class="mr-2 inline-flex items-center gap-1"
                    ><input v-model="one.hours.days" type="checkbox" :value="d + 1" />{{ day }}</label
                  >
                </td>
                <td>
                  <button
                    v-if="at > 0"
                    type="button"
                    class="word"
                    :aria-label="`Remove ${one.name}`"
                    @click="written.countries.splice(at - 1, 1)"
                  >
                    Remove
                  </button>
                </td>
              </tr>
            </tbody>
          </table>
        </div>
        <button
          type="button"
          class="button mt-2"
          @click="
            written.countries.push({ name: '', zone: '', hours: { ...written.hours, days: [...written.hours.days] } })
          "
        >
          Add country
        </button>
        <h2 class="mt-6">Limits</h2>
        <p class="mt-1 flex flex-wrap gap-6">
          <label
            >At most
            <input v-model.number="written.personDay" type="number" min="1" max="50" class="entry w-20" required /> to
            one person in 24 hours</label
          >
          <label
            >At most
            <input v-model.number="written.ruleHour" type="number" min="1" max="100000" class="entry w-28" required />
            of one rule in an hour</label
          >
        </p>
        <h2 class="mt-6">Addresses of teams</h2>
        <p class="quiet">Besides its owner, a message may come from one of these.</p>
        <div v-for="(one, at) in written.senders" :key="at" class="mt-1.5 flex flex-wrap gap-2">
          <select v-model="one.team" class="entry" :aria-label="`Team ${at + 1}`">
            <option v-for="team in teams" :key="team" :value="team">{{ team }}</option>
          </select>
          <input
            v-model="one.name"
            class="entry w-56"
            required
            placeholder="Name shown"
            :aria-label="`Name ${at + 1}`"
          />
          <input
            v-model="one.address"
            type="email"
            class="entry w-64"
            required
            placeholder="hire@larkmoor.example"
            :aria-label="`Address ${at + 1}`"
          />
          <button type="button" class="button" @click="written.senders.splice(at, 1)">Remove</button>
        </div>
        <button
          type="button"
          class="button mt-2"
          @click="written.senders.push({ team: teams[0] ?? 'Team', name: '', address: '' })"
        >
          Add address
        </button>
        <h2 class="mt-6">Kinds of answers</h2>
        <p class="quiet max-w-[80ch]">
          The first phrase that stands in an answer decides its kind; one per line. An answer without any is “other”.
        </p>
        <div class="mt-1 grid max-w-[900px] grid-cols-3 gap-4 max-[699px]:grid-cols-1">
          <label v-for="kind in ANSWER_KINDS" :key="kind" class="quiet"
            >{{ HELP[kind] }}<textarea v-model="written.phrases[kind]" class="entry mt-0.5 w-full" rows="8" />
          </label>
        </div>
        <p class="mt-3 flex items-baseline gap-3">
          <button type="submit" class="button main" :disabled="!dirty || wrong !== null">Save</button>
          <span v-if="wrong" class="text-brick" role="alert">{{ wrong }}</span>
          <span v-else-if="dirty" class="quiet">Not saved</span>
        </p>
      </fieldset>
    </form>
    <SendingAccounts
      v-if="data"
      :mail="data.mail"
      :text="data.text"
      :dialler="data.dialler"
      :editable="editable"
      @changed="refresh"
    />
    <StoppedAddresses :editable="editable" />
  </div>
</template>
