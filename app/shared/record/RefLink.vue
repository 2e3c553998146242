<script setup lang="ts">
import type { RecordRef } from '#core/records/kinds'
import { recordPath } from '~/shared/paths'

/** A record's name that leads to its page; a plain word where a rule was about no record. */
defineOptions({ inheritAttrs: false })
const props = defineProps<{ of: RecordRef }>()
</script>

<template>
  <span v-if="props.of.object === 'none'" class="quiet"><slot /></span>
  <NuxtLink v-else v-bind="$attrs" :to="recordPath(props.of)"><slot /></NuxtLink>
</template>
