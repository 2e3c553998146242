<script setup lang="ts">
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
const { data } = await useLiveQuery('/api/v1/starts/:object', { params: { object: props.object } })
const chosen = ref<StartButton | null>(null)
async function go(answers: Record<string, Value>): Promise<void> {
  const one = chosen.value
  if (!one) return
  const made = await attempt(() =>
    send<{ total: number }>('POST', `/api/v1/starts/${props.object}`, {
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
    text: `Started for ${made.total.toLocaleString('en')} ${made.total === 1 ? OBJECT_WORDS[props.object].one : OBJECT_WORDS[props.object].many}, one after the other.`,
  })
  emit('close')
}
</script>

<template>
  <StartForm
    v-if="chosen"
    :start="chosen"
    :object="object"
    :act="`Start for ${matched.toLocaleString('en')}`"
    @go="go"
    @close="chosen = null"
  />
  <template v-else>
    <p class="quiet mb-1">For all {{ matched.toLocaleString('en') }} that are seen</p>
    <ul v-if="data?.buttons.length" class="space-y-1">
      <li v-for="one in data.buttons" :key="`${one.ruleId} ${one.trigger}`">
        <button type="button" class="word" @click="chosen = one">{{ one.button }}</button>
        <span class="quiet">{{ one.ruleName }}</span>
      </li>
    </ul>
    <p v-else>No rule that is on has a button for these. Give one the start “somebody starts it by hand”.</p>
  </template>
</template>
