<script setup lang="ts">
import CasesScreen from '~/features/rehearsal/CasesScreen.vue'
</script>

<template>
  <CasesScreen />
</template>
