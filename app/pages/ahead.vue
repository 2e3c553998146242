<script setup lang="ts">
import AheadScreen from '~/features/ahead/AheadScreen.vue'
</script>

<template>
  <AheadScreen />
</template>
