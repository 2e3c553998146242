<script setup lang="ts">
import { count, listOf, plural } from '#core/language/counts'
import type { Hours } from '#core/fields/field'
import { readMinute, sayMinute } from '#core/time/moments'
import { sayDate, sayInstant, sayWeekday } from '#core/time/say'
import { send, attempt } from '~/shared/api/api'
import AppDialog from '~/shared/dialog/AppDialog.vue'
import { draftOf } from '~/shared/draft/draftOf'
import UnsavedWork from '~/shared/draft/UnsavedWork.vue'
import { useLive } from '~/shared/live/useLive'
import { useCatalogue } from '~/shared/stores/catalogue'
import PeopleNav from './PeopleNav.vue'
import ZoneList from './ZoneList.vue'

/** When the firm works: its zone, working week, office hours and holidays; and the teams that work otherwise. */
useHead({ title: 'Hours and holidays' })
const store = useCatalogue()
const editable = computed(() => store.may('build'))
const DAYS = ['Monday', 'Tuesday', 'Wednesday', 'Thursday', 'Friday', 'Saturday', 'Sunday']
interface Kept {
  workdays: number[]
  opens: string
  closes: string
  holidays: { date: string; name: string }[]
}
interface Given extends Kept {
  zone: string
  teams: (Kept & { team: string })[]
}
const told = ({ workdays, opensAt, closesAt, holidays }: Hours): Kept => ({
  workdays: [...workdays],
  opens: sayMinute(opensAt),
  closes: sayMinute(closesAt),
  holidays: holidays.map((one) => ({ ...one })),
})
const {
  written: given,
  dirty,
  elsewhere,
  take,
  save,
} = draftOf((): Given => {
  const { workspace } = store.catalogue
  return {
    zone: workspace.zone,
    ...told(workspace),
    teams: (workspace.teams ?? []).map((one) => ({ team: one.team, ...told(one) })),
  }
})
const teams = computed(() =>
  [
    ...new Set([
      ...store.catalogue.people.filter((person) => person.active).map((person) => person.team),
      ...given.value.teams.map((one) => one.team),
    ]),
  ]
    .filter((team) => team !== '')
    .sort((a, b) => a.localeCompare(b)),
)
/** Whose hours are looked at: a team's, or the firm's. */
const whose = ref('')
const on = computed((): Kept | null =>
  whose.value === '' ? given.value : (given.value.teams.find((one) => one.team === whose.value) ?? null),
)
function part(): void {
  const { workdays, opens, closes, holidays } = given.value
  given.value.teams.push({
    team: whose.value,
    workdays: [...workdays],
    opens,
    closes,
    holidays: holidays.map((one) => ({ ...one })),
  })
}
useLive((message) => {
  if (message.about === 'catalogue') void store.load()
})
const wrong = computed(() => {
  const all: (Kept & { team?: string })[] = [given.value, ...given.value.teams]
  const off = all.find(
    (one) => readMinute(one.opens) === null || readMinute(one.closes) === null || one.workdays.length === 0,
  )
  if (!off) return ''
  return `${off.team ? `${off.team}: ` : ''}${off.workdays.length === 0 ? 'Choose at least one working day.' : 'Enter times such as 9:00.'}`
})
function toggle(day: number): void {
  if (on.value)
    on.value.workdays = on.value.workdays.includes(day)
      ? on.value.workdays.filter((one) => one !== day)
      : [...on.value.workdays, day].sort((a, b) => a - b)
}
const sorted = computed(() => [...(on.value?.holidays ?? [])].sort((a, b) => a.date.localeCompare(b.date)))
const day = reactive({ date: '', name: '' })
function add(): void {
  if (!day.date || !on.value || on.value.holidays.some((one) => one.date === day.date)) return
  on.value.holidays.push({ ...day })
  Object.assign(day, { date: '', name: '' })
}
interface Moves {
  waits: { ruleName: string; recordName: string; fromMs: number; toMs: number }[]
  waitsTotal: number
  rules: { ruleName: string; fromMs: number | null; toMs: number | null }[]
  reminders: number
}
/** What is planned and would move, while it is asked whether to save. */
const moves = ref<Moves | null>(null)
const busy = ref(false)
const when = (atMs: number | null, zone: string): string => (atMs === null ? 'no time' : sayInstant(atMs, zone))
/** Each by the clock of its own zone, which is named where the two differ. */
const zones = computed(() => ({ now: store.catalogue.workspace.zone, then: given.value.zone }))
const inZone = (zone: string): string =>
  zones.value.now === zones.value.then ? '' : ` in ${zone.split('/').at(-1)?.replaceAll('_', ' ')}`
