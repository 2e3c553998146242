import type { ActivityName } from '#core/activities'
import type { Group } from '#core/conditions/document'
import type { RehearsedSheet } from '#core/rehearsal/result'
import type { RuleDocument } from '#core/rules/document'
import { dateAt } from '#core/time/dates'
import { readMinute } from '#core/time/moments'
import type { Value } from '#core/language/value'
import type { AnswerOf } from '~/shared/live/useLiveQuery'
import type { RehearsalView } from '~~/server/worker/rehearsals'
import { attempt, read, send } from '~/shared/api/api'
import { useQueryChange } from '~/shared/useQueryChange'
import { useCatalogue } from '~/shared/stores/catalogue'

type RuleLines = AnswerOf<'/api/v1/rules'>['rules']

/** What is assumed to happen, line by line. */
export interface Assumed {
  day: number
  time: string
  /** A field that changes, or `@` and what its contacts do. */
  field: string
  /** What it changes to, or what the activity is about. */
  value: Value
}

/** The activity that is assumed; `null` for a change of a field. */
export const activityOf = ({ field }: Pick<Assumed, 'field'>): ActivityName | null =>
  field.startsWith('@') ? field.slice(1) : null

const ASK_AGAIN_MS = 120

/**
 * A rehearsal: what is asked for stands in the address, so that it can be shared; what comes of it is read page by
 * page.
 */
