import { useDebounceFn } from '@vueuse/core'
import { checkRule } from '#core/rules/check'
import type { RuleDocument } from '#core/rules/document'
import type { Evidence } from '~~/server/views/evidence'
import type { FindingLine } from '~~/server/views/preflight'
import { problemOf, sayApiProblem, send } from '~/shared/api/api'
import { useCalm } from '~/shared/live/useCalm'
import { useLive } from '~/shared/live/useLive'
import { useCatalogue } from '~/shared/stores/catalogue'
import { useNotices } from '~/shared/stores/notices'

export type SaveState = 'saved' | 'saving' | 'waiting' | 'conflict' | 'offline'

const HISTORY_MOST = 200
const SAVE_AFTER_MS = 400

/** A rule's draft as it is being written: every edit is kept here at once, saved soon after, and can be undone. */
export function useRuleDraft(
  id: number,
  start: { readonly draft: RuleDocument; readonly rev: number },
  editable: boolean,
) {
  const document = shallowRef<RuleDocument>(start.draft)
  const save = ref<SaveState>('saved')
  const evidence = shallowRef<Evidence | null>(null)
  /** What preflight has to say about what stands on the sheet. */
  const noted = shallowRef<readonly FindingLine[]>([])
  const weighing = ref(false)
  const catalogue = useCatalogue()
  /** What is still to be done, known at once: the same check as the server's, on what stands on the sheet now. */
  const findings = computed(() => checkRule(document.value, catalogue.catalogue))
  const past = shallowRef<readonly RuleDocument[]>([])
  const future = shallowRef<readonly RuleDocument[]>([])
  const key = `sky-lever-rule-${id}`
  let rev = start.rev
  let asked = 0
  let busy = false

  async function weigh(): Promise<void> {
    const mine = ++asked
    weighing.value = true
    const looked = document.value
    // What it comes to is shown as soon as it is known; reading it against all other rules may take longer.
    void send<{ findings: readonly FindingLine[] }>('POST', '/api/v1/preflight', { ruleId: id, document: looked }).then(
      (answer) => {
        if (mine === asked) noted.value = answer.findings.filter((finding) => finding.kind !== 'unfinished')
      },
      () => {},
    )
    const found = await send<Evidence>('POST', '/api/v1/evidence', { document: looked }).catch(() => null)
    if (mine !== asked) return
    weighing.value = false
    if (found) evidence.value = found
  }

  async function store(): Promise<void> {
    if (busy || save.value !== 'waiting') return
    busy = true
    const sent = document.value
    save.value = 'saving'
    try {
      const answer = await send<{ rev: number }>('PUT', `/api/v1/rules/${id}/draft`, { document: sent, rev })
      rev = answer.rev
      save.value = document.value === sent ? 'saved' : 'waiting'
      if (save.value === 'saved') localStorage.removeItem(key)
    } catch (error) {
      const problem = problemOf(error)
      save.value = problem.status === 409 ? 'conflict' : 'offline'
      useNotices().tell({ tone: 'wrong', title: problem.title, text: sayApiProblem(problem) })
    } finally {
      busy = false
    }
    if (save.value === 'waiting') await store()
  }

  const storeSoon = useDebounceFn(store, SAVE_AFTER_MS)
  const weighSoon = useDebounceFn(weigh, 150)

  function show(next: RuleDocument): void {
    document.value = next
    save.value = 'waiting'
    // Kept in the browser until the server has it, so that a reload in between loses nothing.
    localStorage.setItem(key, JSON.stringify({ rev, document: next }))
    void storeSoon()
    void weighSoon()
  }

  function set(next: RuleDocument): void {
    if (!editable || next === document.value) return
    past.value = [...past.value.slice(1 - HISTORY_MOST), document.value]
    future.value = []
    show(next)
  }

  function undo(): void {
    const before = past.value.at(-1)
    if (!before) return
    past.value = past.value.slice(0, -1)
    future.value = [document.value, ...future.value]
    show(before)
  }

  function redo(): void {
    const [after, ...rest] = future.value
    if (!after) return
    future.value = rest
    past.value = [...past.value, document.value]
    show(after)
  }

  /** Waits until everything typed is on the server. Answers whether it is. */
  async function settle(): Promise<boolean> {
    while (busy) await new Promise((resolve) => setTimeout(resolve, 20))
    if (save.value === 'offline') save.value = 'waiting'
    await store()
    return save.value === 'saved'
  }

  onMounted(() => {
    const kept = localStorage.getItem(key)
    if (kept && editable) {
      const { rev: keptRev, document: unsaved } = JSON.parse(kept) as { rev: number; document: RuleDocument }
      if (keptRev === rev) set(unsaved)
      else localStorage.removeItem(key)
    }
    void weigh()
  })
  const calmly = useCalm(weigh)
  useLive((message) => {
    if (message.about === 'records' && message.refs.some((ref) => ref.object === document.value.object)) calmly()
  }, calmly)

  return {
    noted,
    weigh,
    rev: () => rev,
    document,
    save,
    evidence,
    findings,
    weighing,
    past,
    future,
    set,
    undo,
    redo,
    settle,
  }
}

export type RuleDraft = ReturnType<typeof useRuleDraft>
