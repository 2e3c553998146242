<script setup lang="ts">
import ProblemsScreen from '~/features/watch/ProblemsScreen.vue'
</script>

<template>
  <ProblemsScreen />
</template>
