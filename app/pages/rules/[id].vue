<script setup lang="ts">
import RuleScreen from '~/features/rules/RuleScreen.vue'
</script>

<template>
  <RuleScreen />
</template>
