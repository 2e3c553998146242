<script setup lang="ts">
import SuggestionsScreen from '~/features/watch/SuggestionsScreen.vue'
</script>

<template>
  <SuggestionsScreen />
</template>
