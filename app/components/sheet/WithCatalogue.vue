<script setup lang="ts">
import type { Catalogue } from '#core/fields/catalogue'

/** Gives whatever stands inside another catalogue than the workspace's own. */
const props = defineProps<{ catalogue: Catalogue }>()
provide(HERE, toRef(props, 'catalogue'))
</script>

<template><slot /></template>
