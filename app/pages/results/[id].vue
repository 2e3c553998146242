<script setup lang="ts">
import RuleResultsScreen from '~/features/results/RuleResultsScreen.vue'
</script>

<template>
  <RuleResultsScreen />
</template>
