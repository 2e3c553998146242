<script setup lang="ts">
import { count, figure, listOf, plural } from '#core/language/counts'
import { OBJECT_WORDS, type ObjectKind } from '#core/records/kinds'
import type { AnswerOf } from '~/shared/live/useLiveQuery'

/** Whether the rule runs at once for what stands already in what it watches. */
const props = defineProps<{
  existing: AnswerOf<'/api/v1/rules/:id/existing'>
  object: ObjectKind
  /** What they are left alone until, where nothing stands. */
  by: string
  /** Whether the rule has conditions. */
  asks: boolean
}>()
const left = computed(() => Math.max(0, props.existing.matching - (again.value ? 0 : props.existing.already)))
const backfill = defineModel<boolean>('backfill', { required: true })
const again = defineModel<boolean>('again', { required: true })
const passedDays = defineModel<number>('passedDays', { required: true })
</script>

<template>
  <div class="mt-2" data-existing>
    <p v-if="existing.says.length === 0">
      Existing {{ OBJECT_WORDS[object].many }} are left alone{{ by }}.
      <span class="quiet"
        >To run it for some of them, filter the list of
        <NuxtLink :to="`/records/${object}`" class="word">{{ OBJECT_WORDS[object].many }}</NuxtLink> and choose Run a
        rule…</span
      >
    </p>
    <template v-else>
      <label class="flex items-baseline gap-2"
        ><input v-model="backfill" type="checkbox" data-through :disabled="existing.matching === 0" /><span
          >Also run it now for <b>{{ figure(left) }}</b> of {{ count(existing.standing, object) }}
          {{ listOf(existing.says, 'or')
          }}<template v-if="existing.passed">
            in the last
            <input
              v-model.number.lazy="passedDays"
              type="number"
              min="1"
              max="366"
              class="entry w-16"
              aria-label="Days back"
            />
            {{ plural(passedDays, 'day', 'days') }}</template
          ><template v-if="asks"> (those that meet its conditions)</template></span
        ></label
      >
      <label v-if="backfill && existing.already > 0" class="mt-1 ml-6 flex items-baseline gap-2"
        ><input v-model="again" type="checkbox" data-again /><span
          >Include the <b>{{ figure(existing.already) }}</b> it already ran for</span
        ></label
      >
    </template>
  </div>
</template>
