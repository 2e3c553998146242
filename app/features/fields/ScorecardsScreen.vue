<script setup lang="ts">
import { sayProblem } from '#core/language/problems'
import '#core/language/refusals/of-server'
import { figure, nounOf } from '#core/language/counts'
import { EMPTY_GROUP } from '#core/conditions/document'
import { OBJECT_WORDS, type ObjectKind } from '#core/records/kinds'
import { cardProblem } from '#core/scoring/scorecard'
import type { ScorePreview } from '~~/server/engine/scorecards'
import type { Band, ScoreLine, Scorecard } from '#core/scoring/card'
import { recordPath } from '~/shared/paths'
import { send, attempt } from '~/shared/api/api'
import { once } from '~/shared/api/once'
import { draftOf } from '~/shared/draft/draftOf'
import UnsavedWork from '~/shared/draft/UnsavedWork.vue'
import { useLive } from '~/shared/live/useLive'
import { useCatalogue } from '~/shared/stores/catalogue'
import FieldsNav from './FieldsNav.vue'
import ScoreLineEditor from './ScoreLineEditor.vue'
import ScoreBars from './ScoreBars.vue'
import { vTyped } from '~/shared/keys/typed'

/** Scorecards: lines as sentences, and beside them what they come to for everybody before they are kept. */
useHead({ title: 'Scorecards' })
const route = useRoute()
const store = useCatalogue()
const editable = computed(() => store.may('build'))
const cards = computed(() => store.catalogue.data.scorecards ?? [])
interface Given {
  id: number | null
  object: ObjectKind
  name: string
  lines: readonly ScoreLine[]
  least: number | null
  most: number | null
  bands: readonly Band[]
}
const toGiven = ({ id, object, name, lines, least, most, bands }: Scorecard): Given => ({
  id,
  object,
  name,
  lines,
  least,
  most,
  bands,
})
const chosen = computed(
  () =>
    cards.value.find((card) => card.id === Number(route.query.card)) ??
    (route.query.new ? null : (cards.value[0] ?? null)),
)
const fresh = (object: ObjectKind): Given => ({
  id: null,
  object,
  name: '',
  least: 0,
  most: 100,
  lines: [
    {
      id: 'l1',
      points: 5,
      most: 30,
      for: {
        what: 'doing',
        kind: 'visit',
        about: '',
        from: object === 'company' ? 'contact' : null,
        fading: { how: 'half', days: 30 },
      },
    },
  ],
  bands: [
    { id: 'low', name: 'Cool', from: 0 },
    { id: 'middle', name: 'Warm', from: 20 },
    { id: 'high', name: 'Keen', from: 40 },
  ],
})
const {
  written: given,
  dirty,
  elsewhere,
  take,
  save,
} = draftOf(
  (): Given | null => {
    if (chosen.value) return toGiven(chosen.value)
    return route.query.new ? fresh(route.query.new === 'company' ? 'company' : 'contact') : null
  },
  () => [chosen.value?.id, route.query.new],
)
useLive((message) => {
  if (message.about === 'catalogue') void store.load()
})
function set(change: Partial<Given>): void {
  if (given.value) given.value = { ...given.value, ...change }
}
const setLine = (at: number, line: ScoreLine): void =>
  set({ lines: given.value?.lines.map((one, i) => (i === at ? line : one)) ?? [] })
const setBand = (at: number, change: Partial<Band>): void =>
  set({ bands: given.value?.bands.map((one, i) => (i === at ? { ...one, ...change } : one)) ?? [] })
