<script setup lang="ts">
await navigateTo('/records/deals', { replace: true })
</script>

<template><div /></template>
