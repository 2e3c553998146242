<script setup lang="ts">
import { usePreferredReducedMotion } from '@vueuse/core'
import { capital } from '#core/language/nouns'
import { count, figure, nounOf } from '#core/language/counts'
import { VueDraggable } from 'vue-draggable-plus'
import type { BoardLine } from '~~/server/views/board'
import { recordPath } from '~/shared/paths'
import { send, attempt } from '~/shared/api/api'
import { useQueryChange } from '~/shared/useQueryChange'
import { useCatalogue } from '~/shared/stores/catalogue'
import { useKeys } from '~/shared/keys/useKeys'
import { useSpoken } from '~/shared/keys/useSpoken'
import { useLiveQuery } from '~/shared/live/useLiveQuery'

const route = useRoute()
const store = useCatalogue()
const spoken = useSpoken()
const pipelineId = computed(() => String(route.params.pipeline))
const pipeline = computed(() => store.catalogue.pipeline(pipelineId.value))
if (!pipeline.value)
  throw createError({ statusCode: 404, message: `Pipeline “${pipelineId.value}” does not exist.`, fatal: true })
const owner = computed(() => (typeof route.query.owner === 'string' ? route.query.owner : undefined))
useHead({ title: () => pipeline.value?.name ?? 'Board' })

const changed = new Set<number>()
const { data, refresh } = await useLiveQuery('/api/v1/boards/:pipeline', {
  params: () => ({ pipeline: pipelineId.value }),
  query: () => ({ owner: owner.value }),
  changedBy(message) {
    if (message.about === 'run' && message.ref.object === 'deal')
      say(message.ref.id, `“${message.ruleName}”: ${message.text}`)
    if (message.about !== 'records') return false
    for (const ref of message.refs) if (ref.object === 'deal') changed.add(ref.id)
    return changed.size > 0
  },
  async reread() {
    const ids = [...changed]
    changed.clear()
    await reread(ids)
  },
})
const stages = computed(() => data.value?.stages ?? [])
/** Lists that the drag may change before the server has answered; every reading sets them anew. */
const lists = ref<Record<string, BoardLine[]>>({})
watch(
  stages,
  (now) => {
    lists.value = Object.fromEntries(now.map((stage) => [stage.stage.id, [...stage.lines]]))
  },
  { immediate: true },
)

/** What rules just did to a deal, shown on its line for a while: each rule's words, the latest last. */
const SAID_MS = 15_000
const did = ref<Record<number, readonly string[]>>({})
const moved = ref<ReadonlySet<number>>(new Set())

interface Slide {
  readonly ready: Promise<void>
  readonly finished: Promise<void>
  readonly updateCallbackDone: Promise<void>
}
let slide: Slide | null = null
const still = usePreferredReducedMotion()

/** A line that changes its column slides there, so that one sees where a rule took it. */
async function reread(ids: readonly number[]): Promise<void> {
  moved.value = new Set(ids)
  const page = document as { startViewTransition?: (work: () => Promise<void>) => Slide }
  if (
    !page.startViewTransition ||
    still.value === 'reduce' ||
    slide ||
    ids.length === 0 ||
    ids.length > 12 ||
    document.hidden
  ) {
    await refresh()
    return
  }
  slide = page.startViewTransition(async () => {
    await refresh()
  })
  // A slide that the browser skips (the window is hidden, too small) is no error: the page shows the new state anyway.
  const skipped = (): void => {}
  slide.ready.catch(skipped)
  slide.finished.catch(skipped).finally(() => {
    slide = null
  })
  await slide.updateCallbackDone.catch(skipped)
}
function say(id: number, text: string): void {
  const others = () => (did.value[id] ?? []).filter((one) => one !== text)
  did.value = { ...did.value, [id]: [...others(), text] }
  setTimeout(() => {
    did.value = { ...did.value, [id]: others() }
  }, SAID_MS)
}

/** In each column the arrows lead from deal to deal, and Tab to the one that was last held there, or the first. */
const heldIn = ref<Record<string, number>>({})
function isStop(stageId: string, line: BoardLine): boolean {
  const there = lists.value[stageId] ?? []
  const held = there.find((one) => one.id === heldIn.value[stageId]) ?? there[0]
  return held?.id === line.id
}

async function move(id: number, stageId: string): Promise<void> {
  const done = await attempt(() => send('PATCH', `/api/v1/records/deal/${id}`, { values: { stage: stageId } }))
  await reread([id])
  await nextTick()
  document.querySelector<HTMLElement>(`[data-deal="${id}"]`)?.focus()
  const to = stages.value.find((one) => one.stage.id === stageId)
  if (done && to) spoken.say(`Moved to ${to.stage.name}`)
}

