import { useDebounceFn } from '@vueuse/core'
import { ref, shallowRef } from 'vue'
import type { RuleDocument } from '#core/rules/document'
import type { Evidence } from '~~/server/views/evidence'
import type { FindingLine } from '~~/server/views/preflight'

export type SaveState = 'saved' | 'saving' | 'waiting' | 'conflict' | 'offline'

/** A draft as the server holds it; `rev` grows with each saving. */
export interface SavedDraft {
  readonly draft: RuleDocument
  readonly rev: number
}

/** What writing a rule needs from outside. */
export interface DraftPorts {
  /** Saves over revision `rev`; throws when somebody else saved meanwhile, or the server cannot be reached. */
  readonly save: (document: RuleDocument, rev: number) => Promise<{ readonly rev: number }>
  /** Whether what was thrown says that somebody else saved; tells the person in either case. */
  readonly refused: (error: unknown) => boolean
  readonly evidence: (document: RuleDocument) => Promise<Evidence | null>
  readonly preflight: (document: RuleDocument) => Promise<readonly FindingLine[] | null>
  /** Where unsaved work is kept, so that a reload loses nothing. */
  readonly storage: Pick<Storage, 'getItem' | 'setItem' | 'removeItem'>
  /** Whether the page is being left: another one may have been made already, from what the server held before. */
  readonly leaving: () => boolean
}

const HISTORY_MOST = 200
const SAVE_AFTER_MS = 400
const WEIGH_AFTER_MS = 150

/** A rule's draft as it is being written: every edit is kept here at once, saved soon after, and can be undone. */
export function ruleDraft(id: number, start: SavedDraft, editable: boolean, ports: DraftPorts) {
  const document = shallowRef<RuleDocument>(start.draft)
  const save = ref<SaveState>('saved')
  const evidence = shallowRef<Evidence | null>(null)
  /** What preflight has to say about what stands on the sheet. */
  const noted = shallowRef<readonly FindingLine[]>([])
  const weighing = ref(false)
  const past = shallowRef<readonly RuleDocument[]>([])
  const future = shallowRef<readonly RuleDocument[]>([])
  const key = `sky-lever-rule-${id}`
  let rev = start.rev
  let asked = 0
  /** The saving that is under way. */
  let busy: Promise<void> | null = null

  async function weigh(): Promise<void> {
    const mine = ++asked
    weighing.value = true
    const looked = document.value
    // What it comes to is shown as soon as it is known; reading it against all other rules may take longer.
    void ports.preflight(looked).then((findings) => {
      if (findings && mine === asked) noted.value = findings.filter((finding) => finding.kind !== 'unfinished')
    })
    const found = await ports.evidence(looked)
    if (mine !== asked) return
    weighing.value = false
    if (found) evidence.value = found
  }

  const keep = (what: RuleDocument): void => ports.storage.setItem(key, JSON.stringify({ rev, document: what }))

  async function saveOnce(): Promise<void> {
    const sent = document.value
    save.value = 'saving'
    try {
      const answer = await ports.save(sent, rev)
      rev = answer.rev
      save.value = document.value === sent ? 'saved' : 'waiting'
      if (ports.leaving()) keep(sent)
      else if (save.value === 'saved') ports.storage.removeItem(key)
    } catch (error) {
      save.value = ports.refused(error) ? 'conflict' : 'offline'
    }
  }

  async function store(): Promise<void> {
    while (busy) await busy
    if (save.value !== 'waiting') return
    busy = saveOnce()
    await busy
    busy = null
    // What was written meanwhile goes after it.
    await store()
  }

  const storeSoon = useDebounceFn(store, SAVE_AFTER_MS)
  const weighSoon = useDebounceFn(weigh, WEIGH_AFTER_MS)

  function show(next: RuleDocument): void {
    document.value = next
    // Over somebody else's work nothing is saved any more; what is typed stays in this browser.
    if (save.value !== 'conflict') save.value = 'waiting'
    keep(next)
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
    if (save.value === 'offline') save.value = 'waiting'
    await store()
    return save.value === 'saved'
  }

  /**
   * Takes up what a reload left in this browser: an edit that is not saved yet, or one whose saving overtook the page.
   * When somebody else has saved since, both are there, and whoever wrote it says which is kept.
   */
  function takeUp(): void {
    const text = ports.storage.getItem(key)
    if (!text || !editable) return
    const kept = JSON.parse(text) as { rev: number; document: RuleDocument }
    if (kept.rev === rev) {
      set(kept.document)
      return
    }
    if (kept.rev < rev) {
      if (JSON.stringify(kept.document) === JSON.stringify(document.value)) ports.storage.removeItem(key)
      else {
        document.value = kept.document
        save.value = 'conflict'
      }
      return
    }
    ports.storage.removeItem(key)
    rev = kept.rev
    document.value = kept.document
  }

  /** Goes on with what somebody else saved; what was written here comes back with undo. */
  function yieldTo(theirs: RuleDocument, theirRev: number): void {
    past.value = [...past.value.slice(1 - HISTORY_MOST), document.value]
    future.value = []
    rev = theirRev
    document.value = theirs
    save.value = 'saved'
    ports.storage.removeItem(key)
    void weighSoon()
  }

  return {
    noted,
    weigh,
    rev: () => rev,
    document,
    save,
    evidence,
    weighing,
    past,
    future,
    set,
    undo,
    redo,
    settle,
    takeUp,
    yieldTo,
  }
}
