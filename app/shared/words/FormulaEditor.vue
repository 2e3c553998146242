<script setup lang="ts">
import {
  acceptCompletion,
  autocompletion,
  completionKeymap,
  startCompletion,
  type Completion,
  type CompletionContext,
} from '@codemirror/autocomplete'
import { defaultKeymap, history, historyKeymap } from '@codemirror/commands'
import { EditorState, Prec, StateEffect, StateField } from '@codemirror/state'
import { Decoration, EditorView, keymap, placeholder, type DecorationSet } from '@codemirror/view'
import { LINKED_NAMES } from '#core/formulas/compile'
import '#core/formulas/formula'
import type { FormulaProblem } from '#core/formulas/formula'
import { FUNCTIONS } from '#core/formulas/functions'
import { sayType, typeOfField } from '#core/formulas/types'
import { isEitherWayLinkable } from '#core/records/record'
import type { ObjectKind } from '#core/records/kinds'
import { useCatalogue } from '~/shared/stores/catalogue'

/**
 * A formula as it is typed: fields, linked records and functions are offered, and what does not fit is marked at its
 * place.
 */
const props = defineProps<{ text: string; object: ObjectKind; problem: FormulaProblem | null; label: string }>()
const emit = defineEmits<{ set: [text: string] }>()
const store = useCatalogue()
const host = useTemplateRef<HTMLElement>('host')
let view: EditorView | null = null

const showProblem = StateEffect.define<FormulaProblem | null>()
const marks = StateField.define<DecorationSet>({
  create: () => Decoration.none,
  update(now, change) {
    let next = now.map(change.changes)
    for (const effect of change.effects) {
      if (!effect.is(showProblem)) continue
      const { length } = change.newDoc
      const found = effect.value
      const [from, to] = found ? [Math.max(0, Math.min(found.from, length - 1)), Math.min(found.to, length)] : [0, 0]
      next =
        found && to > from
          ? Decoration.set([Decoration.mark({ class: 'formula-wrong' }).range(from, to)])
          : Decoration.none
    }
    return next
  },
  provide: (field) => EditorView.decorations.from(field),
})

const fieldsOf = (object: ObjectKind): readonly Completion[] =>
  store.catalogue.fields(object).map((field) => ({
    label: field.key,
    detail: `${field.label}, ${sayType(typeOfField(field)).replace(/^an? /, '')}`,
    type: 'variable',
    boost: 2,
  }))
const linked = computed((): readonly Completion[] =>
  Object.entries(LINKED_NAMES)
    .filter(([, { object }]) => isEitherWayLinkable(props.object, object))
    .map(([name, { object, all }]) => ({
      label: name,
      detail: all ? `all linked ${name}` : `the main linked ${object}`,
      type: 'class',
      boost: 1,
    })),
)
const functions: readonly Completion[] = FUNCTIONS.map((one) => ({
  label: one.name,
  detail: one.does,
  type: 'function',
  apply: `${one.name}(${one.takes.endsWith('()') ? ')' : ''}`,
}))
const words: readonly Completion[] = [
  'if',
  'then',
  'else',
  'and',
  'or',
  'in',
  'between',
  'null',
  'for',
  'return',
  'some',
  'every',
  'satisfies',
].map((label) => ({ label, type: 'keyword' }))

function complete(context: CompletionContext) {
  const member = context.matchBefore(/[A-Za-z]\w*\.\w*/)
  if (member) {
    const [name = ''] = member.text.split('.')
    const found = Object.hasOwn(LINKED_NAMES, name) ? LINKED_NAMES[name] : undefined
    return found ? { from: member.from + name.length + 1, options: [...fieldsOf(found.object)] } : null
  }
  const quoted = context.matchBefore(/(\w+)\s*(?:=|!=|in \()\s*"[^"]*/)
  if (quoted) {
    const field = store.catalogue.field(props.object, /^\w+/.exec(quoted.text)?.[0] ?? '')
    if (!field || field.choices.length === 0) return null
    return {
      from: quoted.from + quoted.text.indexOf('"') + 1,
      options: field.choices.map((choice) => ({ label: choice.id, detail: choice.label })),
    }
  }
  const before = context.matchBefore(/[A-Za-z]\w*/)
  if (!before && !context.explicit) return null
  return {
    from: before?.from ?? context.pos,
    options: [...fieldsOf(props.object), ...linked.value, ...functions, ...words],
  }
}

onMounted(async () => {
  await nextTick()
  if (!host.value) return
  view = new EditorView({
    parent: host.value,
    state: EditorState.create({
      doc: props.text,
      extensions: [
        Prec.high(keymap.of([{ key: 'Tab', run: acceptCompletion }])),
        history(),
        keymap.of([...completionKeymap, ...defaultKeymap, ...historyKeymap]),
        marks,
        autocompletion({ override: [complete], icons: false, interactionDelay: 0 }),
        EditorView.lineWrapping,
        placeholder('For example today() - closeDate. Ctrl Space for suggestions'),
        EditorView.contentAttributes.of({ 'aria-label': props.label, 'data-formula': '', spellcheck: 'false' }),
        EditorState.transactionFilter.of((change) => (change.newDoc.length > 2000 ? [] : change)),
        EditorView.updateListener.of((update) => {
          if (update.docChanged) emit('set', update.state.doc.toString())
        }),
      ],
    }),
  })
  view.dispatch({ selection: { anchor: view.state.doc.length } })
  requestAnimationFrame(() => view?.focus())
})
onBeforeUnmount(() => view?.destroy())
watch(
  () => props.problem,
  (now) => view?.dispatch({ effects: showProblem.of(now) }),
)

function insert(text: string): void {
  if (!view) return
  view.focus()
  view.dispatch(view.state.replaceSelection(text))
}
defineExpose({
  insert,
  offer: () => {
    view?.focus()
    if (view) startCompletion(view)
  },
})
</script>

<template>
  <div ref="host" class="entry formula p-0!" :data-wrong="problem !== null || undefined" />
</template>

<style>
.formula .cm-editor {
  outline: none;
}
.formula:focus-within {
  outline: 2px solid var(--violet);
  outline-offset: 1px;
}
.formula .cm-content {
  font: 500 16px/1.6 var(--font-serif);
  padding: 8px 10px;
  min-height: 84px;
  caret-color: var(--ink);
}
.formula .cm-line {
  padding: 0;
}
.formula .cm-cursor {
  border-left-color: var(--ink);
}
.formula-wrong {
  background: var(--brick-t);
  text-decoration: underline wavy var(--brick);
  text-underline-offset: 4px;
}
.cm-tooltip.cm-tooltip-autocomplete {
  background: var(--raised);
  border: 1px solid var(--ink);
  border-radius: 4px;
  z-index: 60;
}
.cm-tooltip.cm-tooltip-autocomplete > ul {
  font: 13px var(--font-sans);
  max-height: 260px;
}
.cm-tooltip.cm-tooltip-autocomplete > ul > li {
  padding: 3px 8px;
  color: var(--ink);
}
.cm-tooltip.cm-tooltip-autocomplete > ul > li[aria-selected] {
  background: var(--violet-t);
  color: var(--ink);
}
.cm-completionDetail {
  color: var(--ink2);
  font-style: normal;
}
</style>
