<script setup lang="ts">
import DataScreen from '~/features/data/DataScreen.vue'
</script>

<template>
  <DataScreen />
</template>