function freshId(start: string, taken: readonly { readonly id: string }[]): string {
  let n = taken.length + 1
  while (taken.some((one) => one.id === `${start}${n}`)) n++
  return `${start}${n}`
}
function addLine(what: 'being' | 'doing'): void {
  const lines = given.value?.lines ?? []
  const line: ScoreLine = {
    id: freshId('l', lines),
    points: 5,
    most: what === 'doing' ? 30 : null,
    for:
      what === 'being'
        ? { what, where: EMPTY_GROUP }
        : { what, kind: 'visit', about: '', from: null, fading: { how: 'never' } },
  }
  set({ lines: [...lines, line] })
  void nextTick(() => document.querySelector<HTMLInputElement>(`[data-line="${line.id}"] input`)?.select())
}
function moveLine(at: number, by: 1 | -1): void {
  const lines = [...(given.value?.lines ?? [])]
  const [line] = lines.splice(at, 1)
  if (line) lines.splice(Math.max(0, at + by), 0, line)
  set({ lines })
}
const addBand = (): void =>
  set({
    bands: [
      ...(given.value?.bands ?? []),
      {
        id: freshId('b', given.value?.bands ?? []),
        name: 'New band',
        from: (given.value?.bands.at(-1)?.from ?? 0) + 20,
      },
    ],
  })
const problem = computed(() => {
  if (given.value === null) return null
  const wrong = cardProblem(given.value)
  if (wrong) return sayProblem(wrong.problem)
  if (given.value.name.trim() === '') return 'Enter a name.'
  return given.value.bands.some((band) => band.name.trim() === '') ? 'Enter a name for every band.' : null
})

const preview = shallowRef<ScorePreview | null>(null)
let asked = 0
let timer: ReturnType<typeof setTimeout> | undefined
const numberOf = (event: Event): number | null =>
  (event.target as HTMLInputElement).value === '' ? null : Number((event.target as HTMLInputElement).value)
async function prove(): Promise<void> {
  const n = ++asked
  if (!given.value || cardProblem(given.value)) return
  const { name, ...rest } = given.value
  try {
    const found = await $fetch<ScorePreview>('/api/v1/scorecards/preview' as string, {
      method: 'POST',
      body: { ...rest, name: name.trim() || 'A new scorecard' },
    })
    if (n === asked) preview.value = found
  } catch {
    /* What does not fit is told when it is kept. */
  }
}
// A scorecard comes again once it is saved, and once all scores are recalculated by it.
watch([given, chosen], ([now], [before]) => {
  if (now?.id !== before?.id) preview.value = null
  clearTimeout(timer)
  timer = setTimeout(() => void prove(), 200)
})
onMounted(() => void prove())
onBeforeUnmount(() => clearTimeout(timer))

const keep = once(async (): Promise<void> => {
  if (!given.value || problem.value !== null) return
  const { id, object, ...card } = given.value
  await save(async () => {
    const saved = await attempt(() =>
      id === null
        ? send<{ id: number }>('POST', '/api/v1/scorecards', { object, ...card })
        : send<{ id?: number }>('PUT', `/api/v1/scorecards/${id}`, card),
    )
    if (!saved) return null
    await store.load()
    if (id === null) await navigateTo(`/scorecards?card=${saved.id}`)
    else void prove()
    return saved
  })
})
const removing = ref(false)
async function remove(): Promise<void> {
  if (!given.value?.id || !(await attempt(() => send('DELETE', `/api/v1/scorecards/${given.value?.id}`)))) return
  removing.value = false
  await store.load()
  await navigateTo('/scorecards')
}
const lineGives = (id: string) => preview.value?.lines.find((one) => one.id === id) ?? null
</script>

