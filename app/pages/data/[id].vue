<script setup lang="ts">
import ImportScreen from '~/features/data/ImportScreen.vue'
</script>

<template>
  <ImportScreen />
</template>
