<script setup lang="ts">
import MailboxesScreen from '~/features/messages/MailboxesScreen.vue'
</script>

<template>
  <MailboxesScreen />
</template>
