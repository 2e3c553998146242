<script setup lang="ts">
import type { Catalogue } from '#core/fields/catalogue'
import { HERE } from '~/shared/words/useHere'

/** Gives whatever stands inside another catalogue than the workspace's own. */
const props = defineProps<{ catalogue: Catalogue }>()
provide(HERE, toRef(props, 'catalogue'))
</script>

<template><slot /></template>
