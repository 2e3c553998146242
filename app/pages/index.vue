<script setup lang="ts">
import { useCatalogue } from '~/shared/stores/catalogue'

// Who sells begins with what is to be done today; who builds rules, with those.
const role = useCatalogue().me?.role
await navigateTo(role === 'owner' ? '/day-sheet' : '/rules', { replace: true })
</script>

<template><div /></template>