<template>
  <div class="split grid h-full" :class="given ? 'grid-cols-[minmax(0,58fr)_minmax(0,42fr)]' : ''">
    <div class="min-h-0 overflow-auto px-8 pt-4 pb-12" tabindex="0">
      <div class="flex flex-wrap items-baseline gap-x-4 gap-y-1">
        <h1>Scorecards</h1>
        <FieldsNav current="scorecards" />
      </div>
      <div class="mt-3 flex flex-wrap items-baseline gap-x-4 gap-y-1">
        <nav aria-label="Scorecards" class="flex flex-wrap gap-4 font-serif text-[17px]">
          <NuxtLink
            v-for="card in cards"
            :key="card.id"
            :to="`/scorecards?card=${card.id}`"
            :class="given?.id === card.id ? 'border-b-2 border-ink font-medium' : 'text-ink2 italic hover:text-ink'"
            :aria-current="given?.id === card.id ? 'page' : undefined"
            >{{ card.name }}
            <span class="font-sans text-[12px] not-italic">{{ OBJECT_WORDS[card.object].many }}</span></NuxtLink
          >
        </nav>
        <span v-if="editable" class="ml-auto flex flex-wrap gap-2"
          ><NuxtLink to="/scorecards?new=contact" class="button">New contact scorecard</NuxtLink
          ><NuxtLink to="/scorecards?new=company" class="button">New company scorecard</NuxtLink></span
        >
      </div>
      <UnsavedWork :dirty="dirty" :elsewhere="elsewhere" @take="take" />
      <form v-if="given" class="mt-4" @submit.prevent="keep">
        <div class="flex flex-wrap items-end gap-4">
          <label class="quiet"
            >Name<br /><input
              class="sentence-entry text-[22px]!"
              :value="given.name"
              :disabled="!editable"
              maxlength="60"
              placeholder="Interest score"
              required
              @input="set({ name: ($event.target as HTMLInputElement).value })"
          /></label>
          <p class="quiet pb-1">For {{ OBJECT_WORDS[given.object].many }}</p>
          <span v-if="editable" class="ml-auto flex gap-2"
            ><button v-if="given.id !== null" type="button" class="button" @click="removing = !removing">Delete…</button
            ><button type="submit" class="button main" :disabled="!dirty || problem !== null" data-keep>
              Save
            </button></span
          >
        </div>
        <p v-if="removing" class="mt-2 rounded-[3px] bg-brick-t px-3 py-2">
          This also archives its two fields. Not possible while a rule uses them.
          <button type="button" class="button" @click="remove">Delete scorecard</button>
          <button type="button" class="button" @click="removing = false">Cancel</button>
        </p>
        <p v-if="problem" class="mt-2 text-brick" role="alert">{{ problem }}</p>
        <p v-else-if="dirty" class="quiet mt-2" aria-live="polite">
          Not saved. Saving recalculates all scores. Rules are not triggered.
        </p>
        <div
          class="mt-4 grid grid-cols-[26px_minmax(0,1fr)_120px] gap-x-3 border-b border-ink2 pb-1 text-[12px] font-semibold text-ink2 max-[499px]:grid-cols-[20px_minmax(0,1fr)_84px]"
        >
          <span /><span>Points</span
          ><span class="text-right">Total points and {{ OBJECT_WORDS[given.object].many }}</span>
        </div>
        <ol>
          <ScoreLineEditor
            v-for="(line, i) in given.lines"
            :key="line.id"
            :line="line"
            :object="given.object"
            :number="i + 1"
            :editable="editable"
            :gives="lineGives(line.id)"
            @set="setLine(i, $event)"
            @remove="set({ lines: given.lines.filter((_, at) => at !== i) })"
            @move="moveLine(i, $event)"
          />
        </ol>
        <p v-if="editable" class="mt-3 flex flex-wrap gap-2">
          <button type="button" class="button" data-add-doing @click="addLine('doing')">Add activity</button
          ><button type="button" class="button" data-add-being @click="addLine('being')">Add field condition</button>
        </p>
        <fieldset class="mt-5 flex flex-wrap gap-6" :disabled="!editable">
          <label class="quiet"
            >Minimum<br /><input
              type="number"
              step="any"
              class="entry w-24"
              v-typed="given.least ?? ''"
              @change="set({ least: numberOf($event) })" /></label
          ><label class="quiet"
            >Maximum<br /><input
              type="number"
              step="any"
              class="entry w-24"
              v-typed="given.most ?? ''"
              @change="set({ most: numberOf($event) })"
          /></label>
        </fieldset>
        <h2 class="mt-6 border-b border-ink2 pb-1 text-[17px]!">Bands</h2>
        <ol>
          <li
            v-for="(band, i) in given.bands"
            :key="band.id"
            class="flex items-center gap-3 border-b border-hair py-1.5"
          >
            <label
              ><span class="sr-only">Band {{ i + 1 }} name</span
              ><input
                class="entry w-44 font-serif text-[16px]!"
                maxlength="60"
                v-typed="band.name"
                :disabled="!editable"
                @change="setBand(i, { name: ($event.target as HTMLInputElement).value })"
            /></label>
            <span v-if="i === 0" class="quiet">Lowest band</span
            ><label v-else class="quiet"
              >From
              <input
                type="number"
                step="any"
                class="entry ml-1 w-24"
                v-typed="band.from"
                :disabled="!editable"
                :aria-label="`${band.name}: minimum points`"
                @change="setBand(i, { from: numberOf($event) ?? 0 })"
              />
              points</label
            >
            <span class="ml-auto text-[13px]"
              ><template v-for="one in preview?.bands.filter((other) => other.id === band.id) ?? []" :key="one.id"
                ><template v-if="one.before !== null && one.before !== one.after"
                  >{{ one.before.toLocaleString('en') }} → </template
                ><b class="font-semibold">{{ one.after.toLocaleString('en') }}</b></template
              ></span
            >
            <button
              v-if="editable && given.bands.length > 1"
              type="button"
              class="button px-2! py-0.5!"
              :aria-label="`Remove band ${band.name}`"
              @click="set({ bands: given.bands.filter((_, at) => at !== i) })"
            >
              ×
            </button>
          </li>
        </ol>
        <p v-if="editable" class="mt-2">
          <button type="button" class="button" :disabled="given.bands.length >= 10" @click="addBand">Add band</button>
        </p>
      </form>
      <div v-else class="mt-20 text-center">
        <p class="font-serif text-[20px]">No scorecards yet.</p>
        <p class="quiet mt-1">
          A scorecard gives points for activity and for field values. Rules can run when a score reaches a limit.
        </p>
      </div>
    </div>
    <aside
      v-if="given"
      class="min-h-0 overflow-auto border-l border-hair bg-paper2 px-6 pt-5 pb-12"
      tabindex="0"
      aria-label="Preview"
    >
      <template v-if="preview">
        <h2>
          {{ figure(preview.looked)
          }}<template v-if="preview.total > preview.looked"> of {{ figure(preview.total) }}</template>
          {{ nounOf(preview.total, given.object) }}
        </h2>
        <ScoreBars :preview="preview" :bands="given.bands" />
        <template v-if="preview.before">
          <h2 class="mt-5 border-b border-ink2 pb-1 text-[16px]!">
            Changing band: <span class="font-sans text-[12px] text-ink2">{{ preview.crossings }}</span>
          </h2>
          <p v-if="preview.crossings === 0" class="quiet mt-1">None</p>
          <table v-else class="list" aria-label="Changing band">
            <tbody>
              <tr v-for="one in preview.crossing" :key="one.id">
                <td class="max-w-[180px] truncate">
                  <NuxtLink :to="recordPath({ object: given.object, id: one.id })" class="name-link">{{
                    one.name
                  }}</NuxtLink>
                </td>
                <td class="num">
                  {{ one.before }} → <b class="font-semibold">{{ one.after }}</b>
                </td>
                <td>
                  {{ one.from }} → <b class="font-semibold">{{ one.to }}</b>
                </td>
              </tr>
            </tbody>
          </table>
          <p v-if="preview.crossings > preview.crossing.length" class="quiet mt-1">
            and {{ figure(preview.crossings - preview.crossing.length) }} more
          </p>
        </template>
      </template>
      <p v-else class="quiet">The preview appears here.</p>
    </aside>
  </div>
</template>
