<script setup lang="ts">
import HoursScreen from '~/features/people/HoursScreen.vue'
</script>

<template>
  <HoursScreen />
</template>
