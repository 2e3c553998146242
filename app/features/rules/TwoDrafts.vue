<script setup lang="ts">
import type { RuleDocument } from '#core/rules/document'
import { attempt, read, send } from '~/shared/api/api'
import { once } from '~/shared/api/once'
import { useNotices } from '~/shared/stores/notices'
import type { RuleDraft } from './useRuleDraft'

/** Somebody else saved the rule while it was written here: both are kept, and she says where. */
const props = defineProps<{ ruleId: number; draft: RuleDraft }>()
const theirs = () => read<{ draft: RuleDocument; draftRev: number }>(`/api/v1/rules/${props.ruleId}`)

async function load(): Promise<void> {
  const found = await attempt(theirs)
  if (!found) return
  props.draft.yieldTo(found.draft, found.draftRev)
  useNotices().tell({ tone: 'plain', title: 'Their version is loaded', text: 'Undo brings your version back.' })
}
const copy = once(async (): Promise<void> => {
  const mine = props.draft.document.value
  const name = `${mine.name} (copy)`.slice(0, 200)
  const made = await attempt(async () => {
    const { id } = await send<{ id: number }>('POST', '/api/v1/rules', { name, object: mine.object })
    await send('PUT', `/api/v1/rules/${id}/draft`, { document: { ...mine, name }, rev: 1 })
    return id
  })
  const found = made === null ? null : await attempt(theirs)
  if (made === null || !found) return
  props.draft.yieldTo(found.draft, found.draftRev)
  useNotices().tell({
    tone: 'plain',
    title: `Saved as “${name}”`,
    text: 'This page shows their version.',
    to: `/rules/${made}`,
  })
})
</script>

<template>
  <p
    class="mb-3 flex flex-wrap items-baseline gap-x-3 gap-y-1 rounded-[3px] bg-brick-t px-3 py-2"
    role="alert"
    data-two
  >
    <span class="text-brick">Someone else changed this rule. Your changes are not saved.</span>
    <button type="button" class="word" data-copy-mine @click="copy">Save mine as a copy</button>
    <button type="button" class="word" data-load-theirs @click="load">Load their version</button>
  </p>
</template>
