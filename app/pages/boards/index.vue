<script setup lang="ts">
import { useCatalogue } from '~/shared/stores/catalogue'

const store = useCatalogue()
// The pipeline with the most stages is the one people live in.
const [first] = [...store.catalogue.pipelines].sort((a, b) => b.stages.length - a.stages.length)
if (first) await navigateTo(`/boards/${first.id}`, { replace: true })
</script>

<template><p class="p-8">No pipelines yet. Create one under Fields.</p></template>