export function useRehearsal(rules: () => RuleLines) {
  const route = useRoute()
  const store = useCatalogue()
  const zone = computed(() => store.catalogue.workspace.zone)
  const text = (key: string): string => (typeof route.query[key] === 'string' ? String(route.query[key]) : '')
  const chosen = computed(() =>
    text('rules')
      .split(',')
      .map(Number)
      .filter((id) => id > 0),
  )
  const picked = computed(() => lines.value.filter((rule) => chosen.value.includes(rule.id)))
  const object = computed(() => picked.value[0]?.object ?? 'deal')
  const days = computed(() => Number(text('days')) || 90)
  const back = computed(() => text('back') === '1')
  const compare = computed(() => text('compare') === '1')
  const record = computed(() => Number(text('record')) || null)
  const who = computed(() => (record.value ? 'one' : text('who') === 'matching' ? 'matching' : 'all'))
  const only = computed(() => Number(text('only')) || null)
  const day = computed(() => text('day') || null)
  const owner = computed(() => text('owner') || null)
  const go = useQueryChange()
  const lines = computed(() => rules().filter((rule) => rule.state !== 'archived'))
  const script = ref<Assumed[]>([])
  const assuming = ref(false)
  /** Takes something as given, and closes where it was said. */
  function assume(line: Assumed): void {
    script.value = [...script.value, line]
    assuming.value = false
  }
  const unassume = (at: number): void => {
    script.value = script.value.filter((_, i) => i !== at)
  }
  const askAssumed = (on: boolean): void => {
    assuming.value = on
  }
  // People do things: what is assumed of a deal or company is done by its contacts.
  const saidOf = (line: Assumed) => {
    const kind = activityOf(line)
    return kind
      ? { does: { by: 'contact' as const, kind, about: String(line.value ?? '') } }
      : { values: { [line.field]: line.value } }
  }
  const assumed = computed(() =>
    script.value.map((line) => ({
      day: line.day,
      minute: readMinute(line.time) ?? 0,
      id: record.value,
      ...saidOf(line),
    })),
  )
  const id = ref<number | null>(null)
  const state = ref<'idle' | 'running' | 'done' | 'stopped' | 'failed'>('idle')
  const progress = ref(0)
  const trouble = ref('')
  const view = shallowRef<RehearsalView | null>(null)
  let asking: ReturnType<typeof setTimeout> | undefined
  onBeforeUnmount(() => clearTimeout(asking))
  async function filterOf(): Promise<Group | undefined> {
    const [first] = picked.value
    return first && who.value === 'matching'
      ? (await read<{ draft: RuleDocument }>(`/api/v1/rules/${first.id}`)).draft.conditions
      : undefined
  }
  /** What is asked for now. */
  const question = computed(() =>
    JSON.stringify([chosen, days, back, compare, record, who, script].map((one) => one.value)),
  )
  async function begin(): Promise<void> {
    if (chosen.value.length === 0) return
    const asked = question.value
    view.value = null
    sheet.value = null
    const filter = await filterOf()
    const begun = await attempt(() =>
      send<{ id: number }>('POST', '/api/v1/rehearsals', {
        rules: chosen.value.map((rule) => ({ rule })),
        days: days.value,
        back: back.value,
        compare: compare.value,
        ...(record.value ? { ids: [record.value] } : filter ? { filter } : {}),
        script: assumed.value,
      }),
    )
    if (!begun) return
    if (question.value !== asked) {
      // Something else was asked for meanwhile: this one is no answer to it.
      void send('POST', `/api/v1/rehearsals/${begun.id}/stop`)
      return
    }
    id.value = begun.id
    state.value = 'running'
    progress.value = 0
    void look()
  }
  async function look(): Promise<void> {
    const mine = id.value
    if (mine === null) return
    const found = await read<{ state: 'running' | 'done' | 'stopped' | 'failed'; progress: number; text: string }>(
      `/api/v1/rehearsals/${mine}`,
    ).catch(() => null)
    // It is looked at no more when something else is asked for while the answer is on its way.
    if (id.value !== mine) return
    if (!found) {
      trouble.value = 'There is no answer from the server. Rehearse again.'
      state.value = 'failed'
      return
    }
    progress.value = found.progress
    trouble.value = found.text
    state.value = found.state
    if (found.state === 'running') asking = setTimeout(() => void look(), ASK_AGAIN_MS)
    else if (found.state !== 'failed') await show()
  }
  async function show(): Promise<void> {
    if (id.value === null) return
    const query = new URLSearchParams({
      limit: '500',
      ...(only.value ? { object: object.value, record: String(only.value) } : {}),
      ...(day.value ? { day: day.value } : {}),
      ...(owner.value ? { owner: owner.value } : {}),
    })
    view.value = await attempt(() => read<RehearsalView>(`/api/v1/rehearsals/${id.value}/lines?${query}`))
  }
  /** One record's way through the sheet. */
  const sheet = shallowRef<RehearsedSheet | null>(null)
  async function way(run: number): Promise<void> {
    sheet.value = await attempt(() => read<RehearsedSheet>(`/api/v1/rehearsals/${id.value}/runs/${run}`))
  }
  /** The next of those that are listed, or the one before. */
  function wayOf(by: 1 | -1): void {
    const runs = [...new Set((view.value?.lines ?? []).map((line) => line.runId))]
    const next = runs[runs.indexOf(sheet.value?.run.id ?? -1) + by]
    if (next !== undefined) void way(next)
  }
  const CASE_MOST = 50
  const taking = computed(() =>
    record.value
      ? [record.value]
      : [
          ...new Set(
            (view.value?.lines ?? []).filter((line) => line.ref.object === object.value).map((line) => line.ref.id),
          ),
        ].slice(0, CASE_MOST),
  )
  watch([only, day, owner], () => {
    if (state.value === 'done' || state.value === 'stopped') void show()
  })
  const stop = (): void => {
    if (id.value !== null) void send('POST', `/api/v1/rehearsals/${id.value}/stop`)
  }
  // What was rehearsed otherwise is no answer to what is asked now.
  watch(question, () => {
    if (state.value === 'running') stop()
    clearTimeout(asking)
    id.value = null
    view.value = null
    sheet.value = null
    state.value = 'idle'
  })
  onMounted(() => {
    if (chosen.value.length > 0 && text('go') === '1') void begin()
  })

  const dayOf = (atMs: number): string => dateAt(atMs, zone.value)
  const ownerWord = (key: string): string => (key.startsWith('queue of') ? key : store.personName(key))
  /** Over what really happened, in place of what is assumed. */
  async function goThroughPast(): Promise<void> {
    await go({ back: '1' })
    await begin()
  }

  return reactive({
    picked,
    chosen,
    object,
    who,
    record,
    back,
    days,
    compare,
    script,
    state,
    progress,
    view,
    only,
    day,
    owner,
    go,
    stop,
    begin,
    trouble,
    lines,
    assumed,
    way,
    wayOf,
    sheet,
    taking,
    dayOf,
    goThroughPast,
    assume,
    unassume,
    askAssumed,
    assuming,
    ownerWord,
    id,
  })
}

export type Rehearsal = ReturnType<typeof useRehearsal>
