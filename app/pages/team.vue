<script setup lang="ts">
import TeamScreen from '~/features/watch/TeamScreen.vue'
</script>

<template>
  <TeamScreen />
</template>
