import { useEventListener } from '@vueuse/core'
import { count } from '#core/language/counts'
import { sayProblem } from '#core/language/problems'
import { atEnd, pasteSteps, stepOf, stepsToText } from '#core/rules/edit'
import { isTyping, useKeys } from '~/shared/keys/useKeys'
import { useSpoken } from '~/shared/keys/useSpoken'
import { useNotices } from '~/shared/stores/notices'
import type { RuleDraft } from './useRuleDraft'

/** The step whose line holds the focus. */
const stepInFocus = (): string | null => {
  const line = document.activeElement?.closest<HTMLElement>('[data-line^="step:"]')
  return line?.dataset.line?.slice('step:'.length) ?? null
}
/** The way in which the focus is; `null` for the rule itself. */
const branchInFocus = (): string | null =>
  document.activeElement?.closest<HTMLElement>('[data-line^="branch:"]')?.dataset.line?.slice('branch:'.length) ?? null

/** The sheet by keyboard: moving, removing, undoing and adding steps; and steps as text, to and from other rules. */
export function useSheetKeys(
  props: { readonly draft: RuleDraft; readonly editable: boolean },
  {
    open,
    remove,
    shift,
  }: {
    readonly open: (path: string, param: string) => void
    readonly remove: (path: string) => void
    readonly shift: (id: string, by: -1 | 1) => Promise<void>
  },
): void {
  const spoken = useSpoken()
  useEventListener('keydown', (event: KeyboardEvent) => {
    if (!props.editable || isTyping(event.target) || document.querySelector('[data-pop], [role=dialog]')) return
    const id = stepInFocus()
    if (event.altKey && (event.key === 'ArrowUp' || event.key === 'ArrowDown') && id) {
      event.preventDefault()
      void shift(id, event.key === 'ArrowUp' ? -1 : 1)
    } else if ((event.ctrlKey || event.metaKey) && event.key.toLowerCase() === 'z') {
      event.preventDefault()
      if (event.shiftKey) props.draft.redo()
      else props.draft.undo()
    } else if ((event.ctrlKey || event.metaKey) && event.key.toLowerCase() === 'y') {
      event.preventDefault()
      props.draft.redo()
    } else if (event.key === 'Delete' && id) {
      event.preventDefault()
      remove(`step:${id}`)
    }
  })
  const adding = (path: () => string, param: string) => (): false | undefined => {
    if (!props.editable) return false
    open(path(), param)
    return undefined
  }
  useKeys({
    w: adding(() => 'add:trigger', 'kind'),
    i: adding(() => `add:${props.draft.document.value.conditions.id}`, 'condition'),
    '/': adding(() => {
      const into = branchInFocus()
      return into === null ? 'add:step' : `add:step:${into}`
    }, 'kind'),
  })
  const copyStep = (event: ClipboardEvent, cut: boolean): void => {
    const id = isTyping(event.target) || String(getSelection()) !== '' ? null : stepInFocus()
    const step = id === null ? null : stepOf(props.draft.document.value, id)?.step
    if (!step) return
    event.clipboardData?.setData('text/plain', stepsToText([step]))
    event.preventDefault()
    if (cut && props.editable) remove(`step:${step.id}`)
  }
  useEventListener('copy', (event: ClipboardEvent) => copyStep(event, false))
  useEventListener('cut', (event: ClipboardEvent) => copyStep(event, true))
  useEventListener('paste', (event: ClipboardEvent) => {
    const text = event.clipboardData?.getData('text/plain') ?? ''
    if (!props.editable || isTyping(event.target) || !text.includes('sky-lever-steps')) return
    event.preventDefault()
    const behind = stepOf(props.draft.document.value, stepInFocus() ?? '')
    const pasted = pasteSteps(
      props.draft.document.value,
      text,
      behind ? { branch: behind.branch?.id ?? null, at: behind.at + 1 } : atEnd(branchInFocus()),
    )
    if (pasted.ok) {
      props.draft.set(pasted.value.rule)
      spoken.say(`${count(pasted.value.ids.length, 'step')} pasted`)
    } else useNotices().tell({ tone: 'wrong', title: 'Steps not pasted', text: sayProblem(pasted.problem) })
  })
}
