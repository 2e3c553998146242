<script setup lang="ts">
import TerritoriesScreen from '~/features/people/TerritoriesScreen.vue'
</script>

<template>
  <TerritoriesScreen />
</template>
