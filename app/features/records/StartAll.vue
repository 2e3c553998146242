<script setup lang="ts">
import { count, plural } from '#core/language/counts'
import type { Group } from '#core/conditions/document'
import type { Value } from '#core/language/value'
import { OBJECT_WORDS, type ObjectKind } from '#core/records/kinds'
import type { StartButton } from '~~/server/views/starts'
import { send, attempt } from '~/shared/api/api'
import { once } from '~/shared/api/once'
import { useCatalogue } from '~/shared/stores/catalogue'
import { useNotices } from '~/shared/stores/notices'
import StartForm from './StartForm.vue'
import { useLiveQuery } from '~/shared/live/useLiveQuery'

/** Starts a rule for all records that are looked at: by its button, or one that starts otherwise. */
const props = defineProps<{ object: ObjectKind; filter: Group; words: string; matched: number }>()
const emit = defineEmits<{ close: [] }>()
const { data } = await useLiveQuery('/api/v1/manual-runs/:object', { params: { object: props.object } })
const mayBuild = useCatalogue().may('build')
const chosen = ref<StartButton | null>(null)
/** A rule that starts otherwise, asked for once more before it runs for a whole list. */
const asked = ref<{ readonly ruleId: number; readonly ruleName: string } | null>(null)
function told(title: string, total: number): void {
  useNotices().tell({ tone: 'rule', title, text: `Running for ${count(total, props.object)}.` })
  emit('close')
}
const goOther = once(async (): Promise<void> => {
  const one = asked.value
  if (!one) return
  const made = await attempt(() =>
    send<{ total: number }>('POST', `/api/v1/rules/${one.ruleId}/existing`, {
      filter: props.filter,
      words: props.words,
    }),
  )
  if (made) told(one.ruleName, made.total)
})
const go = once(async (answers: Record<string, Value>): Promise<void> => {
  const one = chosen.value
  if (!one) return
  const made = await attempt(() =>
    send<{ total: number }>('POST', `/api/v1/manual-runs/${props.object}`, {
      rule: one.ruleId,
      trigger: one.trigger,
      filter: props.filter,
      words: props.words,
      answers,
    }),
  )
  if (made) told(one.button, made.total)
})
</script>

<template>
  <StartForm
    v-if="chosen"
    :start="chosen"
    :object="object"
    :act="`Run for ${count(matched, object)}`"
    @go="go"
    @close="chosen = null"
  />
  <div v-else-if="asked">
    <p>
      Run <b class="font-semibold">{{ asked.ruleName }}</b> for each of {{ count(matched, object) }} that
      {{ plural(matched, 'meets', 'meet') }} its conditions?
    </p>
    <div class="mt-3 flex gap-2">
      <button type="button" class="button main" data-run-other @click="goOther">Run</button>
      <button type="button" class="button" @click="asked = null">Cancel</button>
    </div>
  </div>
  <template v-else>
    <p class="quiet mb-1">For all {{ count(matched, object) }} in this list</p>
    <ul v-if="data?.buttons.length" class="space-y-1">
      <li v-for="one in data.buttons" :key="`${one.ruleId} ${one.trigger}`">
        <button type="button" class="word" @click="chosen = one">{{ one.button }}</button>
        <span class="quiet">{{ one.ruleName }}</span>
      </li>
    </ul>
    <template v-if="mayBuild && data?.others.length">
      <p class="part mt-2">Rules that start otherwise</p>
      <ul class="max-h-72 space-y-1 overflow-auto">
        <li v-for="one in data.others" :key="one.ruleId">
          <button type="button" class="word text-left" @click="asked = one">{{ one.ruleName }}</button>
          <span class="quiet block">{{ one.when }}</span>
        </li>
      </ul>
    </template>
    <p v-else-if="!data?.buttons.length">
      No rule can be run by hand for {{ OBJECT_WORDS[object].many }}. Add the trigger “someone runs it by hand” to a
      rule.
    </p>
  </template>
</template>
