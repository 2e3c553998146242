<script setup lang="ts">
import StorageScreen from '~/features/data/StorageScreen.vue'
</script>

<template>
  <StorageScreen />
</template>
