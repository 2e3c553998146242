<script setup lang="ts">
import { addDays, startOfDate } from '#core/time/dates'
import type { UndoSurvey } from '~~/server/engine/undo'
import { send, attempt } from '~/shared/api/api'
import AppDialog from '~/shared/dialog/AppDialog.vue'
import { useCatalogue } from '~/shared/stores/catalogue'

/** Takes back what a rule did in a period: first what that would do. */
const props = defineProps<{ ruleId: number }>()
const emit = defineEmits<{ close: []; begun: [] }>()
const store = useCatalogue()
const zone = store.catalogue.workspace.zone
const today = store.today
const from = ref(today)
const to = ref(today)
const survey = shallowRef<UndoSurvey | null>(null)
const period = computed(() => ({
  fromMs: startOfDate(from.value, zone),
  toMs: startOfDate(addDays(to.value, 1), zone),
}))
const fits = computed(() => from.value !== '' && to.value !== '' && from.value <= to.value)
let asked = 0
async function look(): Promise<void> {
  const mine = ++asked
  survey.value = null
  if (!fits.value) return
  const found = await attempt(() =>
    send<UndoSurvey>('POST', `/api/v1/rules/${props.ruleId}/undo/preview`, period.value),
  )
  if (mine === asked) survey.value = found
}
watch([from, to], look, { immediate: true })
async function go(): Promise<void> {
  if (await attempt(() => send('POST', `/api/v1/rules/${props.ruleId}/undo`, period.value))) emit('begun')
}
const n = (count: number, word: string): string => `${count.toLocaleString('en')} ${word}${count === 1 ? '' : 's'}`
</script>

<template>
  <AppDialog title="Take back what it did" @close="emit('close')">
    <p class="mt-2 flex items-center gap-2">
      from
      <input v-model="from" type="date" class="entry" aria-label="First day" data-first />
      to <input v-model="to" type="date" class="entry" aria-label="Last day" />
    </p>
    <p v-if="!fits" class="mt-2 text-brick">The first day comes after the last.</p>
    <div v-else-if="survey" class="mt-2" aria-live="polite">
      <p v-if="survey.runs === 0">It did nothing then that is not taken back already.</p>
      <template v-else>
        <p>
          <b>{{ n(survey.undone, 'run') }}</b> of {{ survey.runs.toLocaleString('en') }} would be taken back:
          {{ n(survey.fields, 'value') }} put back, {{ n(survey.tasks, 'task') }} withdrawn<template
            v-if="survey.links > 0"
            >, {{ n(survey.links, 'link') }} put back</template
          ><template v-if="survey.records > 0">, {{ n(survey.records, 'record') }} deleted again</template>.
        </p>
        <template v-if="survey.leftCount > 0"
          ><p class="mt-2 text-saffron">
            {{ n(survey.leftCount, 'thing') }} {{ survey.leftCount === 1 ? 'stays' : 'stay' }}, because something newer
            stands there or it has left the house:
          </p>
          <ul class="quiet max-h-36 overflow-auto">
            <li v-for="(one, i) in survey.left" :key="i">{{ one.name }}: {{ one.what }}</li>
          </ul></template
        >
        <p class="quiet mt-2">No rule looks at these changes.</p>
      </template>
    </div>
    <p v-else class="quiet mt-2">Looking …</p>
    <div class="mt-4 flex gap-2">
      <button type="button" class="button main" :disabled="!survey || survey.undone === 0" @click="go">Take back</button
      ><button type="button" class="button" @click="emit('close')">Not now</button>
    </div>
  </AppDialog>
</template>
