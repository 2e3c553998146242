<script setup lang="ts">
import RehearsalScreen from '~/features/rehearsal/RehearsalScreen.vue'
</script>

<template>
  <RehearsalScreen />
</template>
