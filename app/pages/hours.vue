<script setup lang="ts">
import { readMinute, sayMinute } from '#core/time/moments'
import { sayDate, sayWeekday } from '#core/time/say'

/** When the firm works: its zone, working week, office hours and holidays. */
useHead({ title: 'Hours and holidays' })
const store = useCatalogue()
const editable = computed(() => store.may('build'))
const DAYS = ['Monday', 'Tuesday', 'Wednesday', 'Thursday', 'Friday', 'Saturday', 'Sunday']
interface Given { zone: string; workdays: number[]; opens: string; closes: string; holidays: { date: string; name: string }[] }
const facts = computed((): Given => {
  const { zone, workdays, opensAt, closesAt, holidays } = store.catalogue.workspace
  return { zone, workdays: [...workdays], opens: sayMinute(opensAt), closes: sayMinute(closesAt), holidays: holidays.map((one) => ({ ...one })) }
})
const given = ref<Given>(facts.value)
const kept = ref(JSON.stringify(facts.value))
watch(facts, (now) => {
  if (JSON.stringify(given.value) === kept.value) given.value = JSON.parse(JSON.stringify(now)) as Given
  kept.value = JSON.stringify(now)
})
useLive((message) => {
  if (message.about === 'catalogue') void store.load()
})
const dirty = computed(() => JSON.stringify(given.value) !== kept.value)
const wrong = computed(() => (readMinute(given.value.opens) === null || readMinute(given.value.closes) === null ? 'Times such as 9:00.' : given.value.workdays.length === 0 ? 'A working week needs at least one day.' : ''))
const toggle = (day: number): void => { given.value.workdays = given.value.workdays.includes(day) ? given.value.workdays.filter((one) => one !== day) : [...given.value.workdays, day].sort((a, b) => a - b) }
const sorted = computed(() => [...given.value.holidays].sort((a, b) => a.date.localeCompare(b.date)))
const day = reactive({ date: '', name: '' })
function add(): void {
  if (!day.date || given.value.holidays.some((one) => one.date === day.date)) return
  given.value.holidays.push({ ...day })
  Object.assign(day, { date: '', name: '' })
}
async function keep(): Promise<void> {
  const { zone, workdays, opens, closes, holidays } = given.value
  const body = { zone, workdays, opensAt: readMinute(opens), closesAt: readMinute(closes), holidays }
  if (!(await attempt(() => send('PUT', '/api/v1/hours', body)))) return
  kept.value = JSON.stringify(given.value)
  await store.load()
}
const took = ref('')
async function fromFile(event: Event): Promise<void> {
  const input = event.target as HTMLInputElement
  const [file] = input.files ?? []
  if (!file) return
  const found = await attempt(async () => send<{ holidays: { date: string; name: string }[]; passed: number }>('POST', '/api/v1/hours/holidays', { text: await file.text() }))
  input.value = ''
  if (!found) return
  const fresh = found.holidays.filter((one) => !given.value.holidays.some((other) => other.date === one.date))
  given.value.holidays.push(...fresh)
  took.value = `${fresh.length} ${fresh.length === 1 ? 'day' : 'days'} from ${file.name}${found.holidays.length > fresh.length ? `, ${found.holidays.length - fresh.length} were there already` : ''}${found.passed > 0 ? `, ${found.passed} entries are no whole days` : ''}.`
}
</script>

<template>
  <form class="h-full overflow-auto px-8 pt-4 pb-12" tabindex="0" @submit.prevent="keep">
    <div class="flex flex-wrap items-baseline gap-x-4 gap-y-1">
      <h1>People</h1><PeopleNav current="hours" /><p class="quiet">“Working days” and “office hours” in rules mean these.</p>
      <button v-if="editable" type="submit" class="button main ml-auto" :disabled="!dirty || wrong !== ''">Keep</button>
    </div>
    <ZoneList />
    <fieldset :disabled="!editable" class="mt-5 flex flex-wrap items-end gap-x-8 gap-y-3">
      <label class="quiet">the firm’s time zone<br><input v-model="given.zone" class="entry w-52" list="zones" required></label>
      <div role="group" aria-label="Working week"><span class="quiet">the working week</span><br><span class="flex gap-1"><button v-for="(name, i) in DAYS" :key="name" type="button" class="button px-2! py-0.5!" :class="given.workdays.includes(i + 1) && 'bg-saffron-t'" :aria-pressed="given.workdays.includes(i + 1)" :aria-label="name" @click="toggle(i + 1)">{{ name.slice(0, 3) }}</button></span></div>
      <label class="quiet">the office opens<br><input v-model="given.opens" class="entry w-20" required></label><label class="quiet">and closes<br><input v-model="given.closes" class="entry w-20" required></label>
      <p v-if="wrong" class="text-brick" role="alert">{{ wrong }}</p>
    </fieldset>
    <h2 class="mt-7 border-b border-ink2 pb-1 text-[17px]!">Holidays <span class="font-sans text-[12px] text-ink2">{{ given.holidays.length }}</span></h2>
    <div v-if="editable" class="mt-2 flex flex-wrap items-end gap-3">
      <label class="quiet">day<br><input v-model="day.date" class="entry" type="date"></label><label class="quiet">called<br><input v-model="day.name" class="entry w-56" maxlength="200" @keydown.enter.prevent="add"></label><button type="button" class="button" :disabled="day.date === ''" @click="add">Add</button>
      <label class="button cursor-pointer focus-within:outline-2">From an iCalendar file …<input type="file" accept=".ics,text/calendar" class="sr-only" @change="fromFile"></label><span class="quiet" aria-live="polite">{{ took }}</span>
    </div>
    <table v-if="sorted.length > 0" class="ledger mt-2 max-w-[640px]"><tbody><tr v-for="one in sorted" :key="one.date"><td class="w-40" :title="sayDate(one.date)">{{ sayWeekday(one.date) }} {{ one.date.slice(0, 4) }}</td><td>{{ one.name }}</td><td class="num"><button v-if="editable" type="button" class="button px-2! py-0.5!" :aria-label="`Take ${sayDate(one.date)} out`" @click="given.holidays = given.holidays.filter((other) => other.date !== one.date)">×</button></td></tr></tbody></table>
    <p v-else class="quiet mt-3">None: every day of the working week counts.</p>
    <p v-if="dirty" class="quiet mt-2" aria-live="polite">Not kept yet.</p>
  </form>
</template>