async function ask(): Promise<void> {
  busy.value = true
  const found = await attempt(() => send<Moves>('POST', '/api/v1/hours/moves', bodyOf()))
  busy.value = false
  if (!found) return
  if (found.waitsTotal + found.rules.length + found.reminders === 0) await keep()
  else moves.value = found
}
function bodyOf(): object {
  const sent = ({ workdays, opens, closes, holidays }: Kept) => ({
    workdays,
    opensAt: readMinute(opens),
    closesAt: readMinute(closes),
    holidays,
  })
  return {
    zone: given.value.zone,
    ...sent(given.value),
    teams: given.value.teams.map((one) => ({ team: one.team, ...sent(one) })),
  }
}
async function keep(): Promise<void> {
  moves.value = null
  await save(async () => {
    const saved = await attempt(() => send('PUT', '/api/v1/hours', bodyOf()))
    if (saved) await store.load()
    return saved
  })
}
const took = ref('')
async function fromFile(event: Event): Promise<void> {
  const input = event.target as HTMLInputElement
  const [file] = input.files ?? []
  if (!file) return
  const found = await attempt(async () =>
    send<{ holidays: { date: string; name: string }[]; passed: number; over: number }>(
      'POST',
      '/api/v1/hours/holidays',
      {
        text: await file.text(),
      },
    ),
  )
  input.value = ''
  if (!found || !on.value) return
  const there = on.value.holidays
  const fresh = found.holidays.filter((one) => !there.some((other) => other.date === one.date))
  there.push(...fresh)
  const said = [`${count(fresh.length, 'holiday')} from ${file.name}.`]
  if (found.holidays.length > fresh.length) said.push(`${found.holidays.length - fresh.length} already existed.`)
  if (found.passed > 0) {
    const were = plural(found.passed, 'is not a full day and was', 'are not full days and were')
    said.push(`${count(found.passed, 'entry')} ${were} skipped.`)
  }
  if (found.over > 0)
    said.push(`${count(found.over, 'entry')} ended before last year and ${plural(found.over, 'was', 'were')} left out.`)
  took.value = said.join(' ')
}
</script>

