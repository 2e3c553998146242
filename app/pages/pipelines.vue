<script setup lang="ts">
import PipelinesScreen from '~/features/fields/PipelinesScreen.vue'
</script>

<template>
  <PipelinesScreen />
</template>
