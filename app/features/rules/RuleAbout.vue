<script setup lang="ts">
import type { RuleDraft } from './useRuleDraft'

/** What the rule is for, in her own words: kept with it, and found by the search in the list. */
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
</script>

<template>
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
</template>
