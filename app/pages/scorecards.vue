<script setup lang="ts">
import ScorecardsScreen from '~/features/fields/ScorecardsScreen.vue'
</script>

<template>
  <ScorecardsScreen />
</template>
