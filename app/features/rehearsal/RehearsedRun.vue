<script setup lang="ts">
import { stateTone, STATE_WORDS } from '~/shared/run/tones'
import { sayInstant } from '#core/time/say'
import type { RehearsedSheet } from '#core/rehearsal/result'
import { useKeys } from '~/shared/keys/useKeys'
import { useCatalogue } from '~/shared/stores/catalogue'
import RunSheet from '~/shared/run/RunSheet.vue'
import RefLink from '~/shared/record/RefLink.vue'

/** One record's way through the sheet, step by step, with every text as it would read. */
const { sheet } = defineProps<{ sheet: RehearsedSheet }>()
const emit = defineEmits<{ close: []; next: [by: 1 | -1] }>()
const store = useCatalogue()
const zone = computed(() => store.catalogue.workspace.zone)
/** The lines at which something was done, in their order. */
const stops = computed(() =>
  sheet.lines.flatMap((line, i) => (line.state !== null && line.category !== null ? [i] : [])),
)
const at = ref(Infinity)
watch(
  () => sheet.run.id,
  () => {
    at.value = Infinity
  },
)
const reached = computed(() => (at.value === Infinity ? stops.value.length : at.value))
const until = computed(() =>
  reached.value >= stops.value.length ? Infinity : reached.value === 0 ? 0 : (stops.value[reached.value - 1] ?? 0) + 1,
)
const nowMs = computed(() =>
  reached.value === 0 ? sheet.run.atMs : (sheet.lines[stops.value[reached.value - 1] ?? 0]?.atMs ?? sheet.run.atMs),
)
const told = computed(() =>
  sheet.texts.filter((text) => reached.value >= stops.value.length || (reached.value > 0 && text.atMs <= nowMs.value)),
)
function step(by: 1 | -1): void {
  at.value = Math.max(0, Math.min(stops.value.length, reached.value + by))
}
const WHAT = { task: 'Task for', mail: 'Email to', text: 'Text message to', notice: 'Notification to' } as const
useKeys({
  ArrowRight: () => step(1),
  ArrowLeft: () => step(-1),
  j: () => emit('next', 1),
  k: () => emit('next', -1),
  Escape: () => emit('close'),
})
</script>

<template>
  <section aria-label="Step by step" data-way>
    <p class="flex items-baseline gap-3">
      <RefLink :of="sheet.run.ref" class="name-link font-serif text-[20px]">{{ sheet.run.recordName }}</RefLink><span
        class="rounded-sm border px-1.5 text-[13px] font-semibold"
        :class="stateTone(sheet.run.state)"
        >{{ STATE_WORDS[sheet.run.state] }}</span
      ><button type="button" class="button ml-auto py-0.5!" @click="emit('close')">Back <kbd>Esc</kbd></button>
    </p>
    <p class="quiet">{{ sheet.run.ruleName }}</p>
    <p class="my-2 flex flex-wrap items-center gap-2 border-y border-hair py-1.5 text-[13px]">
      <button
        type="button"
        class="button py-0.5!"
        aria-label="Previous step"
        :disabled="reached === 0"
        @click="step(-1)"
      >
        ←</button
      ><span class="tabular-nums" aria-live="polite"
        ><template v-if="reached === 0">Start, </template
        ><template v-else>Step {{ reached }} of {{ stops.length }}, </template
        ><b class="font-medium text-saffron">{{ sayInstant(nowMs, zone) }}</b></span
      ><button
        type="button"
        class="button py-0.5!"
        aria-label="Next step"
        :disabled="reached === stops.length"
        @click="step(1)"
      >
        →</button
      ><span class="ml-auto"><kbd>J</kbd> <kbd>K</kbd> next, previous record</span>
    </p>
    <RunSheet
      :triggers="sheet.triggers"
      :because="sheet.run.because"
      :doer="null"
      :mode="sheet.mode"
      :seen="sheet.seen"
      :state="sheet.run.state"
      :lines="sheet.lines"
      :until="until"
      timed
    />
    <p v-if="sheet.run.stop && reached === stops.length" class="mt-2 rounded-[3px] bg-paper px-3 py-2">
      <span class="mark stop mr-2" aria-hidden="true" />{{ STATE_WORDS[sheet.run.state] }}: {{ sheet.run.stop }}.
    </p>
    <template v-if="told.length > 0">
      <h2 class="mt-4 text-[17px]!">Preview of texts</h2>
      <article
        v-for="(text, i) in told"
        :key="i"
        class="mt-2 border-l-2 pl-3"
        :class="text.what === 'mail' || text.what === 'text' ? 'border-slate' : 'border-moss'"
      >
        <p class="quiet">{{ WHAT[text.what] }} {{ text.to }}, {{ sayInstant(text.atMs, zone) }}</p>
        <p class="font-serif text-[17px]">{{ text.subject }}</p>
        <p v-if="text.body" class="whitespace-pre-line">{{ text.body }}</p>
      </article>
    </template>
  </section>
</template>
