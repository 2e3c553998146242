import { defineStore } from 'pinia'
import { ref } from 'vue'

/** Quiet lines at the foot of the page: what rules just did, and what can still be undone. */
export interface Notice {
  readonly id: number
  readonly tone: 'rule' | 'plain' | 'wrong'
  readonly title: string
  readonly text: string
  readonly to: string | null
  readonly undo: (() => void) | null
  /** What it tells of, for what went wrong: once the same succeeds, nobody has to close it. */
  readonly of: string | null
}

/** How long one stays, in milliseconds; what went wrong stays until it is closed. */
export const SHOWN_MS = 9000
/** So many stand there at once. */
export const MOST = 4

export const useNotices = defineStore('notices', () => {
  const list = ref<Notice[]>([])
  let last = 0
  const ends = new Map<number, ReturnType<typeof setTimeout>>()
  const held = new Set<number>()

  function drop(id: number): void {
    list.value = list.value.filter((notice) => notice.id !== id)
    clearTimeout(ends.get(id))
    ends.delete(id)
    held.delete(id)
  }

  /** From now on it has its time, unless it stays until it is closed. */
  function begin({ id, tone }: Notice): void {
    clearTimeout(ends.get(id))
    if (tone !== 'wrong')
      ends.set(
        id,
        setTimeout(() => drop(id), SHOWN_MS),
      )
  }

  /** One more than there is room for takes the place of the oldest that may go. */
  function makeRoom(): void {
    while (list.value.length >= MOST) {
      const goes =
        list.value.find(({ id, tone }) => tone !== 'wrong' && !held.has(id)) ??
        list.value.find(({ id }) => !held.has(id)) ??
        list.value[0]
      if (!goes) return
      drop(goes.id)
    }
  }

  function tell(given: {
    tone?: Notice['tone']
    title: string
    text?: string
    to?: string | null
    undo?: (() => void) | null
    of?: string | null
  }): number {
    if (given.of) settle(given.of)
    makeRoom()
    const notice: Notice = {
      id: ++last,
      tone: given.tone ?? 'plain',
      title: given.title,
      text: given.text ?? '',
      to: given.to ?? null,
      undo: given.undo ?? null,
      of: given.of ?? null,
    }
    list.value = [...list.value, notice]
    begin(notice)
    return notice.id
  }

  /** While somebody is at it, by focus or pointer, it does not go; afterwards it has its whole time again. */
  function hold(id: number, here: boolean): void {
    const notice = list.value.find((one) => one.id === id)
    if (!notice || held.has(id) === here) return
    if (here) {
      held.add(id)
      clearTimeout(ends.get(id))
    } else {
      held.delete(id)
      begin(notice)
    }
  }

  /** The same was done again: what was told of it before holds no more. */
  function settle(of: string): void {
    for (const one of list.value.filter((other) => other.of === of)) drop(one.id)
  }

  function undo(notice: Notice): void {
    notice.undo?.()
    drop(notice.id)
  }

  return { list, tell, drop, undo, hold, settle }
})
