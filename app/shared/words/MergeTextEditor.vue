<script setup lang="ts">
import {
  autocompletion,
  completionKeymap,
  completionStatus,
  startCompletion,
  type CompletionContext,
} from '@codemirror/autocomplete'
import { defaultKeymap, history, historyKeymap } from '@codemirror/commands'
import { EditorState, Prec } from '@codemirror/state'
import {
  Decoration,
  EditorView,
  keymap,
  MatchDecorator,
  placeholder,
  ViewPlugin,
  WidgetType,
  type DecorationSet,
  type ViewUpdate,
} from '@codemirror/view'
import { mergeFields } from '#core/rules/merge'
import type { ObjectKind } from '#core/records/kinds'
import { useHere } from './useHere'

/** A text with merge fields, which stand in it as `{{deal.name}}` and show as chips. */
const props = defineProps<{ text: string; object: ObjectKind; lines: 'one' | 'many'; most: number; label: string }>()
const emit = defineEmits<{ set: [text: string] }>()
const here = useHere()
const fields = computed(() => mergeFields(props.object, here.value))
const host = useTemplateRef<HTMLElement>('host')
const length = ref(props.text.length)
let view: EditorView | null = null

class Chip extends WidgetType {
  constructor(
    private readonly name: string,
    private readonly label: string | undefined,
  ) {
    super()
  }

  override eq(other: Chip): boolean {
    return other.name === this.name && other.label === this.label
  }

  override toDOM(): HTMLElement {
    const chip = document.createElement('span')
    chip.className = 'chip'
    chip.textContent = this.label ?? `${this.name}?`
    return chip
  }
}

const decorator = new MatchDecorator({
  regexp: /\{\{\s*([A-Za-z][\w-]*\.[A-Za-z\d]+)\s*\}\}/g,
  decoration: (found) =>
    Decoration.replace({
      widget: new Chip(found[1] ?? '', fields.value.find((field) => field.name === found[1])?.label),
    }),
})
const chips = ViewPlugin.fromClass(
  class {
    decorations: DecorationSet
    constructor(editor: EditorView) {
      this.decorations = decorator.createDeco(editor)
    }
    update(update: ViewUpdate) {
      this.decorations = decorator.updateDeco(update, this.decorations)
    }
  },
  {
    decorations: (plugin) => plugin.decorations,
    provide: (plugin) => EditorView.atomicRanges.of((editor) => editor.plugin(plugin)?.decorations ?? Decoration.none),
  },
)

function complete(context: CompletionContext) {
  const before = context.matchBefore(/\{\{?[\w. ]*/)
  if (!before && !context.explicit) return null
  const from = before?.from ?? context.pos
  return {
    from,
    filter: false,
    options: fields.value
      .filter((field) =>
        field.label.toLowerCase().includes((before?.text ?? '').replace(/^\{+/, '').trim().toLowerCase()),
      )
      .slice(0, 40)
      .map((field) => ({ label: field.label, detail: `{{${field.name}}}`, apply: `{{${field.name}}}` })),
  }
}

const apply = () => emit('set', view?.state.doc.toString() ?? props.text)

onMounted(async () => {
  await nextTick()
  if (!host.value) return
  const takes = {
    key: props.lines === 'one' ? 'Enter' : 'Ctrl-Enter',
    run: (editor: EditorView) => {
      const status = completionStatus(editor.state)
      if (status === 'active') return false
      // The list of fields is on its way: Enter is meant for it and not for the whole text.
      if (status === 'pending' && /\{\{?[\w. ]*$/.test(editor.state.sliceDoc(0, editor.state.selection.main.head)))
        return true
      apply()
      return true
    },
  }
  view = new EditorView({
    parent: host.value,
    state: EditorState.create({
      doc: props.text,
      extensions: [
        Prec.high(keymap.of([takes])),
        history(),
        keymap.of([...completionKeymap, ...defaultKeymap, ...historyKeymap]),
        chips,
        autocompletion({ override: [complete], icons: false, interactionDelay: 0 }),
        EditorView.lineWrapping,
        placeholder('Type your text. Press { to insert a field'),
        EditorView.contentAttributes.of({ 'aria-label': props.label, 'data-merge': '' }),
        EditorState.transactionFilter.of((change) =>
          (props.lines === 'one' && change.newDoc.lines > 1) || change.newDoc.length > props.most ? [] : change,
        ),
        EditorView.updateListener.of((update) => {
          length.value = update.state.doc.length
        }),
      ],
    }),
  })
  view.dispatch({ selection: { anchor: view.state.doc.length } })
  requestAnimationFrame(() => view?.focus())
})
onBeforeUnmount(() => view?.destroy())

function insertField(): void {
  if (!view) return
  view.focus()
  view.dispatch(view.state.replaceSelection('{'))
  startCompletion(view)
}
</script>

<template>
  <form @submit.prevent="apply">
    <div ref="host" class="entry merge-text p-0!" :class="lines === 'many' && 'min-h-28'" />
    <p class="mt-2 flex items-center justify-between gap-3">
      <button class="button" type="submit">Save</button>
      <button class="button" type="button" @click="insertField">Insert field <kbd>{</kbd></button>
      <span class="quiet ml-auto"
        >{{ length }}/{{ most }} · <kbd>{{ lines === 'one' ? 'Enter' : 'Ctrl Enter' }}</kbd> to save</span
      >
    </p>
  </form>
</template>

<style>
.merge-text .cm-editor {
  outline: none;
}
.merge-text .cm-content {
  font: 400 16px/1.5 var(--font-serif);
  padding: 6px 8px;
  caret-color: var(--ink);
}
.merge-text .cm-line {
  padding: 0;
}
.merge-text .cm-cursor {
  border-left-color: var(--ink);
}
.cm-tooltip.cm-tooltip-autocomplete {
  background: var(--raised);
  border: 1px solid var(--ink);
  border-radius: 4px;
  z-index: 60;
}
.cm-tooltip.cm-tooltip-autocomplete > ul {
  font: 13px var(--font-sans);
  max-height: 220px;
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
