/** Quiet lines at the foot of the page: what rules just did, and what can still be undone. */
export interface Notice {
  readonly id: number
  readonly tone: 'rule' | 'plain' | 'wrong'
  readonly title: string
  readonly text: string
  readonly to: string | null
  readonly undo: (() => void) | null
}

const SHOWN_MS = 9000
const MOST = 4

export const useNotices = defineStore('notices', () => {
  const list = ref<Notice[]>([])
  let last = 0

  function drop(id: number): void {
    list.value = list.value.filter((notice) => notice.id !== id)
  }

  function tell(notice: {
    tone?: Notice['tone']
    title: string
    text?: string
    to?: string | null
    undo?: (() => void) | null
  }): number {
    const id = ++last
    list.value = [
      ...list.value.slice(1 - MOST),
      {
        id,
        tone: notice.tone ?? 'plain',
        title: notice.title,
        text: notice.text ?? '',
        to: notice.to ?? null,
        undo: notice.undo ?? null,
      },
    ]
    setTimeout(() => drop(id), SHOWN_MS)
    return id
  }

  function undo(notice: Notice): void {
    notice.undo?.()
    drop(notice.id)
  }

  return { list, tell, drop, undo }
})
