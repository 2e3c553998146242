<script setup lang="ts">
import LinkingScreen from '~/features/records/LinkingScreen.vue'
</script>

<template>
  <LinkingScreen />
</template>
