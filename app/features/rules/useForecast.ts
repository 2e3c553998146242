import { onScopeDispose, ref, shallowRef, watch } from 'vue'
import type { AnswerOf } from '~/shared/live/useLiveQuery'
import { read, send } from '~/shared/api/api'

type Told = AnswerOf<'/api/v1/forecasts/:id'>
export type ForecastShown = NonNullable<Told['forecast']>

/** What a rule is run for besides, when it is switched on. */
export interface ForecastChoice {
  readonly backfill: boolean
  readonly again: boolean
  readonly passedDays: number
}

const ASK_AGAIN_MS = 120
/** Somebody who types a number of days is not asked to wait for every digit. */
const CALM_MS = 250
const LATE_MS = 5000

/** What switching a rule on would bring, told anew whenever something else is chosen. */
export function useForecast(ruleId: number, choice: () => ForecastChoice) {
  const forecast = shallowRef<ForecastShown | null>(null)
  const progress = ref(0)
  const trouble = ref('')
  const running = ref(false)
  /** Whether it takes so long that nobody has to wait for it. */
  const late = ref(false)
  let asked = 0
  let timer: ReturnType<typeof setTimeout> | undefined
  let lateTimer: ReturnType<typeof setTimeout> | undefined
  /** The one that is under way: a forecast that nobody waits for any more holds up the next one. */
  let current: number | null = null
  function drop(): void {
    asked++
    clearTimeout(timer)
    clearTimeout(lateTimer)
    if (current !== null) void send('POST', `/api/v1/rehearsals/${current}/stop`).catch(() => null)
    current = null
  }
  onScopeDispose(drop)

  async function begin(): Promise<void> {
    drop()
    const mine = asked
    running.value = true
    late.value = false
    lateTimer = setTimeout(() => (late.value = true), LATE_MS)
    progress.value = 0
    trouble.value = ''
    const begun = await send<{ id: number }>('POST', `/api/v1/rules/${ruleId}/forecasts`, choice()).catch(() => null)
    if (mine !== asked) return
    current = begun?.id ?? null
    if (begun) void look(begun.id, mine)
    else fail('The forecast could not be started.')
  }
  const fail = (text: string): void => {
    current = null
    running.value = false
    trouble.value = text
  }
  async function look(id: number, mine: number): Promise<void> {
    const told = await read<Told>(`/api/v1/forecasts/${id}`).catch(() => null)
    if (mine !== asked) return
    if (!told || told.state === 'failed') return fail(told?.text || 'The forecast could not be made.')
    progress.value = told.progress
    if (told.state === 'running') {
      timer = setTimeout(() => void look(id, mine), ASK_AGAIN_MS)
      return
    }
    current = null
    forecast.value = told.forecast
    running.value = false
  }
  watch(choice, () => {
    drop()
    running.value = true
    timer = setTimeout(() => void begin(), CALM_MS)
  })
  return { forecast, progress, trouble, running, late, begin }
}
