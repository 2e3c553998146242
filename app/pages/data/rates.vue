<script setup lang="ts">
import RatesScreen from '~/features/data/RatesScreen.vue'
</script>

<template>
  <RatesScreen />
</template>
