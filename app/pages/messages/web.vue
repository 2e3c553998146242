<script setup lang="ts">
import WebScreen from '~/features/messages/WebScreen.vue'
</script>

<template>
  <WebScreen />
</template>
