<script setup lang="ts">
import ActivityKindsScreen from '~/features/fields/ActivityKindsScreen.vue'
</script>

<template>
  <ActivityKindsScreen />
</template>
