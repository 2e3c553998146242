<script setup lang="ts">
import { sayInstant } from '#core/time/say'
import type { FindingLine } from '~~/server/views/preflight'
import { send, attempt } from '~/shared/api/api'
import { isTyping } from '~/shared/keys/useKeys'
import { useCatalogue } from '~/shared/stores/catalogue'

/** What preflight found: the words it is about, why, and what fixes it. F fixes, L lets it stand. */
const props = defineProps<{
  findings: readonly FindingLine[]
  editable: boolean
  /** Says of each which rule it is about. */ named?: boolean
}>()
const emit = defineEmits<{ look: [finding: FindingLine]; fix: [finding: FindingLine]; changed: [] }>()
const store = useCatalogue()
const open = computed(() => props.findings.filter((finding) => finding.accepted === null))
const stands = computed(() => props.findings.filter((finding) => finding.accepted !== null))
const WORDS = { error: 'Error', warning: 'Warning', info: 'Info' } as const
const MARKS = { error: 'stop', warning: 'time', info: 'outside' } as const
const letting = ref<string | null>(null)
const reason = ref('')
const idOf = (finding: FindingLine): string => `${finding.ruleId} ${finding.key}`

function begin(finding: FindingLine): void {
  reason.value = ''
  letting.value = idOf(finding)
}
async function letStand(finding: FindingLine): Promise<void> {
  if (reason.value.trim() === '') return
  if (
    await attempt(() =>
      send('POST', `/api/v1/rules/${finding.ruleId}/accepted-findings`, {
        key: finding.key,
        reason: reason.value.trim(),
      }),
    )
  ) {
    letting.value = null
    emit('changed')
  }
}
async function takeUp(finding: FindingLine): Promise<void> {
  if (
    await attempt(() =>
      send('DELETE', `/api/v1/rules/${finding.ruleId}/accepted-findings?key=${encodeURIComponent(finding.key)}`),
    )
  )
    emit('changed')
}
function key(finding: FindingLine, event: KeyboardEvent): void {
  if (isTyping(event.target) || event.ctrlKey || event.metaKey || event.altKey || !props.editable) return
  if (event.key === 'f' && finding.fix) emit('fix', finding)
  else if (event.key === 'l' && finding.kind !== 'unfinished') begin(finding)
  else return
  event.preventDefault()
  event.stopPropagation()
}
</script>

<template>
  <div>
    <ul class="space-y-2" aria-label="Problems">
      <li
        v-for="finding in open"
        :key="idOf(finding)"
        class="border-b border-hair pb-2"
        tabindex="0"
        :data-finding="finding.kind"
        @keydown="key(finding, $event)"
      >
        <p class="flex items-baseline gap-2">
          <span class="mark" :class="MARKS[finding.severity]" aria-hidden="true" />
          <span class="min-w-0 flex-1 font-medium"
            ><NuxtLink
              v-if="named"
              :to="`/rules/${finding.ruleId}?look=preflight`"
              class="name-link font-serif text-[16px]"
              >{{ finding.ruleName }}</NuxtLink
            ><template v-if="named">: {{ finding.text }}</template
            ><button v-else type="button" class="text-left" @click="emit('look', finding)">
              {{ finding.text }}
            </button></span
          >
          <span
            class="flex-none text-[12px]"
            :class="
              finding.severity === 'error'
                ? 'text-brick'
                : finding.severity === 'warning'
                  ? 'text-saffron'
                  : 'text-ink2'
            "
            >{{ WORDS[finding.severity] }}</span
          >
        </p>
        <p class="quiet ml-5">{{ finding.why }}</p>
        <form
          v-if="letting === idOf(finding)"
          class="mt-1 ml-5 flex gap-2"
          @submit.prevent="letStand(finding)"
          @keydown.escape.stop="letting = null"
        >
          <input
            v-model="reason"
            class="entry flex-1 py-0.5!"
            maxlength="500"
            placeholder="Reason for accepting"
            aria-label="Reason for accepting"
            @vue:mounted="($event.el as HTMLElement).focus()"
          /><button class="button py-0.5!" type="submit">Accept</button>
        </form>
        <p v-else-if="editable" class="mt-0.5 ml-5 flex gap-4 text-[13px]">
          <button v-if="finding.fix" type="button" class="word" @click="emit('fix', finding)">
            Fix: {{ finding.fix.say }} <kbd>F</kbd>
          </button>
          <button
            v-if="finding.kind !== 'unfinished'"
            type="button"
            class="text-ink2 hover:text-ink"
            @click="begin(finding)"
          >
            Accept <kbd>L</kbd>
          </button>
        </p>
      </li>
    </ul>
    <section v-if="stands.length > 0" class="pt-3" aria-label="Accepted">
      <h2 class="part">Accepted</h2>
      <ul>
        <li v-for="finding in stands" :key="idOf(finding)" class="border-b border-hair py-1.5">
          <p>
            <NuxtLink v-if="named" :to="`/rules/${finding.ruleId}`" class="name-link font-serif">{{
              finding.ruleName
            }}</NuxtLink><template v-if="named">: </template>{{ finding.text }}
          </p>
          <p class="quiet">
            <i class="font-serif text-[15px]">{{ finding.accepted?.reason }}</i> · {{ finding.accepted?.person }},
            {{ sayInstant(finding.accepted?.atMs ?? 0, store.catalogue.workspace.zone) }}
            <button v-if="editable" type="button" class="word ml-2" @click="takeUp(finding)">Reopen</button>
          </p>
        </li>
      </ul>
    </section>
  </div>
</template>
