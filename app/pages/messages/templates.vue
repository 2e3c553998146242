<script setup lang="ts">
import TemplatesScreen from '~/features/messages/TemplatesScreen.vue'
</script>

<template>
  <TemplatesScreen />
</template>
