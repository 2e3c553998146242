<script setup lang="ts">
import RecordScreen from '~/features/records/RecordScreen.vue'
</script>

<template>
  <RecordScreen />
</template>
