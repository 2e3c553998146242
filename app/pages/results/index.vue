<script setup lang="ts">
import ResultsScreen from '~/features/results/ResultsScreen.vue'
</script>

<template>
  <ResultsScreen />
</template>