function dropped(stageId: string, event: { readonly item: HTMLElement }): void {
  const id = Number(event.item.querySelector<HTMLElement>('[data-deal]')?.dataset.deal)
  if (id) void move(id, stageId)
}

/** From anywhere on the page into the board; from a deal on, arrows are the board's own. */
useKeys({
  ArrowDown: ({ target }) => {
    if (target instanceof HTMLElement && target.closest('[data-deal]')) return false
    const first = document.querySelector<HTMLElement>('[data-deal]')
    first?.focus()
    return first !== null
  },
})
function key(event: KeyboardEvent, column: number, row: number, line: BoardLine): void {
  const columns = stages.value.map((stage) => lists.value[stage.stage.id] ?? [])
  const focus = (id: number | undefined) =>
    id !== undefined && document.querySelector<HTMLElement>(`[data-deal="${id}"]`)?.focus()
  const side = event.key === 'ArrowLeft' ? -1 : event.key === 'ArrowRight' ? 1 : 0
  const step = event.key === 'ArrowUp' ? -1 : event.key === 'ArrowDown' ? 1 : 0
  if (side === 0 && step === 0) return
  event.preventDefault()
  if (side !== 0 && event.shiftKey) {
    const to = stages.value[column + side]
    if (to && store.may('work')) void move(line.id, to.stage.id)
    return
  }
  if (step !== 0) {
    focus(columns[column]?.[row + step]?.id)
    return
  }
  for (let at = column + side; at >= 0 && at < columns.length; at += side) {
    const there = columns[at] ?? []
    if (there.length === 0) continue
    focus(there[Math.min(row, there.length - 1)]?.id)
    return
  }
}

const own = computed(() => store.catalogue.workspace.currency)
/** The whole sum with what it is made of. */
const parts = ({ sum, sums }: { sum: number; sums: readonly { currency: string; sum: number }[] }): string => {
  const whole = (amount: number, code: string): string => money(amount, code, Infinity)
  const [only] = sums
  return sums.length === 1 && only?.currency === own.value
    ? whole(sum, own.value)
    : `${whole(sum, own.value)}: ${sums.map((one) => whole(one.sum, one.currency)).join(' + ')}`
}

/** Compact from ten thousand in the heads of columns. */
const money = (sum: number, code: string, compactFrom = 100_000): string =>
  new Intl.NumberFormat('en-GB', {
    style: 'currency',
    currency: code,
    notation: sum >= compactFrom ? 'compact' : 'standard',
    maximumFractionDigits: 0,
  }).format(sum)
const edge = (age: number): string => (age > 30 ? '5px' : age > 14 ? '4px' : age > 7 ? '3px' : '1px')
const initials = (id: string | null): string =>
  id === null
    ? '—'
    : store
        .personName(id)
        .split(' ')
        .map((part) => part[0])
        .join('')
const AGES = ['up to 7 days', '8–14 days', '15–30 days', 'more than 30 days']
function more(stageId: string): string {
  const inStage = { kind: 'condition', id: 'c1', field: 'stage', op: 'is', not: false, params: { value: stageId } }
  const filter = { kind: 'group', id: 'c0', mode: 'all', items: [inStage] }
  return `/records/deals?filter=${encodeURIComponent(JSON.stringify(filter))}`
}
const put = useQueryChange('push')
const chooseOwner = ({ value }: HTMLSelectElement) => put({ owner: value })
</script>

