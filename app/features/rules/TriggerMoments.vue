<script setup lang="ts">
import { count, plural } from '#core/language/counts'
import type { ObjectKind } from '#core/records/kinds'
import { sayInstant } from '#core/time/say'
import type { ClockEvidence } from '~~/server/views/evidence'
import { recordPath } from '~/shared/paths'
import { useCatalogue } from '~/shared/stores/catalogue'

/** Beside a trigger that goes by the clock: its next moments on real records, and what has its moment behind it. */
defineProps<{ triggerId: string; object: ObjectKind; clock: ClockEvidence }>()
const store = useCatalogue()
const all = ref(false)
</script>

<template>
  <div class="mb-1 border-l-2 border-saffron pl-3 text-[13px]" :data-moments="triggerId">
    <p class="quiet">
      {{ clock.moments.length === 0 ? 'No upcoming times for your records.' : 'Next:' }}
      <template v-for="(one, m) in clock.moments.slice(0, all ? 10 : 3)" :key="`${one.atMs} ${one.id}`"
        ><template v-if="m">; </template>{{ sayInstant(one.atMs, store.catalogue.workspace.zone)
        }}<template v-if="one.id !== null"
          >{{ ' '
          }}<NuxtLink :to="recordPath({ object: object, id: one.id })" class="word">{{ one.name }}</NuxtLink></template
        ><template v-else-if="object !== 'none'">, for {{ count(one.count ?? 0, object) }}</template></template
      >{{ ' ' }}
      <button v-if="clock.moments.length > 3" type="button" class="word ml-1" @click="all = !all">
        {{ all ? 'Show fewer' : `Show next ${clock.moments.length}` }}
      </button>
    </p>
    <p v-if="clock.looked > 0" class="quiet">
      Of {{ count(clock.looked, object) }} that {{ plural(clock.looked, 'meets', 'meet') }} the conditions,
      {{ clock.coming }}
      {{ plural(clock.coming, 'is', 'are') }} still to come<template v-if="clock.passed > 0"
        >,
        <b class="font-semibold text-saffron"
          >{{ clock.passed }} {{ plural(clock.passed, 'is', 'are') }} already past (the rule won’t run for
          {{ plural(clock.passed, 'it', 'these') }})</b
        ></template
      ><template v-if="clock.empty > 0">, {{ clock.empty }} {{ plural(clock.empty, 'has', 'have') }} no date</template>.
    </p>
  </div>
</template>
