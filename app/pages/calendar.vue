<script setup lang="ts">
import CalendarScreen from '~/features/calendar/CalendarScreen.vue'
</script>

<template>
  <CalendarScreen />
</template>
