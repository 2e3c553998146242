<script setup lang="ts">
import RecordsScreen from '~/features/records/RecordsScreen.vue'
</script>

<template>
  <RecordsScreen />
</template>
