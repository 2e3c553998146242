<script setup lang="ts">
import RulesScreen from '~/features/rules/RulesScreen.vue'
</script>

<template>
  <RulesScreen />
</template>
