import { useEventListener } from '@vueuse/core'
import { defineStore } from 'pinia'
import { reactive } from 'vue'
import type { CallEnd, CallOutcome } from '#core/asks/call'
import type { Value } from '#core/language/value'

/** What somebody began to answer and has not sent. */
export interface Unsent {
  outcome: CallOutcome | null
  ended: CallEnd | null
  /** Of a call, or the outcome of any other task. */
  notes: string
  minutes: number | ''
  /** Why something is declined. */
  reason: string
  answers: Record<string, Value>
}

const blank = (): Unsent => ({ outcome: null, ended: null, notes: '', minutes: '', reason: '', answers: {} })
const isWritten = ({ notes, reason, answers }: Unsent): boolean =>
  notes !== '' || reason !== '' || Object.values(answers).some((one) => one !== null)

/**
 * Answers that are being written, by what they are for (`task 12`): they stay while one looks elsewhere, and until the
 * server has them. Only with the tab they would go, so that is asked about.
 */
export const useUnsent = defineStore('unsent', () => {
  const kept = reactive(new Map<string, Unsent>())
  /** What was written for it so far. */
  function of(what: string): Unsent {
    if (!kept.has(what)) kept.set(what, blank())
    return kept.get(what)!
  }
  /** The server has it. */
  const sent = (what: string): void => void kept.delete(what)
  if (import.meta.client)
    useEventListener(window, 'beforeunload', (event) => {
      if ([...kept.values()].some(isWritten)) event.preventDefault()
    })
  return { kept, of, sent }
})
