<script setup lang="ts">
import WebsiteScreen from '~/features/data/WebsiteScreen.vue'
</script>

<template>
  <WebsiteScreen />
</template>
