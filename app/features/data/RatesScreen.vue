<script setup lang="ts">
import { readTextFile } from '#core/formats/text-file'
import { count, figure, listOf } from '#core/language/counts'
import { sayDate } from '#core/time/say'
import { attempt, read, send } from '~/shared/api/api'
import AppDialog from '~/shared/dialog/AppDialog.vue'
import { useLiveQuery } from '~/shared/live/useLiveQuery'
import { useCatalogue } from '~/shared/stores/catalogue'
import DataNav from './DataNav.vue'

/** What currencies are worth, by day. */
useHead({ title: 'Exchange rates' })
const store = useCatalogue()
const editable = computed(() => store.may('build'))
const { data, refresh } = await useLiveQuery('/api/v1/rates', { changedBy: ['catalogue'] })
const missing = computed(() => data.value?.currencies.filter((one) => one.perOwn === null && one.amounts > 0) ?? [])
const used = computed(() => data.value?.currencies.filter((one) => one.amounts > 0) ?? [])
const shown = computed(
  () => data.value?.currencies.filter((one) => one.amounts > 0 || one.perOwn !== null).map((one) => one.code) ?? [],
)
const said = (rate: number | undefined): string =>
  rate === undefined ? '–' : rate.toLocaleString('en', { minimumSignificantDigits: 5, maximumSignificantDigits: 6 })

/** Days before those of the first page. */
const older = ref<{ day: string; rates: Record<string, number> }[]>([])
const next = ref<string | null>(null)
watch(
  data,
  (now) => {
    older.value = []
    next.value = now?.next ?? null
  },
  { immediate: true },
)
async function more(): Promise<void> {
  const page = await attempt(() => read<NonNullable<typeof data.value>>(`/api/v1/rates?before=${next.value ?? ''}`))
  if (!page) return
  older.value = [...older.value, ...page.days]
  next.value = page.next
}

/** The rate that is being written. */
const entry = ref<{ code: string; day: string; perOwn: string; was: boolean } | null>(null)
const begin = (code: string, day: string, rate?: number): void => {
  entry.value = { code, day, perOwn: rate === undefined ? '' : String(rate), was: rate !== undefined }
}
const written = computed(() => Number(entry.value?.perOwn.trim().replace(',', '.') || NaN))
async function keep(): Promise<void> {
  if (!entry.value || !(written.value > 0)) return
  const { code, day } = entry.value
  if (await attempt(() => send('PUT', `/api/v1/rates/${code}/${day}`, { perOwn: written.value }))) {
    entry.value = null
    await refresh()
  }
}
async function remove(): Promise<void> {
  if (!entry.value) return
  const { code, day } = entry.value
  if (await attempt(() => send('DELETE', `/api/v1/rates/${code}/${day}`))) {
    entry.value = null
    await refresh()
  }
}

interface Plan {
  readonly days: number
  readonly from: string | null
  readonly to: string | null
  readonly added: number
  readonly changed: number
  readonly same: number
  readonly left: readonly string[]
}
/** A file that waits for a yes, with what it does. */
const file = ref<{ name: string; text: string; plan: Plan } | null>(null)
async function take(event: Event): Promise<void> {
  const input = event.target as HTMLInputElement
  const chosen = input.files?.[0]
  if (!chosen) return
  const { text } = readTextFile(new Uint8Array(await chosen.arrayBuffer()))
  input.value = ''
  const plan = await attempt(() => send<Plan>('POST', '/api/v1/rates/preview', { text }))
  if (plan) file.value = { name: chosen.name, text, plan }
}
async function bring(): Promise<void> {
  if (!file.value) return
  const { text } = file.value
  if (await attempt(() => send('POST', '/api/v1/rates/files', { text }))) {
    file.value = null
    await refresh()
  }
}
async function choose(from: string): Promise<void> {
  if (await attempt(() => send('PUT', '/api/v1/rates/source', { from: from === '' ? null : from }))) await refresh()
}
</script>

