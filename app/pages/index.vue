<script setup lang="ts">
await navigateTo('/day-sheet', { replace: true })
</script>

<template><div /></template>
