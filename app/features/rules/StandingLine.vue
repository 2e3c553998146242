<script setup lang="ts">
import { count, figure, listOf, plural } from '#core/language/counts'
import type { AnswerOf } from '~/shared/live/useLiveQuery'
import { send } from '~/shared/api/api'
import type { RuleDraft } from './useRuleDraft'

/** Beside the sheet: of the records that stand already in what the triggers watch, how many meet the conditions. */
const props = defineProps<{ draft: RuleDraft }>()
const SPAN_DAYS = 30
const found = shallowRef<AnswerOf<'/api/v1/rules/:id/existing'> | null>(null)
const document = computed(() => props.draft.document.value)
let asked = 0
async function look(): Promise<void> {
  const mine = ++asked
  const told = await send<AnswerOf<'/api/v1/rules/:id/existing'>>('POST', '/api/v1/evidence/standing', {
    document: document.value,
    passedDays: SPAN_DAYS,
  }).catch(() => null)
  if (mine === asked && told) found.value = told
}
// It is asked once the evidence is there: that is what she waits for.
watch(() => props.draft.evidence.value, look)
onMounted(look)
</script>

<template>
  <p v-if="found && found.says.length > 0" class="quiet mt-2" data-standing aria-live="polite">
    Already there: {{ count(found.standing, document.object) }} {{ listOf(found.says, 'or')
    }}<template v-if="found.passed"> in the last {{ SPAN_DAYS }} days</template
    ><template v-if="document.conditions.items.length > 0 && found.standing > 0"
      >; {{ figure(found.matching) }} {{ plural(found.matching, 'meets', 'meet') }} the conditions</template
    >.
  </p>
</template>
