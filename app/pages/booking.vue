<script setup lang="ts">
import BookingScreen from '~/features/people/BookingScreen.vue'
</script>

<template>
  <BookingScreen />
</template>
