<script setup lang="ts">
import { watchDebounced } from '@vueuse/core'
import { capital } from '#core/language/nouns'
import { OBJECT_WORDS, type RecordRef } from '#core/records/kinds'
import { placedSteps } from '#core/rules/tree'
import { attempt, send } from '~/shared/api/api'
import LetterFrame from '~/shared/messages/LetterFrame.vue'
import RecordPicker from '~/shared/record/RecordPicker.vue'
import PopOver from '~/shared/words/PopOver.vue'
import type { RuleDraft } from './useRuleDraft'

/**
 * What a rule sends as it would read for one of its records: messages, to whom, when, and what would hold them back;
 * requests.
 */
const props = defineProps<{ draft: RuleDraft }>()
const rule = computed(() => props.draft.document.value)
const steps = computed(() => placedSteps(rule.value).filter(({ step }) => step.kind === 'sendMessage'))
const requestSteps = computed(() => placedSteps(rule.value).filter(({ step }) => step.kind === 'webRequest'))
interface Asked {
  label: string
  method: string
  url: string
  body: string | null
  problem: string | null
}
const requests = shallowRef<Asked[]>([])
const records = computed(() => props.draft.evidence.value?.rows ?? [])
const chosen = ref<RecordRef | null>(null)
const of = computed((): RecordRef | null => {
  const [first] = records.value
  return chosen.value ?? (first && rule.value.object !== 'none' ? { object: rule.value.object, id: first.id } : null)
})
interface Letter {
  contact: string
  address: string | null
  from: string | null
  subject: string
  text: string
  html: string
  language: string
  says: string
  goes: 'now' | 'later' | 'never'
}
const found = shallowRef<{ label: string; letters: Letter[]; says: string }[]>([])
const choosing = ref(false)
async function look(): Promise<void> {
  const ref = of.value
  if (!ref) return
  const all = await Promise.all(
    steps.value.map(async ({ step, label }) => {
      const read = await attempt(() =>
        send<{ letters: Letter[]; says: string }>('POST', '/api/v1/message-previews', { ref, params: step.params }),
      )
      return read ? [{ label, ...read }] : []
    }),
  )
  found.value = all.flat()
  const asked = await Promise.all(
    requestSteps.value.map(async ({ step, label }) => {
      const read = await attempt(() =>
        send<Omit<Asked, 'label'>>('POST', '/api/v1/web-request-previews', { ref, params: step.params }),
      )
      return read ? [{ label, ...read }] : []
    }),
  )
  requests.value = asked.flat()
}
const asked = computed(() =>
  JSON.stringify([of.value, [...steps.value, ...requestSteps.value].map(({ step }) => step.params)]),
)
watchDebounced(asked, look, { debounce: 250 })
onMounted(look)
</script>

<template>
  <div>
    <p class="font-serif text-[16px]">
      For
      <button type="button" class="word" data-word="letter/record" @click="choosing = true">
        {{
          of
            ? (records.find((one) => one.id === of?.id)?.values.name ?? `${OBJECT_WORDS[of.object].one} ${of.id}`)
            : `a ${OBJECT_WORDS[rule.object].one}…`
        }}
      </button>
    </p>
    <PopOver v-if="choosing" anchor="[data-word='letter/record']" label="Record" @close="choosing = false">
      <RecordPicker
        :label="OBJECT_WORDS[rule.object].One"
        :placeholder="`Search ${OBJECT_WORDS[rule.object].many}`"
        :fits="(ref) => ref.object === rule.object"
        :hint="() => ''"
        @pick="((chosen = $event), (choosing = false))"
      />
    </PopOver>
    <template v-for="one in found" :key="one.label">
      <p v-if="one.says" class="mt-3 text-brick">Step {{ one.label }}: {{ one.says }}</p>
      <article
        v-for="(letter, i) in one.letters"
        :key="i"
        class="mt-3 rounded-[3px] border border-hair bg-paper p-3"
        data-letter
      >
        <p class="quiet">
          Step {{ one.label }}, to {{ letter.contact }}<template v-if="letter.address"> ({{ letter.address }})</template
          ><template v-if="letter.from">, from {{ letter.from }}</template
          ><template v-if="letter.language">, in {{ letter.language }}</template>
        </p>
        <p v-if="letter.subject" class="mt-1 font-serif text-[17px]">{{ letter.subject }}</p>
        <LetterFrame v-if="letter.subject" class="mt-1" :html="letter.html" :title="`Email to ${letter.contact}`" />
        <p v-else class="mt-1 break-words whitespace-pre-line">{{ letter.text }}</p>
        <p class="mt-2" :class="letter.goes === 'now' ? 'quiet' : letter.goes === 'later' ? 'text-clay' : 'text-brick'">
          {{ capital(letter.says) }}
        </p>
      </article>
    </template>
    <article
      v-for="one in requests"
      :key="one.label"
      class="mt-3 rounded-[3px] border border-hair bg-paper p-3"
      data-request
    >
      <p class="quiet">Step {{ one.label }}, web request</p>
      <p v-if="one.problem" class="text-brick">{{ one.problem }}</p>
      <template v-else>
        <p class="mt-1 font-mono text-[13px] break-all">{{ one.method }} {{ one.url }}</p>
        <pre v-if="one.body" class="mt-1 overflow-auto text-[13px] whitespace-pre-wrap">{{ one.body }}</pre>
      </template>
    </article>
  </div>
</template>
