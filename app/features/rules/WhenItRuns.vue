<script setup lang="ts">
import { count, plural } from '#core/language/counts'
import { sayTrigger } from '#core/rules/describe'
import type { RuleDocument } from '#core/rules/document'
import { TRIGGERS } from '#core/rules/triggers'
import { sayInstant } from '#core/time/say'
import type { Evidence } from '~~/server/views/evidence'
import { useCatalogue } from '~/shared/stores/catalogue'

/**
 * Each trigger as what it is: one by what happens with how often it did lately, one of the clock with when it is next.
 */
const props = defineProps<{ rule: RuleDocument; evidence: Evidence | null }>()
const store = useCatalogue()
const zone = computed(() => store.catalogue.workspace.zone)
const lines = computed(() =>
  props.rule.triggers.map((one) => ({
    id: one.id,
    kind: one.kind,
    say: capital(sayTrigger(one, { catalogue: store.catalogue, object: props.rule.object })),
    next: TRIGGERS[one.kind].byClock ? (props.evidence?.clocks[one.id]?.moments[0] ?? null) : null,
  })),
)
const capital = (text: string): string => text.charAt(0).toUpperCase() + text.slice(1)
</script>

<template>
  <ul class="mt-2 space-y-1" data-when>
    <li v-for="one in lines" :key="one.id">
      <b class="font-semibold">{{ one.say }}</b>:
      <template v-if="one.next"
        >next on {{ sayInstant(one.next.atMs, zone)
        }}<template v-if="rule.object !== 'none'"
          >, for <b>{{ one.next.id === null ? count(one.next.count ?? 0, rule.object) : one.next.name }}</b></template
        ></template
      ><template v-else-if="TRIGGERS[one.kind].byClock">no time ahead for any record</template
      ><template v-else-if="one.kind === 'byHand'">whenever someone runs it</template
      ><template v-else
        ><b>{{ count(evidence?.started[one.id] ?? 0, 'time') }}</b> in the last 30 days</template
      >.
    </li>
    <li v-if="evidence && rule.conditions.items.length > 0" class="quiet">
      {{ count(evidence.matched, rule.object) }} of {{ evidence.total.toLocaleString('en') }}
      {{ plural(evidence.matched, 'meets', 'meet') }} its conditions today.
    </li>
  </ul>
</template>
