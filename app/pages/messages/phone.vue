<script setup lang="ts">
import PhoneScreen from '~/features/messages/PhoneScreen.vue'
</script>

<template>
  <PhoneScreen />
</template>
