<script setup lang="ts">
import OverviewScreen from '~/features/watch/OverviewScreen.vue'
</script>

<template>
  <OverviewScreen />
</template>
