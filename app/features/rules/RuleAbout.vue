<script setup lang="ts">
import { FOLDER_MOST, LABELS_MOST } from '#core/rules/document'
import { vTyped } from '~/shared/keys/typed'
import { useLiveQuery } from '~/shared/live/useLiveQuery'
import type { RuleDraft } from './useRuleDraft'

/** What the rule is for, in her own words, and where it is found in the list. */
const props = defineProps<{ draft: RuleDraft; editable: boolean }>()
const MOST = 4000
const kept = computed(() => props.draft.document.value.description)
/** What is being typed; it goes to the draft when the field is left. */
const typed = ref<string | null>(null)
function keep(): void {
  if (typed.value !== null && typed.value.trim() !== kept.value)
    props.draft.set({ ...props.draft.document.value, description: typed.value.trim() })
  typed.value = null
}
const folder = computed(() => props.draft.document.value.folder ?? '')
const labels = computed(() => props.draft.document.value.labels ?? [])
/** Folders and labels that other rules have, to choose from. */
const { data, refresh } = useLiveQuery('/api/v1/rules', {
  key: 'rules-to-name',
  lazy: true,
  browserOnly: true,
  later: true,
})
const known = (of: (rule: { folder: string | null; labels: readonly string[] }) => readonly string[]) =>
  [...new Set((data.value?.rules ?? []).flatMap(of))].sort((a, b) => a.localeCompare(b))
const folders = computed(() => known((rule) => (rule.folder === null ? [] : [rule.folder])))
const offered = computed(() => known((rule) => rule.labels).filter((label) => !labels.value.includes(label)))
function setFolder(event: Event): void {
  const value = (event.target as HTMLInputElement).value.trim()
  const { folder: _was, ...rest } = props.draft.document.value
  if (value !== folder.value) props.draft.set(value === '' ? rest : { ...rest, folder: value })
}
function setLabels(next: readonly string[]): void {
  const { labels: _was, ...rest } = props.draft.document.value
  props.draft.set(next.length === 0 ? rest : { ...rest, labels: next })
}
function addLabels(event: Event): void {
  const input = event.target as HTMLInputElement
  const given = input.value
    .split(',')
    .map((one) => one.trim())
    .filter((one) => one !== '')
  input.value = ''
  const next = [...new Set([...labels.value, ...given])].slice(0, LABELS_MOST)
  if (next.length !== labels.value.length) setLabels(next)
}
</script>

<template>
  <div class="ml-[124px] max-[499px]:ml-[82px]">
    <textarea
      v-if="editable"
      rows="1"
      class="quiet -mx-1 mt-4 mb-2 [field-sizing:content] w-full resize-none rounded-[3px] border border-transparent bg-transparent px-1 hover:border-hair focus:border-hair"
      aria-label="Description"
      placeholder="Add a description"
      :maxlength="MOST"
      :value="typed ?? kept"
      data-about
      @input="typed = ($event.target as HTMLTextAreaElement).value"
      @blur="keep"
      @keydown.enter.exact.prevent="($event.target as HTMLTextAreaElement).blur()"
      @keydown.esc.prevent="((typed = null), ($event.target as HTMLTextAreaElement).blur())"
    />
    <p v-else-if="kept !== ''" class="quiet mt-4 mb-2 whitespace-pre-line">{{ kept }}</p>
    <p
      v-if="editable || folder || labels.length"
      class="quiet mb-2 flex flex-wrap items-baseline gap-x-2 gap-y-1"
      role="group"
      aria-label="Folder and labels"
      @focusin.once="refresh"
    >
      <label v-if="editable"
        >Folder
        <input
          v-typed="folder"
          class="entry w-40"
          list="rule-folders"
          :maxlength="FOLDER_MOST"
          placeholder="None"
          data-folder
          @change="setFolder"
      /></label>
      <span v-else-if="folder">Folder {{ folder }}</span>
      <span v-if="editable || labels.length" class="ml-2">Labels</span>
      <span v-for="label in labels" :key="label" class="rounded-[3px] bg-slate-t px-1.5 text-slate"
        >{{ label
        }}<button
          v-if="editable"
          type="button"
          class="ml-1 font-semibold"
          :aria-label="`Remove label ${label}`"
          @click="setLabels(labels.filter((one) => one !== label))"
        >
          ×
        </button></span
      >
      <input
        v-if="editable && labels.length < LABELS_MOST"
        class="entry w-32"
        list="rule-labels"
        :maxlength="FOLDER_MOST"
        placeholder="Add label"
        aria-label="Add label"
        @change="addLabels"
        @keydown.enter.prevent="addLabels"
      />
      <datalist id="rule-folders"><option v-for="one in folders" :key="one" :value="one" /></datalist>
      <datalist id="rule-labels"><option v-for="one in offered" :key="one" :value="one" /></datalist>
    </p>
  </div>
</template>
