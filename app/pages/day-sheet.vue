<script setup lang="ts">
import DaySheetScreen from '~/features/day-sheet/DaySheetScreen.vue'
</script>

<template>
  <DaySheetScreen />
</template>