<template>
  <div class="screen flex h-full flex-col px-6 pt-4">
    <div class="flex flex-none items-baseline gap-5 pb-3">
      <h1>{{ pipeline?.name }}</h1>
      <nav aria-label="Pipelines" class="flex gap-3 font-serif text-[16px]">
        <NuxtLink
          v-for="one in store.catalogue.pipelines.filter((other) => other.id !== pipelineId)"
          :key="one.id"
          :to="`/boards/${one.id}`"
          class="text-ink2 italic hover:text-ink"
          >{{ one.name }}</NuxtLink
        >
      </nav>
      <select
        class="entry ml-auto max-sm:ml-0"
        aria-label="Owner"
        :value="owner ?? ''"
        @change="chooseOwner($event.target as HTMLSelectElement)"
      >
        <option value="">All owners</option>
        <option
          v-for="person in store.catalogue.people.filter((one) => one.role === 'owner')"
          :key="person.id"
          :value="person.id"
        >
          {{ person.name }}
        </option>
      </select>
      <span class="quiet"><kbd>Shift ←</kbd> <kbd>Shift →</kbd> Move deal</span>
    </div>
    <div
      class="fills relative grid min-h-0 flex-1 auto-cols-[minmax(170px,1fr)] grid-flow-col gap-4 overflow-x-auto"
      data-board
    >
      <section
        v-for="(stage, column) in stages"
        :key="stage.stage.id"
        class="flex min-h-0 flex-col"
        :aria-label="stage.stage.name"
        :data-stage="stage.stage.id"
      >
        <header class="flex-none border-b-2 border-ink pb-1.5">
          <div class="flex items-baseline justify-between gap-2">
            <h2 class="text-[17px]! font-medium">{{ stage.stage.name }}</h2>
            <p class="text-[13px] text-ink2">
              {{ stage.stage.outcome === 'open' ? '' : `${capital(stage.stage.outcome)} · ` }}{{ figure(stage.count)
              }}<span class="sr-only">{{ ` ${nounOf(stage.count, 'deal')}` }}</span>
            </p>
          </div>
          <p class="flex h-[19px] gap-2 overflow-hidden text-[12.5px] text-ink2">
            <span v-if="stage.sums.length" :title="parts(stage)" :aria-label="parts(stage)">{{
              money(stage.sum, own, 10_000)
            }}</span>
            <span v-if="stage.without" class="text-saffron">{{ stage.without }} without a rate</span>
          </p>
          <div
            class="mt-1 flex h-1.5 gap-px"
            role="img"
            :aria-label="stage.ages.map((n, i) => `${count(n, 'deal')} ${AGES[i]}`).join(', ')"
          >
            <template v-if="stage.count"
              ><span
                v-for="(n, i) in stage.ages"
                :key="i"
                class="bg-saffron"
                :title="`${n} ${AGES[i]}`"
                :style="{ flex: n, opacity: 0.25 + 0.25 * i }"
            /></template>
          </div>
        </header>
        <VueDraggable
          :model-value="lists[stage.stage.id] ?? []"
          tag="ul"
          group="deals"
          :sort="false"
          :animation="120"
          :disabled="!store.may('work')"
          class="min-h-24 flex-1 overflow-y-auto pt-1 pb-6"
          ghost-class="opacity-40"
          :aria-label="`Deals in ${stage.stage.name}`"
          @update:model-value="lists[stage.stage.id] = $event"
          @add="dropped(stage.stage.id, $event)"
        >
          <li
            v-for="(line, row) in lists[stage.stage.id] ?? []"
            :key="line.id"
            class="border-b border-hair"
            :style="moved.has(line.id) ? { viewTransitionName: `deal-${line.id}` } : {}"
          >
            <NuxtLink
              :to="recordPath({ object: 'deal', id: line.id })"
              :data-deal="line.id"
              draggable="false"
              :tabindex="isStop(stage.stage.id, line) ? 0 : -1"
              class="block py-[5px] pr-1 pl-2 hover:bg-paper2"
              :style="{ boxShadow: `inset ${edge(line.age)} 0 0 var(--saffron)` }"
              :title="`${line.name}, ${count(line.age, 'day')} in this stage`"
              @focus="heldIn[stage.stage.id] = line.id"
              @keydown="key($event, column, row, line)"
            >
              <span class="block truncate text-[13.5px] leading-tight">{{ line.name }}</span>
              <span class="flex justify-between text-[12px] leading-tight text-ink2"
                ><span
                  ><span class="sr-only">, </span
                  >{{
                    line.amount === null
                      ? 'No amount'
                      : money(line.amount, line.currency ?? store.catalogue.workspace.currency)
                  }}</span
                ><span class="sr-only"
                  >, {{ count(line.age, 'day') }} in this stage,
                  {{ line.ownerId ? `owner ${store.personName(line.ownerId)}` : 'no owner' }}</span
                ><span aria-hidden="true"
                  ><span :title="store.personName(line.ownerId)">{{ initials(line.ownerId) }}</span> ·
                  {{ line.age }} d</span
                ></span
              >
              <span v-if="did[line.id]?.length" class="mt-0.5 block bg-violet-t px-1.5 py-0.5 text-violet" data-did>
                <span
                  v-for="text in did[line.id]"
                  :key="text"
                  class="flex items-start gap-1.5 text-[12px] leading-tight"
                  ><span class="mark data mt-0.5 scale-75" aria-hidden="true" />{{ text }}</span
                >
              </span>
            </NuxtLink>
          </li>
        </VueDraggable>
        <p v-if="stage.count > stage.lines.length" class="quiet flex-none border-t border-hair py-1">
          <NuxtLink :to="more(stage.stage.id)" class="name-link"
            >Show {{ figure(stage.count - stage.lines.length) }} more</NuxtLink
          >
        </p>
      </section>
    </div>
  </div>
</template>
