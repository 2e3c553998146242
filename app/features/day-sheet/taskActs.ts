import type { ComputedRef, Ref } from 'vue'
import { workdaysOf } from '#core/rules/clock'
import { addWorkdays } from '#core/time/calendar'
import { addDays } from '#core/time/dates'
import { sayDate, sayWeekday } from '#core/time/say'
import type { DayTask } from '~~/server/views/day-sheet'
import { attempt, send } from '~/shared/api/api'
import { once } from '~/shared/api/once'
import { useUnsent } from '~/shared/asks/unsent'
import { useCatalogue } from '~/shared/stores/catalogue'
import { useNotices } from '~/shared/stores/notices'

/** Whether the task is about a record, and one that may be seen. */
export const isAboutSeen = (task: DayTask): boolean => task.ref.object !== 'none' && !task.hidden

type Act = Readonly<Record<string, unknown>>

/** What is done with the task that is looked at, on somebody's day sheet; each can be undone. */
export function useTaskActs(sheet: {
  readonly person: ComputedRef<string>
  readonly today: ComputedRef<string>
  readonly queued: ComputedRef<readonly DayTask[]>
  readonly current: ComputedRef<DayTask | null>
  readonly currentId: Ref<number | null>
  readonly refresh: () => Promise<unknown>
}) {
  const { person, today, queued, current, currentId, refresh } = sheet
  const store = useCatalogue()
  const notices = useNotices()
  const unsent = useUnsent()
  const mode = ref<'outcome' | 'answer' | 'later' | 'hand' | null>(null)
  /** What has to be answered before it is done. */
  const asks = computed(() => current.value?.asks ?? null)
  const inQueue = computed(() => current.value?.assigneeId === null)
  const may = computed(() => store.may('work'))
  const last = shallowRef<(() => Promise<void>) | null>(null)

  const calendar = computed(() => workdaysOf(store.catalogue, person.value))
  const laters = computed(() =>
    [
      { value: addWorkdays(today.value, 1, calendar.value), label: 'Next working day' },
      { value: addWorkdays(today.value, 2, calendar.value), label: 'In 2 working days' },
      { value: addWorkdays(addDays(today.value, 6), 1, calendar.value), label: 'In 1 week' },
      { value: addWorkdays(addDays(today.value, 27), 1, calendar.value), label: 'In 4 weeks' },
    ].map((option) => ({ ...option, hint: sayWeekday(option.value) })),
  )
  const people = computed(() =>
    store.catalogue.people
      .filter((one) => one.active && one.role === 'owner' && one.id !== person.value)
      .map((one) => ({
        value: one.id,
        label: one.name,
        hint:
          one.awayFrom && one.awayTo && today.value >= one.awayFrom && today.value <= one.awayTo
            ? `Away until ${sayDate(one.awayTo)}`
            : one.title,
      })),
  )

  const act = (id: number, body: Act) => attempt(() => send('POST', `/api/v1/tasks/${id}`, body))
  const did = once(
    async (task: DayTask, body: Act, title: string, back: Act): Promise<void> => {
      mode.value = null
      if (!(await act(task.id, body))) return
      if (body.act === 'finish') unsent.sent(`task ${task.id}`)
      const undo = async (): Promise<void> => {
        last.value = null
        await act(task.id, back)
        await refresh()
        currentId.value = task.id
      }
      last.value = undo
      notices.tell({ title, text: task.title, undo: () => void undo() })
      await refresh()
    },
    // The same act on the same task; another one may follow at once.
    (task, body) => JSON.stringify([task.id, body]),
  )
  function withCurrent(work: (task: DayTask) => void): void {
    if (may.value && current.value) work(current.value)
  }

  return reactive({
    mode,
    asks,
    inQueue,
    may,
    laters,
    people,
    answer: (answers: Act) =>
      withCurrent((task) => void did(task, { act: 'finish', answers }, 'Answer saved', { act: 'reopen' })),
    finish: (outcome = '') =>
      withCurrent((task) => {
        if (inQueue.value) return
        if (asks.value) mode.value = 'answer'
        else void did(task, { act: 'finish', outcome }, 'Task done', { act: 'reopen' })
      }),
    later: (due: string) =>
      withCurrent(
        (task) =>
          void did(task, { act: 'postpone', due }, `Postponed to ${sayWeekday(due)}`, {
            act: 'postpone',
            due: task.due,
          }),
      ),
    hand: (personId: string) =>
      withCurrent(
        (task) =>
          void did(task, { act: 'handOver', personId }, `Handed over to ${store.personName(personId)}`, {
            act: 'handOver',
            personId: task.assigneeId ?? store.me?.id,
          }),
      ),
    /** Takes the chosen task from the queue, or the first that lies there. */
    pull(): void {
      const task = inQueue.value ? current.value : queued.value[0]
      if (!may.value || !task) return
      currentId.value = task.id
      void did(task, { act: 'pull' }, 'Task is now yours', { act: 'return' })
    },
    putBack: () =>
      withCurrent((task) => {
        if (task.queue && !inQueue.value) void did(task, { act: 'return' }, 'Returned to queue', { act: 'pull' })
      }),
    outcome: () =>
      withCurrent(() => {
        if (!inQueue.value) mode.value = asks.value ? 'answer' : 'outcome'
      }),
    open: (which: 'later' | 'hand') => withCurrent(() => (mode.value = which)),
    close: () => void (mode.value = null),
    undo: () => void last.value?.(),
  })
}

export type TaskActs = ReturnType<typeof useTaskActs>
