<script setup lang="ts">
import { useCatalogue } from '~/shared/stores/catalogue'

// Who sells begins with what is to be done today; who looks after rules, with what needs them.
const role = useCatalogue().me?.role
await navigateTo(role === 'owner' ? '/day-sheet' : '/overview', { replace: true })
</script>

<template><div /></template>
