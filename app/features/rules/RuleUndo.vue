<script setup lang="ts">
import { count, figure, plural } from '#core/language/counts'
import { addDays, startOfDate } from '#core/time/dates'
import type { UndoSurvey } from '~~/server/engine/undo'
import { send, attempt } from '~/shared/api/api'
import { once } from '~/shared/api/once'
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
const go = once(async (): Promise<void> => {
  if (await attempt(() => send('POST', `/api/v1/rules/${props.ruleId}/undo`, period.value))) emit('begun')
})
</script>

<template>
  <AppDialog title="Undo what this rule did" @close="emit('close')">
    <p class="mt-2 flex items-center gap-2">
      From <input v-model="from" type="date" class="entry" aria-label="From" data-first /> to
      <input v-model="to" type="date" class="entry" aria-label="To" />
    </p>
    <p v-if="!fits" class="mt-2 text-brick">The start date is after the end date.</p>
    <div v-else-if="survey" class="mt-2" aria-live="polite">
      <p v-if="survey.runs === 0">Nothing to undo in this period.</p>
      <template v-else>
        <p>
          <b>{{ figure(survey.undone) }}</b> of {{ count(survey.runs, 'run') }} can be undone:
          {{ count(survey.fields, 'value') }} restored, {{ count(survey.tasks, 'task') }} withdrawn<template
            v-if="survey.links > 0"
            >, {{ count(survey.links, 'link') }} restored</template
          ><template v-if="survey.records > 0">, {{ count(survey.records, 'record') }} deleted</template>.
        </p>
        <template v-if="survey.leftCount > 0"
          ><p class="mt-2 text-saffron">
            {{ count(survey.leftCount, 'change') }} {{ plural(survey.leftCount, 'stays', 'stay') }}, because there is a
            newer change or something was already sent:
          </p>
          <ul class="quiet max-h-36 overflow-auto">
            <li v-for="(one, i) in survey.left" :key="i">{{ one.name }}: {{ one.what }}</li>
          </ul></template
        >
        <p class="quiet mt-2">Rules don’t run because of an undo.</p>
      </template>
    </div>
    <p v-else class="quiet mt-2">Loading…</p>
    <div class="mt-4 flex gap-2">
      <button type="button" class="button main" :disabled="!survey || survey.undone === 0" @click="go">Undo</button
      ><button type="button" class="button" @click="emit('close')">Cancel</button>
    </div>
  </AppDialog>
</template>
