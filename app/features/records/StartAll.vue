<script setup lang="ts">
import { count } from '#core/language/counts'
import type { Group } from '#core/conditions/document'
import type { Value } from '#core/language/value'
import { OBJECT_WORDS, type ObjectKind } from '#core/records/kinds'
import type { StartButton } from '~~/server/views/starts'
import { send, attempt } from '~/shared/api/api'
import { useNotices } from '~/shared/stores/notices'
import StartForm from './StartForm.vue'
import { useLiveQuery } from '~/shared/live/useLiveQuery'

/** Starts a rule by its button for all records that are looked at. */
const props = defineProps<{ object: ObjectKind; filter: Group; words: string; matched: number }>()
const emit = defineEmits<{ close: [] }>()
const { data } = await useLiveQuery('/api/v1/manual-runs/:object', { params: { object: props.object } })
const chosen = ref<StartButton | null>(null)
async function go(answers: Record<string, Value>): Promise<void> {
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
  if (!made) return
  useNotices().tell({
    tone: 'rule',
    title: one.button,
    text: `Running for ${count(made.total, props.object)}.`,
  })
  emit('close')
}
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
  <template v-else>
    <p class="quiet mb-1">For all {{ count(matched, object) }} in this list</p>
    <ul v-if="data?.buttons.length" class="space-y-1">
      <li v-for="one in data.buttons" :key="`${one.ruleId} ${one.trigger}`">
        <button type="button" class="word" @click="chosen = one">{{ one.button }}</button>
        <span class="quiet">{{ one.ruleName }}</span>
      </li>
    </ul>
    <p v-else>
      No rule can be run by hand for {{ OBJECT_WORDS[object].many }}. Add the trigger “someone runs it by hand” to a
      rule.
    </p>
  </template>
</template>
