<script setup lang="ts">
import MessageSettingsScreen from '~/features/messages/MessageSettingsScreen.vue'
</script>

<template>
  <MessageSettingsScreen />
</template>