<template>
  <form class="relative h-full overflow-auto px-8 pt-4 pb-12" tabindex="0" @submit.prevent="ask">
    <div class="flex flex-wrap items-baseline gap-x-4 gap-y-1">
      <h1>Hours and holidays</h1>
      <PeopleNav current="hours" />
      <p class="quiet">Rules use these working days. If the owner’s team has its own hours, those are used.</p>
      <button v-if="editable" type="submit" class="button main ml-auto" :disabled="!dirty || wrong !== '' || busy">
        Save
      </button>
    </div>
    <UnsavedWork :dirty="dirty" :elsewhere="elsewhere" @take="take" />
    <ZoneList />
    <nav aria-label="Hours for" class="mt-4 flex flex-wrap gap-4 font-serif text-[16px]">
      <button
        v-for="team in ['', ...teams]"
        :key="team"
        type="button"
        :class="whose === team ? 'border-b-2 border-ink font-medium' : 'text-ink2 italic hover:text-ink'"
        :aria-pressed="whose === team"
        @click="whose = team"
      >
        {{ team === '' ? 'Workspace' : team }}
      </button>
    </nav>
    <p v-if="!on" class="mt-5 flex flex-wrap items-baseline gap-4">
      {{ whose }} uses the workspace hours.<button v-if="editable" type="button" class="button" @click="part">
        Set own hours
      </button>
    </p>
    <template v-else>
      <fieldset :disabled="!editable" class="mt-5 flex flex-wrap items-end gap-x-8 gap-y-3">
        <label v-if="whose === ''" class="quiet"
          >Time zone<br /><input v-model="given.zone" class="entry w-52" list="zones" required
        /></label>
        <div role="group" aria-label="Working days">
          <span class="quiet">Working days</span><br /><span class="flex gap-1"
            ><button
              v-for="(name, i) in DAYS"
              :key="name"
              type="button"
              class="button px-2! py-0.5!"
              :class="on.workdays.includes(i + 1) && 'bg-saffron-t'"
              :aria-pressed="on.workdays.includes(i + 1)"
              :aria-label="name"
              @click="toggle(i + 1)"
            >
              {{ name.slice(0, 3) }}
            </button></span
          >
        </div>
        <label class="quiet">Opens at<br /><input v-model="on.opens" class="entry w-20" required /></label
        ><label class="quiet">Closes at<br /><input v-model="on.closes" class="entry w-20" required /></label>
        <button
          v-if="whose !== '' && editable"
          type="button"
          class="button"
          @click="given.teams = given.teams.filter((one) => one.team !== whose)"
        >
          Use workspace hours
        </button>
        <p v-if="wrong" class="text-brick" role="alert">{{ wrong }}</p>
      </fieldset>
      <h2 class="mt-7 border-b border-ink2 pb-1 text-[17px]!">
        Holidays <span class="font-sans text-[12px] text-ink2">{{ on.holidays.length }}</span>
      </h2>
      <div v-if="editable" class="mt-2 flex flex-wrap items-end gap-3">
        <label class="quiet">Date<br /><input v-model="day.date" class="entry" type="date" /></label
        ><label class="quiet"
          >Name<br /><input v-model="day.name" class="entry w-56" maxlength="200" @keydown.enter.prevent="add" /></label
        ><button type="button" class="button" :disabled="day.date === ''" @click="add">Add</button>
        <label class="button cursor-pointer focus-within:outline-2"
          >Import iCalendar file…<input
            type="file"
            accept=".ics,text/calendar"
            class="sr-only"
            @change="fromFile" /></label
        ><span class="quiet" aria-live="polite">{{ took }}</span>
      </div>
      <table v-if="sorted.length > 0" class="list mt-2 max-w-[640px]" aria-label="Holidays">
        <tbody>
          <tr v-for="one in sorted" :key="one.date">
            <td class="w-40" :title="sayDate(one.date)">{{ sayWeekday(one.date) }} {{ one.date.slice(0, 4) }}</td>
            <td>{{ one.name }}</td>
            <td class="num">
              <button
                v-if="editable"
                type="button"
                class="button px-2! py-0.5!"
                :aria-label="`Remove ${sayDate(one.date)}`"
                @click="on.holidays = on.holidays.filter((other) => other.date !== one.date)"
              >
                ×
              </button>
            </td>
          </tr>
        </tbody>
      </table>
      <p v-else class="quiet mt-3">No holidays.</p>
    </template>
    <p v-if="dirty" class="quiet mt-2" aria-live="polite">Not saved</p>
    <AppDialog v-if="moves" title="This moves what is planned" role="alertdialog" :width="720" @close="moves = null">
      <p class="mt-2">
        {{
          listOf(
            [
              moves.waitsTotal > 0 ? count(moves.waitsTotal, 'waitingRun') : '',
              moves.rules.length > 0 ? `the next time of ${count(moves.rules.length, 'rule')}` : '',
              moves.reminders > 0 ? count(moves.reminders, 'reminder') : '',
            ].filter((one) => one !== ''),
          )
        }}
        {{ plural(moves.waitsTotal + moves.rules.length + moves.reminders, 'moves', 'move') }}. Times that someone set
        by hand stay.
      </p>
      <div class="mt-3 max-h-72 overflow-auto" tabindex="0" role="region" aria-label="What moves">
        <table class="list" aria-label="What moves">
          <thead>
            <tr>
              <th>Rule</th>
              <th>Record</th>
              <th>Now{{ inZone(zones.now) }}</th>
              <th>Then{{ inZone(zones.then) }}</th>
            </tr>
          </thead>
          <tbody>
            <tr v-for="(one, i) in moves.rules" :key="`r${i}`">
              <td>{{ one.ruleName }}</td>
              <td class="quiet">next run</td>
              <td class="whitespace-nowrap">{{ when(one.fromMs, zones.now) }}</td>
              <td class="whitespace-nowrap">{{ when(one.toMs, zones.then) }}</td>
            </tr>
            <tr v-for="(one, i) in moves.waits" :key="`w${i}`">
              <td>{{ one.ruleName }}</td>
              <td>{{ one.recordName }}</td>
              <td class="whitespace-nowrap">{{ when(one.fromMs, zones.now) }}</td>
              <td class="whitespace-nowrap">{{ when(one.toMs, zones.then) }}</td>
            </tr>
          </tbody>
        </table>
        <p v-if="moves.waitsTotal > moves.waits.length" class="quiet mt-1">
          And {{ moves.waitsTotal - moves.waits.length }} more waiting runs.
        </p>
      </div>
      <p class="mt-4 flex gap-2">
        <button type="button" class="button main" data-first @click="keep">Save</button>
        <button type="button" class="button" @click="moves = null">Cancel</button>
      </p>
    </AppDialog>
  </form>
</template>