<template>
  <div class="h-full overflow-auto px-8 pt-4 pb-12 max-[599px]:px-4" tabindex="0">
    <div class="flex flex-wrap items-baseline gap-x-4 gap-y-1">
      <h1>Exchange rates</h1>
      <DataNav current="rates" />
      <template v-if="editable && data"
        ><button type="button" class="button ml-auto" @click="begin(shown[0] ?? data.currencies[0]?.code ?? '', '')">
          Add rate…
        </button>
        <label class="button cursor-pointer focus-within:outline-2"
          >Import CSV…<input type="file" class="sr-only" accept=".csv,text/csv" @change="take" /></label
      ></template>
    </div>
    <template v-if="data">
      <p class="quiet mt-1 max-w-[90ch]">
        Amounts are compared, added up and sorted in {{ data.own }}. Open records use the newest rate, closed deals the
        rate of the day they were closed. Records always show the amount as it was entered.
      </p>
      <p class="mt-3 flex flex-wrap items-baseline gap-x-3 gap-y-1">
        <label
          >New rates each working day
          <select
            v-if="editable"
            class="entry"
            :value="data.from ?? ''"
            @change="choose(($event.target as HTMLSelectElement).value)"
          >
            <option value="">are entered or imported</option>
            <option value="simulated">come from the simulated central bank</option></select
          ><b v-else class="font-medium">{{
            data.from === null ? 'are entered or imported' : 'come from the simulated central bank'
          }}</b></label
        >
      </p>
      <p v-if="used.length" class="quiet mt-1">
        In use beside {{ data.own }}: {{ listOf(used.map((one) => `${one.code} (${count(one.amounts, 'record')})`)) }}.
      </p>
      <p v-if="missing.length" class="mt-3 rounded-[4px] bg-saffron-t px-3 py-1.5 text-saffron" role="status">
        {{ listOf(missing.map((one) => `${count(one.amounts, 'record')} in ${one.code}`)) }} can’t be compared: there is
        no rate.
      </p>
      <div v-if="data.currencies.length === 0" class="mt-16 text-center">
        <p class="font-serif text-[20px]">All amounts are in {{ data.own }}.</p>
        <p class="quiet mt-1">Rates are needed once a currency field has other choices.</p>
      </div>
      <div v-else-if="shown.length" class="mt-4 overflow-x-auto" tabindex="0" role="region" aria-label="Rates by day">
        <table class="list w-auto!" aria-label="Exchange rates">
          <thead>
            <tr>
              <th>From</th>
              <th v-for="code in shown" :key="code" class="num">1 {{ data.own }} in {{ code }}</th>
            </tr>
          </thead>
          <tbody>
            <tr v-for="line in [...data.days, ...older]" :key="line.day">
              <td>{{ sayDate(line.day) }}</td>
              <td v-for="code in shown" :key="code" class="num">
                <button
                  v-if="editable"
                  type="button"
                  class="word"
                  :aria-label="`${code}, ${sayDate(line.day)}: ${said(line.rates[code])}`"
                  @click="begin(code, line.day, line.rates[code])"
                >
                  {{ said(line.rates[code]) }}</button><template v-else>{{ said(line.rates[code]) }}</template>
              </td>
            </tr>
            <tr v-if="data.days.length === 0">
              <td class="quiet whitespace-normal" :colspan="shown.length + 1">
                No rates yet. Enter one, import a file, or have them delivered.
              </td>
            </tr>
          </tbody>
        </table>
        <p v-if="next" class="mt-2"><button type="button" class="button" @click="more">Show older</button></p>
      </div>
    </template>
    <AppDialog v-if="entry && data" :title="entry.was ? 'Change rate' : 'Add rate'" @close="entry = null">
      <form class="label-grid mt-3" @submit.prevent="keep">
        <label for="rate-code">Currency</label>
        <select id="rate-code" v-model="entry.code" class="entry" :disabled="entry.was">
          <option v-for="one in data.currencies" :key="one.code">{{ one.code }}</option>
        </select>
        <label for="rate-day">From</label>
        <input id="rate-day" v-model="entry.day" class="entry" type="date" :disabled="entry.was" required />
        <label for="rate-value">1 {{ data.own }} in {{ entry.code }}</label>
        <input id="rate-value" v-model="entry.perOwn" class="entry" inputmode="decimal" data-first required />
        <p v-if="entry.perOwn !== '' && !(written > 0)" class="col-span-2 text-brick" role="alert">
          A rate is a number above 0.
        </p>
        <p class="col-span-2 mt-2 flex gap-2">
          <button type="submit" class="button main" :disabled="!(written > 0) || entry.day === ''">Save</button>
          <button type="button" class="button" @click="entry = null">Cancel</button>
          <button v-if="entry.was" type="button" class="button ml-auto" @click="remove">Delete</button>
        </p>
      </form>
    </AppDialog>
    <AppDialog v-if="file" :title="`Import “${file.name}”?`" @close="file = null">
      <p class="mt-2">
        <template v-if="file.plan.days === 0">The file has no rate for a currency in use.</template>
        <template v-else
          >{{ count(file.plan.days, 'day') }}, {{ sayDate(file.plan.from ?? '') }} to {{ sayDate(file.plan.to ?? '') }}:
          {{ figure(file.plan.added) }} new, {{ figure(file.plan.changed) }} changed,
          {{ figure(file.plan.same) }} unchanged.</template
        >
      </p>
      <p v-if="file.plan.left.length" class="quiet mt-1">
        Left out, because no record can be in them: {{ listOf(file.plan.left) }}.
      </p>
      <p class="mt-4 flex gap-2">
        <button
          type="button"
          class="button main"
          data-first
          :disabled="file.plan.added + file.plan.changed === 0"
          @click="bring"
        >
          Import
        </button>
        <button type="button" class="button" @click="file = null">Cancel</button>
      </p>
    </AppDialog>
  </div>
</template>
