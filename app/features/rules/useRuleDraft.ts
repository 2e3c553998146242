import { useEventListener } from '@vueuse/core'
import { checkRule } from '#core/rules/check'
import type { RuleDocument } from '#core/rules/document'
import type { Evidence } from '~~/server/views/evidence'
import type { FindingLine } from '~~/server/views/preflight'
import { problemOf, sayApiProblem, send } from '~/shared/api/api'
import { useCalm } from '~/shared/live/useCalm'
import { useLive } from '~/shared/live/useLive'
import { useSpoken } from '~/shared/keys/useSpoken'
import { useCatalogue } from '~/shared/stores/catalogue'
import { useNotices } from '~/shared/stores/notices'
import { loadEngines } from './engines'
import { ruleDraft, type SavedDraft } from './ruleDraft'

const CONFLICT = 409

/** A rule's draft on its page: saved on the server, kept in the browser meanwhile, weighed on her records. */
export function useRuleDraft(id: number, start: SavedDraft, editable: boolean) {
  const catalogue = useCatalogue()
  const notices = useNotices()
  let leaving = false
  if (import.meta.client) useEventListener(window, 'beforeunload', () => (leaving = true))
  const draft = ruleDraft(id, start, editable, {
    save: (document, rev) => send('PUT', `/api/v1/rules/${id}/draft`, { document, rev }),
    refused(error) {
      const problem = problemOf(error)
      notices.tell({ tone: 'wrong', title: problem.title, text: sayApiProblem(problem) })
      return problem.status === CONFLICT
    },
    evidence: (document) => send<Evidence>('POST', '/api/v1/evidence', { document }).catch(() => null),
    preflight: (document) =>
      send<{ findings: readonly FindingLine[] }>('POST', '/api/v1/preflight', { ruleId: id, document }).then(
        (answer) => answer.findings,
        () => null,
      ),
    storage: {
      getItem: (key) => localStorage.getItem(key),
      setItem: (key, value) => localStorage.setItem(key, value),
      removeItem: (key) => localStorage.removeItem(key),
    },
    leaving: () => leaving,
  })
  /** What is still to be done, known at once: the same check as the server's, on what stands on the sheet now. */
  const loaded = shallowRef(draft.document.value)
  const findings = computed(() => (loaded.value, checkRule(draft.document.value, catalogue.catalogue)))
  // What was written just now may need more to be checked than what stood here first.
  watch(draft.document, async (document) => {
    await loadEngines(document)
    loaded.value = document
  })
  onMounted(() => {
    draft.takeUp()
    void draft.weigh()
  })
  const calmly = useCalm(draft.weigh)
  useLive((message) => {
    const { object } = draft.document.value
    if (message.about === 'records' && message.refs.some((ref) => ref.object === object)) calmly()
  }, calmly)

  const { say } = useSpoken()
  /** Tells those who do not see the sheet what an edit changed on it. */
  async function tell(before: RuleDocument, after: RuleDocument, how: 'Undone' | 'Redone' | null): Promise<void> {
    const { diffRules, sayChanges } = await import('#core/rules/diff')
    const changes = diffRules(before, after, catalogue.catalogue)
    // What was chosen or added has the focus and is read with it; what went or moved is seen only.
    const heard = sayChanges(how ? changes : changes.filter((one) => one.how === 'removed' || one.how === 'moved'))
    if (heard !== '') say(how ? `${how}. ${heard}` : heard)
  }
  function told(act: () => void, how: 'Undone' | 'Redone' | null = null): void {
    const before = draft.document.value
    act()
    const after = draft.document.value
    // Where the words for it cannot be fetched, the edit stands all the same.
    if (after !== before) tell(before, after, how).catch(() => undefined)
  }
  return {
    ...draft,
    findings,
    set: (next: RuleDocument) => told(() => draft.set(next)),
    undo: () => told(draft.undo, 'Undone'),
    redo: () => told(draft.redo, 'Redone'),
  }
}

export type RuleDraft = ReturnType<typeof useRuleDraft>
