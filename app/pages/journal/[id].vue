<script setup lang="ts">
import RunScreen from '~/features/journal/RunScreen.vue'
</script>

<template>
  <RunScreen />
</template>
